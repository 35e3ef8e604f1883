import { isCompared } from '@/core/checks/comparing';
import { checkNames, isCheckName, issueTitle } from '@/core/checks/messages';
import type { Condition, ConditionFact, Operator, Standing, Test } from '@/core/conditions/conditions';
import { comparingOperators, standings, unaryOperators } from '@/core/conditions/conditions';

export const operatorWords: Readonly<Record<Operator, string>> = {
  empty: 'is empty',
  filled: 'is filled',
  equals: 'is',
  differs: 'is not',
  oneOf: 'is one of',
  contains: 'contains',
  lacks: 'does not contain',
  startsWith: 'begins with',
  endsWith: 'ends with',
  moreThan: 'is more than',
  lessThan: 'is less than',
  between: 'is between',
  before: 'is before',
  after: 'is after',
  longerThan: 'is longer than',
  shorterThan: 'is shorter than',
  matches: 'matches the pattern',
  sameAs: 'is the same as',
  differsFrom: 'differs from',
};

/** What was found of a listing, as a condition names it. */
export const factWords: Readonly<Record<ConditionFact, string>> = {
  pictures: 'Number of pictures',
  pictureWidth: 'Main picture’s width, px',
  pictureHeight: 'Main picture’s height, px',
  pictureFormat: 'Main picture’s format',
  pictureBorder: 'Main picture’s white border, %',
  pictureReadable: 'Main picture can be read',
  issues: 'Issues it has',
  standing: 'At the channel',
};

/** What may be asked of issues, and how it is said. */
const issueOperators: ReadonlyMap<Operator, string> = new Map([
  ['equals', 'include'],
  ['differs', 'do not include'],
  ['oneOf', 'include one of'],
  ['filled', 'are any'],
  ['empty', 'are none'],
]);

const standingOperators: ReadonlyMap<Operator, string> = new Map([
  ['equals', 'is'],
  ['differs', 'is not'],
]);
const standingWords: Readonly<Record<Standing, string>> = {
  new: 'not there yet',
  there: 'there',
  refused: 'refused',
  back: 'taken back',
};

/** An issue as a condition names it: by its check, of any field or of one. */
const issueName = (key: string, fieldOf: (code: string) => string): string => {
  const [check = '', field] = key.split(':');
  return isCheckName(check) ? issueTitle(check, field === undefined ? 'A field' : fieldOf(field)) : key;
};

/** Every check on a listing by itself, with what it says of any field, by those words. */
const checkChoices: readonly (readonly [code: string, words: string])[] = checkNames
  .filter((name) => !isCompared(name))
  .map((name) => [name, issueName(name, (code) => code)] as const)
  .sort(([, a], [, b]) => a.localeCompare(b));

/** Facts whose values are chosen among some, with how they may be compared. */
export interface ChosenFact {
  readonly operators: ReadonlyMap<Operator, string>;
  readonly choices: readonly (readonly [code: string, words: string])[];
  /** Of the field in which one is chosen, in pixels. */
  readonly width: number;
  words(key: string, fieldOf: (code: string) => string): string;
}
export const chosenFacts: Partial<Record<ConditionFact, ChosenFact>> = {
  issues: { operators: issueOperators, choices: checkChoices, width: 190, words: issueName },
  standing: {
    operators: standingOperators,
    choices: standings.map((one) => [one, standingWords[one]] as const),
    width: 110,
    words: (key) => standings.flatMap((one) => (one === key ? standingWords[one] : []))[0] ?? key,
  },
};

type LabelOf = (kind: 'attribute' | 'field', code: string) => string;

function testWords(test: Test, labelOf: LabelOf): string {
  const subject =
    test.fact !== undefined
      ? factWords[test.fact]
      : test.attribute !== undefined
        ? labelOf('attribute', test.attribute)
        : labelOf('field', test.field ?? '');
  if (comparingOperators.has(test.is)) {
    const other = labelOf(test.attribute !== undefined ? 'attribute' : 'field', String(test.value ?? ''));
    return `${subject} ${operatorWords[test.is]} ${other}`;
  }
  const list = Array.isArray(test.value) ? test.value : [test.value ?? ''];
  const chosen = test.fact && chosenFacts[test.fact];
  const named = chosen ? list.map((key) => chosen.words(key, (code) => labelOf('field', code))) : list;
  const value = named.join(test.is === 'between' ? ' and ' : ', ');
  const compares = chosen?.operators.get(test.is) ?? operatorWords[test.is];
  return `${subject} ${compares}${unaryOperators.has(test.is) ? '' : ` “${value}”`}`;
}

/** A condition in words. */
export function conditionWords(condition: Condition, labelOf: LabelOf): string {
  const inner = (one: Condition): string => {
    const words = conditionWords(one, labelOf);
    return ('all' in one && one.all.length > 1) || ('any' in one && one.any.length > 1)
      ? `(${words})`
      : words;
  };
  if ('all' in condition)
    return condition.all.length === 0 ? 'always' : condition.all.map(inner).join(' and ');
  if ('any' in condition) return condition.any.map(inner).join(' or ');
  if ('not' in condition) return `not (${conditionWords(condition.not, labelOf)})`;
  if ('under' in condition) return `category within ${condition.under.join(', ')}`;
  if ('country' in condition) return `country is ${condition.country.join(', ')}`;
  return testWords(condition, labelOf);
}
