import { z } from 'zod';
import { startingAttributes } from '../catalog/attributes';
import { termFinder } from '../catalog/terms';
import { type AttributeIndex, asList, asText, attributeReader, type Row, type Value } from '../catalog/value';
import { readYesNo } from '../locale/yesNo';
import { readDate } from '../measures/dates';
import { readNumber } from '../measures/numbers';
import { characterLength } from '../text/length';
import { compilePattern, patternTrouble } from '../text/pattern';

/**
 * One condition language for requirement sheets ("must here"), scopes and rules.
 * Texts are compared without regard to letter case; `moreThan`, `lessThan` and `between` (both ends included) compare numbers,
 * `before` and `after` dates, of which today is one; `matches` looks for a pattern anywhere in the text.
 */
export const operators = [
  'empty',
  'filled',
  'equals',
  'differs',
  'oneOf',
  'contains',
  'lacks',
  'startsWith',
  'endsWith',
  'moreThan',
  'lessThan',
  'between',
  'before',
  'after',
  'longerThan',
  'shorterThan',
  'matches',
  'sameAs',
  'differsFrom',
] as const;
export type Operator = (typeof operators)[number];

/** Operators that compare with another attribute or field of the same listing; their value is its code. */
export const comparingOperators: ReadonlySet<Operator> = new Set(['sameAs', 'differsFrom']);

/** Operators that stand alone, without a value to compare with. */
export const unaryOperators: ReadonlySet<Operator> = new Set(['empty', 'filled']);

/**
 * What a condition may ask of a listing besides its attributes and fields: the main picture as it was measured (sides in pixels,
 * the share of its border that is white in per cent, whether it can be read), how many pictures there are, the issues that the
 * listing has as it stands at that place, each by its check and by check and field ("length", "length:title"), and how it stands
 * at the channel as far as that has answered ({@link channelStatuses}).
 */
export const conditionFacts = [
  'pictures',
  'pictureWidth',
  'pictureHeight',
  'pictureFormat',
  'pictureBorder',
  'pictureReadable',
  'issues',
  'standing',
] as const;
export type ConditionFact = (typeof conditionFacts)[number];

/**
 * How a listing may stand at the channel: it is there; what was sent last was refused; it was there and was taken back; or none of
 * these. What was accepted and then refused in a newer form is there and refused.
 */
export const channelStatuses = ['new', 'there', 'refused', 'back'] as const;
export type ChannelStatus = (typeof channelStatuses)[number];

const operand = z.union([z.string(), z.array(z.string())]).optional();
const testSchema = z
  .strictObject({
    attribute: z.string().optional().meta({ description: 'attribute of the item' }),
    field: z.string().optional().meta({ description: 'field of the listing, after mapping' }),
    fact: z.enum(conditionFacts).optional().meta({ description: 'what was found of the listing' }),
    is: z.enum(operators),
    value: operand,
  })
  .refine(
    ({ attribute, field, fact }) => [attribute, field, fact].filter((one) => one !== undefined).length === 1,
    { message: 'names either an attribute, a field or a fact' },
  )
  .refine(({ fact, is }) => fact === undefined || !comparingOperators.has(is), {
    message: 'compares what was found with a value',
  })
  .superRefine(({ is, value }, context) => {
    const [text = ''] = asList(value);
    const trouble = is === 'matches' && text !== '' ? patternTrouble(text) : undefined;
    if (trouble) context.addIssue({ code: 'custom', path: ['value'], message: `the pattern ${trouble}` });
  });
export type Test = z.infer<typeof testSchema>;

export type Condition =
  | Test
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition }
  | { under: string[] }
  | { country: string[] };

export const conditionSchema: z.ZodType<Condition> = z
  .lazy(() =>
    z.union([
      testSchema,
      z.strictObject({ all: z.array(conditionSchema) }),
      z.strictObject({ any: z.array(conditionSchema) }),
      z.strictObject({ not: conditionSchema }),
      z
        .strictObject({ under: z.array(z.string()).min(1) })
        .meta({ description: "within one of these branches of the channel's tree" }),
      z.strictObject({ country: z.array(z.string().length(2)).min(1) }),
    ]),
  )
  .meta({ id: 'Condition' });

/** A condition that gathers others: all, any or none of them; undefined where it is a single one. */
export function groupOf(condition: Condition): { join: Join; of: Condition[] } | undefined {
  if ('all' in condition) return { join: 'all', of: condition.all };
  if ('any' in condition) return { join: 'any', of: condition.any };
  if ('not' in condition)
    return 'any' in condition.not
      ? { join: 'none', of: condition.not.any }
      : { join: 'none', of: [condition.not] };
  return undefined;
}
export type Join = 'all' | 'any' | 'none';

/** The other way round. */
export const joined = (join: Join, of: Condition[]): Condition =>
  join === 'all' ? { all: of } : join === 'any' ? { any: of } : { not: { any: of } };

/** What a compiled condition looks at: the item's attributes and the listing's fields, by slot. */
export type Predicate = (row: Row, values: readonly (Value | undefined)[]) => boolean;
/** Reads something of a listing. */
export type Reader = (row: Row, values: readonly (Value | undefined)[]) => Value | undefined;

