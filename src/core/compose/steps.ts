import { Decimal } from 'decimal.js';
import { z } from 'zod';
import {
  type AttributeIndex,
  asList,
  asText,
  attributeReader,
  cutText,
  cutValue,
  MAX_TEXT,
  ownEntry,
  type Row,
  type Value,
} from '../catalog/value';
import { named, type Setting, settingsOf } from '../forms/forms';
import { readIdentifier, shortForm } from '../identifiers/gtin';
import { readYesNo } from '../locale/yesNo';
import { pictureLinksOf, textOfMarkup } from '../markup/markup';
import { currencyOf } from '../measures/currencies';
import { dateForms, readDate, writeDate } from '../measures/dates';
import { amountText, readAmount, writeAmount } from '../measures/money';
import { readNumber } from '../measures/numbers';
import { convert, readMeasure, unitNames } from '../measures/units';
import { shortenAtWord } from '../text/fitting';
import { fold } from '../text/folding';
import { changeCase } from '../text/letterCase';
import { compilePattern, patternTrouble } from '../text/pattern';
import { trimCharacters } from '../text/trimming';
import { anyWordOf } from '../text/withoutWords';

/** What a step may know of the feed it runs in. */
export interface StepContext {
  readonly index: AttributeIndex;
  readonly language: string;
  readonly currency: string;
  /** What stands where a text has no translation into the language. */
  readonly untranslated?: 'main' | 'nothing' | undefined;
  readonly tables: Readonly<Record<string, ValueTable>>;
  /** The term that shoppers type most for an item and that its name does not say. */
  readonly topTerm?: ((row: Row) => string | undefined) | undefined;
  /** Asked after a step has made a long text; throws where the work has gone on for too long. */
  readonly watch?: (() => void) | undefined;
}

export type StepFunction = (value: Value, row: Row) => Value | undefined;

/** Words of the catalog → words of the channel. Looked up without regard to case, accents and spacing. */
export const valueTableSchema = z.record(z.string(), z.string());
export type ValueTable = z.infer<typeof valueTableSchema>;

