import { isCompared } from '@/core/checks/comparing';
import { checkNames, isCheckName, issueTitle } from '@/core/checks/messages';
import type { ChannelStatus, Condition, ConditionFact, Operator, Test } from '@/core/conditions/conditions';
import { channelStatuses, comparingOperators, unaryOperators } from '@/core/conditions/conditions';

export const operatorLabels: Readonly<Record<Operator, string>> = {
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
export const factLabels: Readonly<Record<ConditionFact, string>> = {
  pictures: 'Number of pictures',
  pictureWidth: 'Main picture’s width, px',
  pictureHeight: 'Main picture’s height, px',
  pictureFormat: 'Main picture’s format',
  pictureBorder: 'Main picture’s white border, %',
  pictureReadable: 'Main picture can be read',
  issues: 'Issues',
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

const channelStatusOperators: ReadonlyMap<Operator, string> = new Map([
  ['equals', 'is'],
  ['differs', 'is not'],
]);
const channelStatusLabels: Readonly<Record<ChannelStatus, string>> = {
  new: 'not there yet',
  there: 'there',
  refused: 'rejected',
  back: 'withdrawn',
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
    operators: channelStatusOperators,
    choices: channelStatuses.map((one) => [one, channelStatusLabels[one]] as const),
    width: 110,
    words: (key) => channelStatuses.flatMap((one) => (one === key ? channelStatusLabels[one] : []))[0] ?? key,
  },
};

type LabelOf = (kind: 'attribute' | 'field', code: string) => string;

function testText(test: Test, labelOf: LabelOf): string {
  const subject =
    test.fact !== undefined
      ? factLabels[test.fact]
      : test.attribute !== undefined
        ? labelOf('attribute', test.attribute)
        : labelOf('field', test.field ?? '');
  if (comparingOperators.has(test.is)) {
    const other = labelOf(test.attribute !== undefined ? 'attribute' : 'field', String(test.value ?? ''));
    return `${subject} ${operatorLabels[test.is]} ${other}`;
  }
  const list = Array.isArray(test.value) ? test.value : [test.value ?? ''];
  const chosen = test.fact && chosenFacts[test.fact];
  const named = chosen ? list.map((key) => chosen.words(key, (code) => labelOf('field', code))) : list;
  const value = named.join(test.is === 'between' ? ' and ' : ', ');
  const compares = chosen?.operators.get(test.is) ?? operatorLabels[test.is];
  return `${subject} ${compares}${unaryOperators.has(test.is) ? '' : ` “${value}”`}`;
}

/** A condition in words. */
export function conditionText(condition: Condition, labelOf: LabelOf): string {
  const inner = (one: Condition): string => {
    const words = conditionText(one, labelOf);
    return ('all' in one && one.all.length > 1) || ('any' in one && one.any.length > 1)
      ? `(${words})`
      : words;
  };
  if ('all' in condition)
    return condition.all.length === 0 ? 'always' : condition.all.map(inner).join(' and ');
  if ('any' in condition) return condition.any.map(inner).join(' or ');
  if ('not' in condition) return `not (${conditionText(condition.not, labelOf)})`;
  if ('under' in condition) return `category within ${condition.under.join(', ')}`;
  if ('country' in condition) return `country is ${condition.country.join(', ')}`;
  return testText(condition, labelOf);
}