/** What names in a condition stand for, in one feed. */
export interface ConditionScope {
  readonly index: AttributeIndex;
  /** The market's currency: amounts the catalog keeps in it come before others. */
  readonly currency?: string | undefined;
  readonly language?: string | undefined;
  readonly untranslated?: 'main' | 'nothing' | undefined;
  fieldAt(code: string): number | undefined;
  /** Whether the category a listing is placed in lies in a branch. */
  isUnder(category: string, branch: string): boolean;
  readonly categoryField: number | undefined;
  readonly country: string;
  /** Reads what was found of a listing; nothing was where left out. */
  readonly factReader?: (fact: ConditionFact) => Reader;
}

const always: Predicate = () => true;
const never: Predicate = () => false;

/** Compiles a condition. Names that the feed does not know read as empty. */
export function compileCondition(condition: Condition, scope: ConditionScope): Predicate {
  if ('all' in condition) {
    const parts = condition.all
      .map((part) => compileCondition(part, scope))
      .filter((part) => part !== always);
    if (parts.length === 0) return always;
    if (parts.includes(never)) return never;
    return (row, values) => {
      for (const part of parts) if (!part(row, values)) return false;
      return true;
    };
  }
  if ('any' in condition) {
    const parts = condition.any.map((part) => compileCondition(part, scope)).filter((part) => part !== never);
    if (parts.length === 0) return never;
    if (parts.includes(always)) return always;
    return (row, values) => {
      for (const part of parts) if (part(row, values)) return true;
      return false;
    };
  }
  if ('not' in condition) {
    const part = compileCondition(condition.not, scope);
    return part === always ? never : part === never ? always : (row, values) => !part(row, values);
  }
  if ('country' in condition) return condition.country.includes(scope.country) ? always : never;
  if ('under' in condition) {
    const at = scope.categoryField;
    if (at === undefined) return never;
    // Each category is looked up in the tree once; listings of one category share the answer.
    const known = new Map<string, boolean>();
    return (_row, values) => {
      const category = values[at];
      if (typeof category !== 'string') return false;
      let within = known.get(category);
      if (within === undefined) {
        within = condition.under.some((branch) => scope.isUnder(category, branch));
        known.set(category, within);
      }
      return within;
    };
  }
  if (comparingOperators.has(condition.is)) return comparing(condition, scope);
  const test = compileTest(condition);
  if (condition.attribute !== undefined) {
    const read = attributeReader(scope.index, condition.attribute, scope);
    return read === undefined ? constant(test(undefined)) : (row) => test(read(row));
  }
  if (condition.fact !== undefined) {
    const read = scope.factReader?.(condition.fact);
    return read === undefined ? constant(test(undefined)) : (row, values) => test(read(row, values));
  }
  const at = scope.fieldAt(condition.field ?? '');
  return at === undefined ? constant(test(undefined)) : (_row, values) => test(values[at]);
}

/** Compares with another attribute or field of the same listing; lists by what they hold, in any order. */
function comparing({ attribute, field, is, value }: Test, scope: ConditionScope): Predicate {
  const reader = (code: string): Reader => {
    if (attribute !== undefined) return attributeReader(scope.index, code, scope) ?? (() => undefined);
    const at = scope.fieldAt(code);
    return at === undefined ? () => undefined : (_row, values) => values[at];
  };
  const [mine, other] = [reader(attribute ?? field ?? ''), reader(asText(value))];
  const plain = (found: Value | undefined) =>
    asList(found)
      .map((entry) => entry.toLowerCase())
      .sort()
      .join('\n');
  const wanted = is === 'sameAs';
  return (row, values) => (plain(mine(row, values)) === plain(other(row, values))) === wanted;
}

const constant = (answer: boolean): Predicate => (answer ? always : never);

/** The two ends of a range: given as two values, or with “and”, “to” or a dash between them. */
const bounds = (value: Test['value']): readonly string[] => {
  const list = asList(value);
  return list.length > 1 ? list : (list[0] ?? '').split(/\s*(?:\band\b|\bto\b|–|\s-\s|;)\s*/);
};

/**
 * A day as it may be written in a condition. Empty, which no day is before or after, where it is none; "today" is replaced by the
 * day of the evaluation before a plan is compiled, and is none here.
 */
const dayOf = (text: string): string => readDate(text) ?? '';

const onDay = (found: Value | undefined, test: (day: string) => boolean): boolean =>
  asList(found).some((entry) => {
    const day = readDate(entry);
    return day !== undefined && test(day);
  });

/** The number a value begins with, as far as one can be read: "24.90 EUR", "1.2 kg", "12". */
function numberIn(found: Value | undefined): number {
  const text = asText(found);
  const plain = Number.parseFloat(text);
  // Nearly every value is in the catalog's own form.
  if (/^-?[\d.]+(?:$| )/.test(text)) return plain;
  return Number(readNumber(text) ?? Number.NaN);
}

/** The terms of a standard by the words people read and write for them, for the attributes that are kept so. */
const standardTerms = new Map(
  startingAttributes.flatMap(({ code, terms }) => (terms ? [[code, termFinder(terms)] as const] : [])),
);