const schemas = {
  trim: z.strictObject({ step: z.literal('trim') }),
  case: z.strictObject({
    step: z.literal('case'),
    to: named(z.enum(['sentence', 'title', 'upper', 'lower']), 'to', {
      options: {
        sentence: 'first letter capital',
        title: 'capitals as in a title',
        upper: 'all capitals',
        lower: 'no capitals',
      },
    }),
  }),
  stripMarkup: z.strictObject({ step: z.literal('stripMarkup') }),
  shorten: z.strictObject({
    step: z.literal('shorten'),
    most: named(z.number().int().positive(), 'at most'),
    measure: named(z.enum(['characters', 'bytes', 'graphemes']).default('characters'), ''),
  }),
  replace: z.strictObject({
    step: z.literal('replace'),
    find: named(z.string().min(1).max(1000), 'find'),
    with: named(z.string().max(1000), 'with'),
  }),
  replacePattern: z.strictObject({
    step: z.literal('replacePattern'),
    pattern: named(
      z
        .string()
        .min(1)
        .max(300)
        .superRefine((text, context) => {
          const trouble = patternTrouble(text);
          if (trouble) context.addIssue({ code: 'custom', message: trouble });
        })
        .meta({
          description:
            'a regular expression, ECMAScript with Unicode, without look-around and back-references',
        }),
      'pattern',
    ),
    with: named(
      z.string().max(1000).meta({ description: '$1 is the first group; empty removes the match' }),
      'with',
    ),
  }),
  takeOut: z.strictObject({
    step: z.literal('takeOut'),
    words: named(
      z.string().min(1).max(2000).meta({
        description: 'words or phrases with commas between; removed as complete words, in any letter case',
      }),
      'words, with commas',
    ),
  }),
  date: z.strictObject({
    step: z.literal('date'),
    to: named(z.enum(dateForms), 'as', {
      options: {
        iso: '2027-03-31',
        dmyDots: '31.03.2027',
        dmySlashes: '31/03/2027',
        mdySlashes: '03/31/2027',
      },
    }),
    monthFirst: named(
      z.enum(['yes']).optional().meta({ description: 'where the source writes the month first' }),
      'the source writes',
      { none: 'the day first', options: { yes: 'the month first' } },
    ),
  }),
  addQuery: z.strictObject({
    step: z.literal('addQuery'),
    parameters: named(
      z
        .string()
        .min(1)
        .max(2000)
        .meta({ description: 'name=value with & between; {attribute} is the item’s value' }),
      'parameters',
    ),
  }),
  keepDigits: z.strictObject({ step: z.literal('keepDigits') }),
  onlyValidGtin: z.strictObject({ step: z.literal('onlyValidGtin') }),
  gtinForm: z.strictObject({
    step: z.literal('gtinForm'),
    digits: named(z.enum(['short', '14']), 'as', { options: { short: '13 digits', '14': '14 digits' } }),
  }),
  lookUp: z.strictObject({
    step: z.literal('lookUp'),
    table: named(z.string(), 'table'),
    otherwise: named(z.enum(['keep', 'empty']).default('keep'), 'not found:', {
      options: { keep: 'keep the word', empty: 'leave empty' },
    }),
  }),
  money: z.strictObject({ step: z.literal('money') }),
  number: z.strictObject({
    step: z.literal('number'),
    decimals: named(z.number().int().min(0).max(6).optional(), 'decimals'),
    decimalSign: named(
      z
        .enum([',', '.'])
        .optional()
        .meta({ description: 'the character the source writes; read from the number by default' }),
      'written with',
      { none: 'either sign', options: { ',': 'a decimal comma', '.': 'a decimal point' } },
    ),
    currency: z
      .string()
      .regex(/^([A-Z]{3}|keep)$/)
      .optional()
      .meta({
        description:
          '“keep” leaves the currency of an amount beside it, a code gives it to amounts that name none',
      }),
  }),
  yesNo: z.strictObject({ step: z.literal('yesNo') }),
  adjust: z.strictObject({
    step: z.literal('adjust'),
    percent: named(z.number().default(0).meta({ description: 'added first, e.g. 19 or -5' }), '%'),
    amount: named(z.number().default(0).meta({ description: 'added after the percentage' }), 'plus'),
    roundTo: named(
      z
        .enum(['0.01', '0.05', '0.1', '0.5', '1', '5', '10'])
        .optional()
        .meta({ description: 'rounded to a multiple, halves away from zero' }),
      'round to',
      { none: 'nothing' },
    ),
    ending: named(
      z
        .enum(['0.99', '0.95', '0.90'])
        .optional()
        .meta({ description: 'cents that the amount is raised or lowered to, whichever is nearer' }),
      'ending in',
      { none: 'anything', options: { '0.99': '.99', '0.95': '.95', '0.90': '.90' } },
    ),
  }),
  resolve: z.strictObject({
    step: z.literal('resolve'),
    base: named(z.string().meta({ description: 'address that relative addresses stand below' }), 'base'),
  }),
  pictureLinks: z.strictObject({ step: z.literal('pictureLinks') }),
  measure: z.strictObject({
    step: z.literal('measure'),
    to: named(
      z.enum(unitNames).optional().meta({ description: 'unit to convert to; only cleaned by default' }),
      'in',
      { none: 'as it is' },
    ),
    unit: named(
      z
        .enum(unitNames)
        .optional()
        .meta({ description: 'what a number without a unit is in, as a heading may say' }),
      'without a unit',
      { none: 'as it is' },
    ),
    decimalSign: z.enum([',', '.']).optional().meta({ description: 'the sign the source writes' }),
  }),
  withoutQuery: z.strictObject({ step: z.literal('withoutQuery') }),
  take: z.strictObject({
    step: z.literal('take'),
    from: named(z.number().int().positive(), 'from'),
    to: named(z.number().int().positive().optional(), 'to'),
  }),
  join: z.strictObject({ step: z.literal('join'), with: named(z.string().max(1000), 'with') }),
  split: z.strictObject({ step: z.literal('split'), at: named(z.string().min(1).max(1000), 'at') }),
} as const;

export type StepName = keyof typeof schemas;
export type StepOf<K extends StepName> = z.infer<(typeof schemas)[K]>;
export type Step = { [K in StepName]: StepOf<K> }[StepName];

