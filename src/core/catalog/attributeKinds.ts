import { dayOrder, readDay } from '../formatting/formatting';
import { readIdentifier } from '../identifiers/gtin';
import { countryCode, countryName } from '../locale/countries';
import { readYesNo } from '../locale/yesNo';
import { cleanMarkup } from '../markup/safeMarkup';
import { amountText, readAmount } from '../measures/money';
import { readNumber } from '../measures/numbers';
import { convert, readMeasure } from '../measures/units';
import { type Term, termFinder } from './terms';
import { asList, asText, currencyInCode, type Value } from './value';

/** What reading and showing a value needs to know of its attribute. */
interface ValueContext {
  readonly code: string;
  readonly unit?: string | undefined;
  readonly terms?: readonly Term[] | undefined;
}

/** Refuses a text with the reason, as an error to throw. */
type Refuse = (reason: string) => Error;

interface AttributeKindDefinition {
  readonly label: string;
  /** How a grid shows values, and how wide its column is, in pixels. */
  readonly shown: 'text' | 'number' | 'identifier';
  readonly columnWidth: number;
  readonly editor: 'text' | 'date' | 'richText' | 'yesNo';
  /** Whether a form asks for a unit, and whether values are written in a language. */
  readonly unit: boolean;
  readonly written: boolean;
  /** Whether it always holds a list. */
  readonly list: boolean;
  /** Whether a text from a file is stored as it is written. */
  readonly asWritten: boolean;
  /** A value as a plain number to compare with others, in a base unit; undefined where it cannot be read. */
  readonly number?: (text: string) => number | undefined;
  /** What the quality of a catalog looks for: `amounts` are above zero and near each other within a category. */
  readonly quality: 'amounts' | 'numbers' | 'repeated' | 'spellings' | 'spellingsOfFew' | 'none';
  /** A typed text as a value. @throws what `refuse` makes, where it cannot be one */
  read(text: string, attribute: ValueContext, refuse: Refuse): Value | undefined;
  /** A value as people read it. */
  show(value: Value, attribute: ValueContext): string;
}

const plain = {
  shown: 'text',
  columnWidth: 114,
  editor: 'text',
  unit: false,
  written: false,
  list: false,
  asWritten: false,
  quality: 'none',
  read: (text) => text,
  show: (value) => asText(value),
} as const satisfies Omit<AttributeKindDefinition, 'label'>;

/** Attributes whose terms a standard gives (schema.org: ItemAvailability, OfferItemCondition). */
const standardChoices: ReadonlySet<string> = new Set(['availability', 'itemCondition']);

/** A number as it is; undefined for what is none. */
const plainNumber = (text: string): number | undefined => {
  const number = readNumber(text);
  return number === undefined ? undefined : Number(number);
};

const definitions = {
  text: {
    ...plain,
    label: 'text',
    written: true,
    asWritten: true,
    quality: 'spellingsOfFew',
    read: (text, { code }) => (code === 'countryOfOrigin' ? (countryCode(text) ?? text) : text),
    show: (value, { code }) => (code === 'countryOfOrigin' ? countryName(asText(value)) : asText(value)),
  },
  richText: {
    ...plain,
    label: 'rich text',
    editor: 'richText',
    written: true,
    asWritten: true,
    quality: 'repeated',
    read: (text) => cleanMarkup(text) || undefined,
  },
  number: {
    ...plain,
    label: 'number',
    shown: 'number',
    columnWidth: 86,
    number: plainNumber,
    quality: 'numbers',
    read: (text, _attribute, refuse) => {
      const number = readNumber(text);
      if (number === undefined) throw refuse('is not a number');
      return number;
    },
  },
  measure: {
    ...plain,
    label: 'measure',
    unit: true,
    number: (text) => {
      const measure = readMeasure(text);
      const base =
        measure && ['kg', 'cm', 'l'].map((unit) => convert(measure, unit)).find((one) => one !== undefined);
      return base === undefined ? undefined : Number(base);
    },
    quality: 'amounts',
    read: (text, { unit }, refuse) => {
      const measure = readMeasure(text, undefined, unit);
      if (!measure) throw refuse('is not a number with a unit');
      return `${measure.amount} ${measure.unit}`;
    },
  },
  money: {
    ...plain,
    label: 'money',
    shown: 'number',
    columnWidth: 86,
    number: plainNumber,
    quality: 'amounts',
    read: (text, { code }, refuse) => {
      const own = currencyInCode(code)?.currency;
      const amount = readAmount(text, own);
      if (!amount) throw refuse('is not an amount');
      if (amount.amount.startsWith('-')) throw refuse('is below zero');
      if (own !== undefined && amount.currency !== undefined && amount.currency !== own)
        throw refuse(`is not in ${own}`);
      return own === undefined ? amountText(amount) : amount.amount;
    },
  },
  yesNo: {
    ...plain,
    label: 'yes or no',
    editor: 'yesNo',
    read: (text, _attribute, refuse) => {
      const answer = readYesNo(text);
      if (answer === undefined) throw refuse('is neither yes nor no');
      return answer;
    },
    show: (value) => {
      const text = asText(value);
      const answer = readYesNo(text);
      return answer === undefined ? text : answer === 'true' ? 'yes' : 'no';
    },
  },
  choice: {
    ...plain,
    label: 'choice',
    written: true,
    quality: 'spellings',
    read: (text, { code, terms = [] }, refuse) => {
      const term = termFinder(terms)(text);
      // A standard's terms are all there are; those of the shop's own attributes may grow.
      if (term === undefined && standardChoices.has(code))
        throw refuse(`is none of: ${terms.map((one) => one.label ?? one.term).join(', ')}`);
      return term ?? text;
    },
    show: (value, { terms }) =>
      terms
        ? asList(value)
            .map((word) => terms.find(({ term }) => term === word)?.label ?? word)
            .join(', ')
        : asText(value),
  },
  date: {
    ...plain,
    label: 'date',
    editor: 'date',
    asWritten: true,
    read: (text, _attribute, refuse) => {
      const day = readDay(text);
      if (day === undefined) throw refuse(`is not a date, written ${dayOrder()} or 2026-11-23`);
      return day;
    },
  },
  link: { ...plain, label: 'link', columnWidth: 220, written: true, asWritten: true },
  pictures: { ...plain, label: 'pictures', columnWidth: 220, list: true },
  identifier: {
    ...plain,
    label: 'identifier',
    shown: 'identifier',
    asWritten: true,
    read: (text, { code }, refuse) => {
      if (code === 'gtin' && ['characters', 'length'].includes(readIdentifier(text).verdict))
        throw refuse('is not a GTIN: 8, 12, 13 or 14 digits');
      return text;
    },
  },
} as const satisfies Record<string, AttributeKindDefinition>;

export type AttributeKind = keyof typeof definitions;

/**
 * Each kind of attribute: how its values are read, shown, edited and judged. A new one is an entry here, its entry in
 * `core/import/mapping/attributeKinds.ts` (steps and evidence), the fields it can fill (`core/channels/suggestions.ts`), and its test.
 */
export const kindFacts: Readonly<Record<AttributeKind, AttributeKindDefinition>> = definitions;

export const attributeKinds = Object.keys(definitions) as [AttributeKind, ...AttributeKind[]];

export const kindName = (kind: AttributeKind): string => kindFacts[kind].label;

/** What the kinds are called, by code. */
export const kindLabels: Readonly<Record<string, string>> = Object.fromEntries(
  attributeKinds.map((kind) => [kind, kindName(kind)]),
);