/**
 * A word with the form in which it is kept: yes and no in one form, the words for stock and condition as the terms of their
 * standard.
 */
const alike = (word: string, attribute: string | undefined): string[] => {
  const stored =
    (attribute === undefined ? undefined : standardTerms.get(attribute)?.(word)?.toLowerCase()) ??
    readYesNo(word);
  return stored === undefined || stored === word ? [word] : [word, stored];
};

function compileTest({ is, value, attribute }: Test): (found: Value | undefined) => boolean {
  const wanted = asList(value).flatMap((entry) => alike(entry.toLowerCase(), attribute));
  const first = wanted[0] ?? '';
  const equal = asList(value).length <= 1 ? wanted : alike(first, attribute);
  const number = Number(readNumber(first) ?? Number.NaN);
  const text = (found: Value | undefined) =>
    (typeof found === 'string' ? found : asText(found)).toLowerCase();
  const each = (test: (entry: string) => boolean) => (found: Value | undefined) =>
    // Nearly every value is one text; no list is made for it.
    typeof found === 'string'
      ? test(found.toLowerCase())
      : asList(found).some((entry) => test(entry.toLowerCase()));
  switch (is) {
    case 'empty':
      return (found) => found === undefined;
    case 'filled':
      return (found) => found !== undefined;
    case 'equals':
      return equal.length === 1 ? each((entry) => entry === first) : each((entry) => equal.includes(entry));
    case 'differs':
      return (found) => !asList(found).some((entry) => equal.includes(entry.toLowerCase()));
    case 'oneOf': {
      const set = new Set(wanted);
      return each((entry) => set.has(entry));
    }
    // A word that nobody has typed yet stands in no text.
    case 'contains':
      if (first === '') return () => false;
      return (found) => text(found).includes(first);
    case 'lacks':
      return (found) => !text(found).includes(first);
    case 'startsWith':
      if (first === '') return () => false;
      return each((entry) => entry.startsWith(first));
    case 'endsWith':
      if (first === '') return () => false;
      return each((entry) => entry.endsWith(first));
    case 'moreThan':
      return (found) => found !== undefined && numberIn(found) > number;
    case 'lessThan':
      return (found) => found !== undefined && numberIn(found) < number;
    case 'between': {
      const [low = Number.NaN, high = Number.NaN] = bounds(value).map((end) =>
        Number(readNumber(end) ?? Number.NaN),
      );
      return (found) => found !== undefined && numberIn(found) >= low && numberIn(found) <= high;
    }
    case 'before': {
      const than = dayOf(first);
      return (found) => than !== '' && onDay(found, (day) => day < than);
    }
    case 'after': {
      const than = dayOf(first);
      return (found) => than !== '' && onDay(found, (day) => day > than);
    }
    case 'longerThan':
      return (found) => characterLength(asText(found)) > number;
    case 'shorterThan':
      return (found) => found !== undefined && characterLength(asText(found)) < number;
    case 'matches': {
      // The pattern as it was written: letters of classes such as \P{L} mean another thing in small ones.
      const written = asText(asList(value)[0]);
      if (written === '' || patternTrouble(written) !== undefined) return () => false;
      const pattern = compilePattern(written);
      return (found) => asList(found).some((entry) => pattern.test(entry));
    }
    case 'sameAs':
    case 'differsFrom':
      // They look at two values, see `comparing`.
      return () => false;
  }
}

/** The attributes a condition looks at. */
export function attributesIn(condition: Condition): string[] {
  if ('all' in condition) return condition.all.flatMap(attributesIn);
  if ('any' in condition) return condition.any.flatMap(attributesIn);
  if ('not' in condition) return attributesIn(condition.not);
  if (!('attribute' in condition) || condition.attribute === undefined) return [];
  return comparingOperators.has(condition.is)
    ? [condition.attribute, asText(condition.value)]
    : [condition.attribute];
}

/** The fields a condition looks at. */
export function fieldsIn(condition: Condition): string[] {
  if ('all' in condition) return condition.all.flatMap(fieldsIn);
  if ('any' in condition) return condition.any.flatMap(fieldsIn);
  if ('not' in condition) return fieldsIn(condition.not);
  if (!('field' in condition) || condition.field === undefined) return [];
  return comparingOperators.has(condition.is)
    ? [condition.field, asText(condition.value)]
    : [condition.field];
}

/** The facts a condition asks for. */
export function factsIn(condition: Condition): ConditionFact[] {
  if ('all' in condition) return condition.all.flatMap(factsIn);
  if ('any' in condition) return condition.any.flatMap(factsIn);
  if ('not' in condition) return factsIn(condition.not);
  return 'fact' in condition && condition.fact !== undefined ? [condition.fact] : [];
}

/** The branches of the tree a condition asks for. */
export function branchesIn(condition: Condition): string[] {
  if ('all' in condition) return condition.all.flatMap(branchesIn);
  if ('any' in condition) return condition.any.flatMap(branchesIn);
  if ('not' in condition) return branchesIn(condition.not);
  return 'under' in condition ? condition.under : [];
}