export const stepSchema = z
  .discriminatedUnion('step', [
    schemas.trim,
    schemas.case,
    schemas.stripMarkup,
    schemas.shorten,
    schemas.replace,
    schemas.replacePattern,
    schemas.takeOut,
    schemas.date,
    schemas.addQuery,
    schemas.keepDigits,
    schemas.onlyValidGtin,
    schemas.gtinForm,
    schemas.lookUp,
    schemas.money,
    schemas.number,
    schemas.yesNo,
    schemas.adjust,
    schemas.resolve,
    schemas.pictureLinks,
    schemas.measure,
    schemas.withoutQuery,
    schemas.take,
    schemas.join,
    schemas.split,
  ])
  .meta({ id: 'Step' });

type StepDefinition<K extends StepName> = {
  /** The step in a few words, with its settings. */
  words(step: StepOf<K>): string;
  /** The settings a freshly added step starts with. */
  fresh: StepOf<K>;
} & (
  | {
      looksAtItem?: never;
      compile(step: StepOf<K>, context: StepContext): (value: Value) => Value | undefined;
    }
  /** Steps that look at other values of the item; what the others make of a value is the same on every item. */
  | { looksAtItem: true; compile(step: StepOf<K>, context: StepContext): StepFunction }
);

/** Runs a text function over every entry of a list; entries that become empty fall out. */
const each = (change: (text: string) => string | undefined): ((value: Value) => Value | undefined) => {
  const run = eachOfItem(change);
  return (value) => run(value, noRow);
};
/** For steps that look at no item. */
export const noRow: Row = [];

const eachOfItem =
  (change: (text: string, row: Row) => string | undefined): StepFunction =>
  (value, row) => {
    if (typeof value === 'string') return change(value, row) || undefined;
    const list = value
      .map((entry) => change(entry, row))
      .filter((entry) => entry !== undefined && entry !== '') as string[];
    return list.length > 0 ? list : undefined;
  };

/** Texts longer than this are looked after: making many of them takes time. */
const longMade = 5000;

/** Steps that can make more of a value than there was. */
const growing: ReadonlySet<StepName> = new Set<StepName>([
  'case',
  'replace',
  'replacePattern',
  'addQuery',
  'join',
  'split',
  'resolve',
  'pictureLinks',
  'lookUp',
]);

/** Replaces a text wherever it stands, as far as a value may reach. */
function replaceText(text: string, find: string, by: string): string {
  let created = '';
  let from = 0;
  for (let at = text.indexOf(find); at >= 0 && created.length < MAX_TEXT; at = text.indexOf(find, from)) {
    created += text.slice(from, at) + by;
    from = at + find.length;
  }
  return cutText(created + text.slice(from));
}

/** Joins texts with something between, as far as a value may reach. */
function joinTexts(texts: readonly string[], glue: string): string {
  let created = texts[0] ?? '';
  for (let i = 1; i < texts.length && created.length < MAX_TEXT; i++) created += glue + (texts[i] as string);
  return created;
}

/** Blanks, commas and dashes that are left at the ends of a text when words are taken out. */
const loose: ReadonlySet<string> = new Set(' \t\n,;:–-');

/** The one registry of steps: import mapping, field mapping, titles and rules all draw from it. */
export const steps: { readonly [K in StepName]: StepDefinition<K> } = {
  trim: {
    words: () => 'trim',
    fresh: { step: 'trim' },
    compile: () => each((text) => text.replace(/\s+/g, ' ').trim()),
  },
  case: {
    words: ({ to }) =>
      ({
        upper: 'all capitals',
        lower: 'no capitals',
        sentence: 'first letter capital',
        title: 'capitals as in a title',
      })[to],
    fresh: { step: 'case', to: 'sentence' },
    compile: ({ to }, { language }) => each((text) => changeCase(text, to, language)),
  },
  stripMarkup: {
    words: () => 'markup to text',
    fresh: { step: 'stripMarkup' },
    compile: () => each((text) => textOfMarkup(text)),
  },
  shorten: {
    words: ({ most, measure }) => `at most ${most} ${measure}`,
    fresh: { step: 'shorten', most: 150, measure: 'characters' },
    compile: ({ most, measure }) => each((text) => shortenAtWord(text, most, measure)),
  },
  replace: {
    words: ({ find, with: by }) => (by === '' ? `remove “${find}”` : `“${find}” → “${by}”`),
    fresh: { step: 'replace', find: ' ', with: ' ' },
    compile: ({ find, with: by }) =>
      each((text) => (text.includes(find) ? replaceText(text, find, by) : text)),
  },
  replacePattern: {
    words: ({ pattern, with: by }) => (by === '' ? `remove /${pattern}/` : `/${pattern}/ → “${by}”`),
    fresh: { step: 'replacePattern', pattern: '\\s*\\(.*?\\)', with: '' },
    compile: ({ pattern, with: by }) => {
      const expression = compilePattern(pattern);
      return each((text) => expression.replace(text, by, MAX_TEXT));
    },
  },
  takeOut: {
    words: ({ words }) => `without ${words}`,
    fresh: { step: 'takeOut', words: 'best price, new' },
    compile: ({ words }) => {
      const list = words
        .split(',')
        .map((word) => word.trim())
        .filter((word) => word !== '');
      if (list.length === 0) return (value) => value;
      // With the space or comma before them. Runs of blanks are folded first, so that none is long.
      const expression = new RegExp(`[ ,;–-]{0,4}${anyWordOf(list)}`, 'giu');
      return each((text) =>
        trimCharacters(
          text
            .replace(/\s+/g, ' ')
            .replace(expression, '')
            .replace(/ ([.,;!])/g, '$1'),
          loose,
        ),
      );
    },
  },
  date: {
    words: ({ to }) =>
      ({
        iso: 'as 2027-03-31',
        dmyDots: 'as 31.03.2027',
        dmySlashes: 'as 31/03/2027',
        mdySlashes: 'as 03/31/2027',
      })[to],
    fresh: { step: 'date', to: 'iso' },
    compile: ({ to, monthFirst }) =>
      each((text) => {
        const date = readDate(text, monthFirst === 'yes');
        return date === undefined ? text : writeDate(date, to);
      }),
  },
  addQuery: {
    words: ({ parameters }) => `?${parameters}`,
    fresh: { step: 'addQuery', parameters: 'campaign=spring&item={sku}' },
    looksAtItem: true,
    compile: ({ parameters }, context) => {
      const readers = new Map<string, ReturnType<typeof attributeReader>>();
      const readerOf = (code: string) => {
        if (!readers.has(code)) readers.set(code, attributeReader(context.index, code, context));
        return readers.get(code);
      };
      const pairs = parameters.split('&').map((pair) => {
        const [name = '', ...rest] = pair.split('=');
        return { name: name.trim(), value: rest.join('=') };
      });
      return eachOfItem((text, row) => {
        if (!URL.canParse(text)) return text;
        const address = new URL(text);
        for (const { name, value } of pairs)
          if (name !== '')
            address.searchParams.set(
              name,
              value.replace(/\{(\w+)\}/g, (_match, code: string) =>
                asText(readerOf(code)?.(row)).slice(0, 2000),
              ),
            );
        return address.href;
      });
    },
  },
  keepDigits: {
    words: () => 'keep digits',
    fresh: { step: 'keepDigits' },
    compile: () => each((text) => text.replace(/\D+/g, '')),
  },
  onlyValidGtin: {
    words: () => 'only if the check digit is right',
    fresh: { step: 'onlyValidGtin' },
    compile: () => each((text) => (readIdentifier(text).verdict === 'valid' ? text : undefined)),
  },
  gtinForm: {
    words: ({ digits }) => (digits === '14' ? 'as 14 digits' : '14 → 13 digits'),
    fresh: { step: 'gtinForm', digits: 'short' },
    compile: ({ digits }) =>
      each((text) => {
        const { normal } = readIdentifier(text);
        return normal === '' ? text : digits === '14' ? normal : shortForm(normal);
      }),
  },
  lookUp: {
    words: ({ table, otherwise }) => `value mapping “${table}”${otherwise === 'empty' ? ', else empty' : ''}`,
    fresh: { step: 'lookUp', table: 'values', otherwise: 'keep' },
    compile: ({ table, otherwise }, { tables }) => {
      const known = new Map(
        Object.entries(ownEntry(tables, table) ?? {}).map(([from, to]) => [fold(from), to]),
      );
      return each((text) => known.get(fold(text)) ?? (otherwise === 'keep' ? text : undefined));
    },
  },
  money: {
    words: () => 'money with currency',
    fresh: { step: 'money' },
    looksAtItem: true,
    compile: (_step, { index, currency }) => {
      const slot = index.slotOf('priceCurrency');
      const named = new Map<string, string | undefined>();
      /** The currency the item names, or the catalog's; never the market's. */
      const ownOf = (row: Row): string | undefined => {
        const word = slot === undefined ? undefined : row[slot];
        if (typeof word !== 'string') return index.currency;
        if (word === currency) return currency;
        if (!named.has(word) && named.size < 1000) named.set(word, currencyOf(word, index.currency) ?? word);
        return named.get(word) ?? word;
      };
      // Most amounts are already in the form ISO 4217 asks for; only others take the long way.
      const plain = writeAmount('0', currency)?.length === 4 ? /^\d+\.\d\d$/ : /^$/;
      return eachOfItem((text, row) => {
        const own = ownOf(row);
        if (own === currency && plain.test(text)) return `${text} ${own}`;
        const read = readAmount(text, own ?? currency);
        const code = read?.currency ?? own;
        if (!read || code === undefined) return text;
        const written = writeAmount(read.amount, code);
        return written === undefined ? text : `${written} ${code}`;
      });
    },
  },
  number: {
    words: ({ decimals, decimalSign, currency }) =>
      [
        'as a number',
        decimals === undefined ? '' : `${decimals} decimals`,
        decimalSign ? `decimals behind “${decimalSign}”` : '',
        currency === undefined ? '' : currency === 'keep' ? 'with its currency' : `in ${currency}`,
      ]
        .filter((words) => words !== '')
        .join(', '),
    fresh: { step: 'number', decimals: 2 },
    compile: ({ decimals, decimalSign, currency }) => {
      const rounded = (number: string) =>
        decimals === undefined ? number : new Decimal(number).toFixed(decimals, Decimal.ROUND_HALF_UP);
      if (currency === undefined)
        return each((text) => {
          const number = readNumber(text, decimalSign);
          return number === undefined ? text : rounded(number);
        });
      const given = currency === 'keep' ? undefined : currency;
      return each((text) => {
        const read = readAmount(text, given, decimalSign);
        return read === undefined
          ? text
          : amountText({ amount: rounded(read.amount), currency: read.currency ?? given });
      });
    },
  },
  yesNo: {
    words: () => 'as yes or no',
    fresh: { step: 'yesNo' },
    compile: () => each((text) => readYesNo(text) ?? text),
  },
  adjust: {
    words: ({ percent, amount, roundTo, ending }) =>
      [
        percent === 0 ? '' : `${percent > 0 ? '+' : '−'}${Math.abs(percent)} %`,
        amount === 0 ? '' : `${amount > 0 ? '+' : '−'}${Math.abs(amount)}`,
        roundTo ? `rounded to ${roundTo}` : '',
        ending ? `ending in ${ending.slice(1)}` : '',
      ]
        .filter((words) => words !== '')
        .join(', ') || 'amount as it is',
    fresh: { step: 'adjust', percent: 10, amount: 0 },
    compile: ({ percent, amount, roundTo, ending }) =>
      each((text) => {
        const read = readAmount(text);
        if (read === undefined) return text;
        const { amount: number, currency } = read;
        let result = new Decimal(number).mul(new Decimal(100).plus(percent)).div(100).plus(amount);
        if (roundTo) result = result.toNearest(roundTo, Decimal.ROUND_HALF_UP);
        if (ending)
          result = Decimal.max(ending, result.minus(ending).toNearest(1, Decimal.ROUND_HALF_UP).plus(ending));
        // As many decimals as the source wrote, two where it is to be rounded to cents.
        const decimals = Math.max(number.split('.')[1]?.length ?? 0, 2);
        return amountText({ amount: result.toFixed(decimals, Decimal.ROUND_HALF_UP), currency });
      }),
  },
  resolve: {
    words: ({ base }) => `below ${base || 'no address yet'}`,
    fresh: { step: 'resolve', base: 'https://example.com/' },
    compile: ({ base }) => each((text) => (URL.canParse(text, base) ? new URL(text, base).href : text)),
  },
  pictureLinks: {
    words: () => 'pictures from markup',
    fresh: { step: 'pictureLinks' },
    compile: () => (value) => {
      const links = asList(value).flatMap(pictureLinksOf);
      return links.length > 0 ? [...new Set(links)] : undefined;
    },
  },
  measure: {
    words: ({ to, unit }) =>
      `${to === undefined ? 'number and unit' : `in ${to}`}${unit ? `, without a unit ${unit}` : ''}`,
    fresh: { step: 'measure', to: 'cm' },
    compile: ({ to, unit, decimalSign }) =>
      each((text) => {
        const measure = readMeasure(text, decimalSign, unit);
        if (measure === undefined) return text;
        const amount = to === undefined ? measure.amount : convert(measure, to);
        return amount === undefined ? text : `${amount} ${to ?? measure.unit}`;
      }),
  },
  withoutQuery: {
    words: () => 'address without its query',
    fresh: { step: 'withoutQuery' },
    compile: () => each((text) => text.replace(/[?#].*$/s, '')),
  },
  take: {
    words: ({ from, to }) => (from === to ? `only number ${from}` : `${from} to ${to ?? 'last'}`),
    fresh: { step: 'take', from: 1, to: 1 },
    compile:
      ({ from, to }) =>
      (value) => {
        const list = asList(value).slice(from - 1, to);
        return list.length === 0 ? undefined : list.length === 1 && from === to ? list[0] : list;
      },
  },
  join: {
    words: ({ with: glue }) => `joined with “${glue}”`,
    fresh: { step: 'join', with: ', ' },
    compile:
      ({ with: glue }) =>
      (value) =>
        typeof value === 'string' ? value : joinTexts(value, glue),
  },
  split: {
    words: ({ at }) => `split at “${at}”`,
    fresh: { step: 'split', at: ',' },
    compile:
      ({ at }) =>
      (value) => {
        const list = asList(value)
          .flatMap((text) => text.split(at))
          .map((entry) => entry.trim())
          .filter((entry) => entry !== '');
        return list.length > 0 ? list : undefined;
      },
  },
};

const definitionOf = <K extends StepName>(step: StepOf<K>): StepDefinition<K> => steps[step.step as K];

/** Whether a step looks at other values of the item: what it makes of a value may differ from item to item. */
export const looksAtItem = (step: Step): boolean => definitionOf(step).looksAtItem === true;

/** A step in words, for chips and lineage. */
export const stepWords = (step: Step): string => definitionOf(step).words(step);

/** Compiles one step for one feed. What it makes stays within the limits of a value, whatever it is given. */
export function compileStep(step: Step, context: StepContext): StepFunction {
  const run = definitionOf(step).compile(step, context);
  if (!growing.has(step.step)) return run;
  const { watch } = context;
  return (value, row) => {
    const created = run(value, row);
    if (watch && created !== undefined && created.length > longMade) watch();
    return cutValue(created);
  };
}

/** What each step is called in a menu. */
const stepLabels: { readonly [K in StepName]: string } = {
  trim: 'Trim and single spaces',
  case: 'Letter case',
  stripMarkup: 'Markup to text',
  shorten: 'Shorten at a word',
  replace: 'Replace',
  replacePattern: 'Replace or remove by pattern',
  takeOut: 'Remove words',
  date: 'Date',
  addQuery: 'Add parameters to an address',
  keepDigits: 'Keep digits only',
  onlyValidGtin: 'Only if the check digit is right',
  gtinForm: 'GTIN form',
  lookUp: 'Look up in a value mapping',
  money: 'Money with currency',
  number: 'Number',
  yesNo: 'Yes or no',
  adjust: 'Change the amount',
  resolve: 'Complete relative addresses',
  pictureLinks: 'Pictures from markup',
  measure: 'Number and unit',
  withoutQuery: 'Address without its query',
  take: 'Pick from a list',
  join: 'Join a list',
  split: 'Split into a list',
};

/** Each step as a small form, made from its type, and what it starts with. */
export const stepForms = Object.entries(stepLabels).map(([name, label]) => ({
  name: name as StepName,
  label,
  settings: settingsOf(schemas[name as StepName]) as readonly Setting[],
  fresh: steps[name as StepName].fresh as Step,
}));
