import { z } from 'zod';
import { type Attribute, attributeSchema, currencyInCode, isList } from '../../catalog/attributes';
import { groupingWays } from '../../catalog/grouping';
import type { Values } from '../../catalog/item';
import { termFinder } from '../../catalog/terms';
import {
  asText,
  attributeIndex,
  codeInCurrency,
  isCut,
  listSeparator,
  MAX_TEXT,
  type Row,
  type Value,
} from '../../catalog/value';
import {
  type Composition,
  compileComposition,
  compositionSchema,
  fromAttribute,
} from '../../compose/composition';
import { type Step, valueTableSchema } from '../../compose/steps';
import { countryCode } from '../../locale/countries';
import { readYesNo } from '../../locale/yesNo';
import { currencyOf } from '../../measures/currencies';
import { readAmount } from '../../measures/money';
import { readNumber } from '../../measures/numbers';
import { fold } from '../../text/folding';
import { spokenName } from '../../text/similarity';
import { encodings, type Form, separators, sourceKinds } from '../encoding/decode';
import { headingMeaning } from '../headings/headingLexicon';
import { headingWords } from '../headings/headings';
import { joinedSizes, type Side } from '../tables/joinedSizes';
import type { SourceRecord } from '../tables/records';
import { sizeColumnNames } from '../tables/sizeColumns';
import type { ColumnSuggestion } from './columns';
import {
  damageOf,
  damages,
  decimalDamage,
  formulaDamage,
  isFormula,
  type Proposal,
  saysNothing,
  sheetErrorDamage,
} from './damage';

/** What an item is found again by. */
export const itemKeys = ['sku', 'gtin', 'mpn'] as const;
export type ItemKey = (typeof itemKeys)[number];

/** What becomes of items that the source brought earlier and no longer has. */
export const missingWays = ['leave', 'outOfStock', 'archive'] as const;

/**
 * How a source's columns become attributes: the same compositions as field mapping, their attribute parts naming columns
 * or, in trees, paths below the record. `sku` identifies an item; `family` names the family it belongs to.
 */
export const importMappingSchema = z.strictObject({
  format: z.literal('lively-cart/mapping@1'),
  kind: z.enum(sourceKinds).default('delimited'),
  encoding: z.enum(encodings),
  separator: z.enum(separators),
  starts: z
    .array(z.number().int().nonnegative())
    .max(2000)
    .optional()
    .meta({ description: 'where columns of fixed width begin; 0 is the first sign of a line' }),
  escapes: z.literal('backslash').optional().meta({
    description: 'how delimited text writes signs that would part it; doubled quotation marks where left out',
  }),
  begins: z.string().optional().meta({
    description:
      'the name that each block begins with, in text with a line a value; empty where empty lines part them',
  }),
  sheet: z.string().optional().meta({ description: 'the sheet of a workbook' }),
  headingRow: z.number().int().positive().optional().meta({ description: 'the first row where left out' }),
  headingLines: z
    .union([z.literal(1), z.literal(2)])
    .optional()
    .meta({ description: 'rows of the heading; one where left out' }),
  shortRows: z
    .boolean()
    .optional()
    .meta({ description: 'whether rows may leave out empty cells at their end; no where left out' }),
  turned: z
    .boolean()
    .optional()
    .meta({ description: 'where the items of a table stand beside each other, a column each' }),
  across: z.array(z.string()).optional().meta({
    description: 'columns of a table that are sizes, with how many there are of each: every one is an item',
  }),
  list: z
    .string()
    .optional()
    .meta({ description: 'path of the list of records, in JSON and XML; the largest where left out' }),
  variants: z
    .string()
    .optional()
    .meta({ description: "path of a record's variants below it; each becomes an item" }),
  key: z.enum(itemKeys).default('sku').meta({ description: 'what an item is found again by' }),
  fields: z
    .record(attributeSchema.shape.code, compositionSchema)
    .meta({ description: 'by attribute code; attribute parts name columns' }),
  tables: z
    .record(z.string(), valueTableSchema)
    .default({})
    .meta({ description: "value tables that steps look up: the source's word → ours" }),
  repairs: z
    .array(z.enum(damages))
    .optional()
    .meta({ description: 'kinds of damage whose repairs are accepted; all others are only told' }),
  grouping: z
    .strictObject({
      by: z.enum(groupingWays),
      column: z.string().optional().meta({ description: 'holds the parent code' }),
    })
    .optional()
    .meta({ description: 'how rows become families' }),
  missing: z
    .enum(missingWays)
    .default('leave')
    .meta({ description: 'what becomes of items of this source that the file no longer has' }),
  leftOut: z.array(z.string()).optional().meta({
    description: 'columns that a person took off what they filled, and that fill nothing since',
  }),
  overwrite: z.array(attributeSchema.shape.code).optional().meta({
    description:
      'attributes whose values are taken from the file also where a person has mended them by hand',
  }),
});
export type ImportMapping = z.infer<typeof importMappingSchema>;

/** The part of a mapping that says how its file is read. */
export const formOf = (mapping: ImportMapping): Form => ({
  kind: mapping.kind,
  encoding: mapping.encoding,
  separator: mapping.separator,
  ...(mapping.starts === undefined ? {} : { starts: mapping.starts }),
  ...(mapping.escapes === undefined ? {} : { escapes: mapping.escapes }),
  ...(mapping.begins === undefined ? {} : { begins: mapping.begins }),
  ...(mapping.sheet === undefined ? {} : { sheet: mapping.sheet }),
  // Said even where it is the first row: a mapping is of its file, in which nothing is looked for anew.
  headingRow: mapping.headingRow ?? 1,
  headingLines: mapping.headingLines ?? 1,
  ...(mapping.shortRows ? { shortRows: true } : {}),
  ...(mapping.across === undefined ? {} : { across: mapping.across }),
  ...(mapping.turned === undefined ? {} : { turned: mapping.turned }),
  ...(mapping.list === undefined ? {} : { list: mapping.list }),
  ...(mapping.variants === undefined ? {} : { variants: mapping.variants }),
});

const entity =
  /&(amp|quot|apos|lt|gt|nbsp|#\d{2,5}|#x[0-9a-f]{2,4}|[a-z]{1,2}(uml|acute|grave|circ|tilde|cedil|ring)|szlig|euro);/i;

/** Whether a column's dates name the month first: a second number above 12 says so where no first one is. */
function monthComesFirst(cells: readonly string[]): boolean {
  const parts = cells.flatMap((cell) => {
    const [, first, second] = /^\s*(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}\s*$/.exec(cell) ?? [];
    return first ? [[Number(first), Number(second)] as const] : [];
  });
  return parts.some(([, second]) => second > 12) && !parts.some(([first]) => first > 12);
}

/**
 * The steps that bring a cell into the form an attribute is kept in.
 * @param heading the column's, which may name a unit or a currency for cells that name none
 * @param cells of the first rows, as far as they are known
 */
export function importSteps(
  attribute: Attribute | undefined,
  heading = '',
  cells: readonly string[] = [],
): Step[] {
  if (attribute && isList(attribute)) return [{ step: 'split', at: '|' }];
  switch (attribute?.kind) {
    case 'money':
      return [{ step: 'number', currency: headingWords(heading).currency ?? 'keep' }];
    case 'number':
      return [{ step: 'number' }];
    case 'measure': {
      const { unit } = headingWords(heading);
      return [{ step: 'measure', ...(unit ? { unit } : {}) }];
    }
    case 'yesNo':
      return [{ step: 'yesNo' }];
    case 'richText':
      return [];
    case 'date':
      return [{ step: 'date', to: 'iso', ...(monthComesFirst(cells) ? { monthFirst: 'yes' as const } : {}) }];
    default:
      // Plain text that was taken out of a page keeps its signs as they are written there: "wheel &amp; axle".
      return attribute?.kind === 'text' && cells.some((cell) => entity.test(cell))
        ? [{ step: 'stripMarkup' }, { step: 'trim' }]
        : [{ step: 'trim' }];
  }
}

/** The decimal signs that cells show: a sign with other than three digits behind it, or the last of two kinds. */
const tellingSigns = (cells: readonly string[]): string[] =>
  cells.flatMap((cell) => {
    const body = cell.length > 80 ? '' : cell.replace(/[^\d.,]/g, '');
    const last = /[.,](?=\d*$)/.exec(body);
    if (!last) return [];
    const decimals = body.length - last.index - 1;
    const other = last[0] === ',' ? '.' : ',';
    const once = body.indexOf(last[0]) === last.index;
    return once && (decimals !== 3 || body.includes(other) || /^0?[.,]/.test(body)) ? [last[0]] : [];
  });

/** The decimal sign that most of what tells one agrees on. */
function agreedSign(telling: readonly string[]): ',' | '.' | undefined {
  const commas = telling.filter((sign) => sign === ',').length;
  if (telling.length === 0) return undefined;
  return commas >= telling.length * 0.8 ? ',' : commas <= telling.length * 0.2 ? '.' : undefined;
}

/** The attribute of a side that a heading speaks of: a parcel's is not the thing's. */
function sideOf(heading: string, side: Side): string {
  const about = headingMeaning(spokenName(heading.replace(/\(.*\)/, '')))?.about.split(' ') ?? [];
  return about.includes('package') ? `package${side[0]?.toUpperCase()}${side.slice(1)}` : side;
}

/** A heading without its number: "photo" of "Photo 2" and of "photo_3_url" without the rest. */
const unnumbered = (column: string): string =>
  fold(column)
    .replace(/\d{1,2}/, ' ')
    .replace(/[^\p{L}\d]+/gu, ' ')
    .trim();
const numberOf = (column: string): number => Number(/\d{1,2}/.exec(column)?.[0] ?? 0);
/** Columns of one name in the order of their numbers; one without any is the first. */
const byNumber = (a: string, b: string): number => numberOf(a) - numberOf(b);
/** Words that say there is more of the same, in the nine languages. */
const furtherWord =
  /\b(additional|further|more|other|extra|weitere|zusatz|autres?|supplementaires?|otras?|adicional(es)?|altre|aggiuntiv[ei]|andere|overige|dodatkowe|inne|outras?|adicionais|fler|ytterligare|ovriga)/;

/** Whether a column holds more of a list that another one begins: one of the same name with another number; of pictures also one that is called so. */
function isFurther(
  { kind }: Pick<Attribute, 'kind'>,
  column: string,
  first: string,
  cells: readonly string[],
): boolean {
  const name = unnumbered(column);
  if (kind !== 'pictures') return name === unnumbered(first);
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  if (name === unnumbered(first)) return filled.every((cell) => /^https?:\/\/|\.\w{3,4}$/i.test(cell));
  const pictures = filled.every((cell) => /\.(jpe?g|png|webp|gif|tiff?)\b/i.test(cell));
  // Beside a "main picture" a numbered column of pictures is one of the others.
  return filled.length > 0 && pictures && (furtherWord.test(name) || numberOf(column) > 0);
}

/**
 * A mapping made of suggestions.
 * @param sample the first records, to see how numbers are written
 */
export function mappingFrom(
  suggestions: readonly ColumnSuggestion[],
  attributes: readonly Attribute[],
  form: Form,
  sample: readonly SourceRecord[] = [],
): ImportMapping {
  const fields: Record<string, Composition> = {};
  const kinds = new Map(attributes.map((one) => [one.code, one]));
  const cellsOf = (column: string) => sample.map(({ cells }) => cells[column] ?? '');
  const numeric = suggestions.filter(({ attribute }) =>
    ['money', 'number', 'measure'].includes(kinds.get(attribute)?.kind ?? ''),
  );
  const telling = new Map(numeric.map(({ column }) => [column, tellingSigns(cellsOf(column))]));
  // A column that does not tell ("1,250") is read as the others of its file are.
  const usual = agreedSign([...telling.values()].flat());
  const taken = new Set(suggestions.map(({ column }) => column));
  const open = Object.keys(sample[0]?.cells ?? {}).filter((column) => !taken.has(column));
  for (const { column, attribute } of suggestions) {
    const target = kinds.get(attribute);
    const further =
      target && isList(target) ? open.filter((one) => isFurther(target, one, column, cellsOf(one))) : [];
    if (further.length > 0) {
      const parts = [column, ...further].sort(byNumber);
      fields[attribute] = {
        alternatives: [
          {
            parts: parts.map((one) => ({ attribute: one, glue: listSeparator, steps: [] })),
            steps: importSteps(target, column),
          },
        ],
        steps: [],
      };
      continue;
    }
    const sign = agreedSign(telling.get(column) ?? []) ?? (telling.has(column) ? usual : undefined);
    fields[attribute] = fromAttribute(
      column,
      importSteps(target, column, cellsOf(column)).map((step) =>
        (step.step === 'number' || step.step === 'measure') && sign ? { ...step, decimalSign: sign } : step,
      ),
    );
  }
  for (const column of open) {
    const together = joinedSizes(column, cellsOf(column));
    const entries = Object.entries(together ?? {}).map(
      ([side, steps]) => [sideOf(column, side as Side), steps] as const,
    );
    if (entries.every(([code]) => kinds.get(code)?.kind === 'measure' && !fields[code]))
      for (const [code, steps] of entries) fields[code] = fromAttribute(column, steps);
  }
  if (form.across?.length) keyOfSizes(fields, sample);
  return importMappingSchema.parse({
    format: 'lively-cart/mapping@1',
    ...form,
    fields,
    ...(form.variants ? { grouping: { by: 'nesting' } } : groupingFrom(fields, sample)),
  });
}

/**
 * Sizes of one thing that stand across share its number: each is told apart by it and its size, and by its colour where rows share
 * the number too; together they are a family.
 */
function keyOfSizes(fields: Record<string, Composition>, sample: readonly SourceRecord[]): void {
  const columnIn = (attribute: string) => {
    const composition = fields[attribute];
    return composition && columnsOf(composition)[0];
  };
  const number = columnIn('sku') ?? columnIn('family') ?? columnIn('mpn');
  if (number === undefined) return;
  const unique = (columns: readonly string[]) =>
    new Set(sample.map(({ cells }) => columns.map((column) => cells[column]).join('\0'))).size ===
    sample.length;
  const color = columnIn('color');
  const short = [number, sizeColumnNames.size];
  const columns = unique(short) || color === undefined ? short : [number, color, sizeColumnNames.size];
  const trim = [{ step: 'trim' as const }];
  fields.sku = {
    alternatives: [{ parts: columns.map((attribute) => ({ attribute, glue: '-', steps: trim })), steps: [] }],
    steps: [],
  };
  fields.family ??= fromAttribute(number, trim);
}

/** How rows that name a group become families: by a parent's code where the parents are rows themselves, or are called so. */
function groupingFrom(
  fields: Readonly<Record<string, Composition>>,
  sample: readonly SourceRecord[],
): Pick<ImportMapping, 'grouping'> {
  const columnOf = (attribute: string): string | undefined => {
    const composition = fields[attribute];
    return composition && columnsOf(composition)[0];
  };
  const [family, sku] = [columnOf('family'), columnOf('sku')];
  if (family === undefined) return {};
  const skus = new Set(sample.map(({ cells }) => cells[sku ?? '']));
  const parents = sample.some(({ cells }) => {
    const parent = cells[family]?.trim();
    return parent !== undefined && parent !== '' && parent !== cells[sku ?? ''] && skus.has(parent);
  });
  return {
    grouping:
      parents || namesParent.test(family) ? { by: 'parentCode', column: family } : { by: 'sharedCode' },
  };
}

/** A heading that says its codes are those of other rows, in the nine languages. */
const namesParent =
  /parent|eltern|[uü]bergeordnet|vater|hauptartikel|padre|p[eè]re|genitore|ouder|hoofd|nadrz[eę]dn|rodzic|pai\b|f[oö]r[aä]lder|huvudartikel|mestre/i;

export interface ReadItem {
  readonly sku: string;
  /** What the item is found again by: its SKU, GTIN or part number, as the mapping says. */
  readonly key: string;
  readonly family: string | undefined;
  readonly values: Values;
  /** The column each value came from and what stood there. */
  readonly cells: Readonly<Record<string, { column: string; cell: string }>>;
  /** Damage that was found, repaired where its kind is accepted. */
  readonly proposals: readonly { attribute: string; proposal: Proposal }[];
}

export type Rejection =
  | { readonly reason: 'noSku' }
  | { readonly reason: 'noKey'; readonly key: ItemKey }
  | { readonly reason: 'noName' }
  | { readonly reason: 'price'; readonly found: string }
  | { readonly reason: 'number'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'negative'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'yesNo'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'tooLong'; readonly attribute: string }
  | {
      readonly reason: 'currencies';
      readonly attribute: string;
      readonly found: string;
      readonly currency: string;
    }
  | {
      readonly reason: 'decimalSign';
      readonly attribute: string;
      readonly found: string;
      /** All damage of the row with its repairs: it comes in once they are accepted. */
      readonly damaged: Pick<ReadItem, 'sku' | 'proposals'>;
    }
  | { readonly reason: 'formula'; readonly column: string; readonly found: string }
  | { readonly reason: 'repeated'; readonly sku: string; readonly row: number };

/** What a rejection says. */
export function rejectionWords(rejection: Rejection): string {
  switch (rejection.reason) {
    case 'noSku':
      return 'has no SKU';
    case 'noKey':
      return `has no ${rejection.key.toUpperCase()}, which items of this source are found by`;
    case 'noName':
      return 'has no name';
    case 'price':
      return `price “${rejection.found}” is not an amount`;
    case 'number':
      return `${rejection.attribute} “${rejection.found}” is not a number`;
    case 'negative':
      return `${rejection.attribute} “${rejection.found}” is below zero`;
    case 'yesNo':
      return `${rejection.attribute} “${rejection.found}” is neither yes nor no`;
    case 'tooLong':
      return `${rejection.attribute} is longer than the ${MAX_TEXT.toLocaleString('en')} characters a value may have`;
    case 'currencies':
      return `${rejection.attribute} “${rejection.found}” is not in ${rejection.currency}, as the row says`;
    case 'repeated':
      return `repeats the SKU ${rejection.sku} of row ${rejection.row}`;
    case 'decimalSign':
      return `${rejection.attribute} “${rejection.found}” swaps the decimal signs of its column; accept the repair or mend it`;
    case 'formula':
      return `“${rejection.column}” holds a formula, “${rejection.found.slice(0, 40)}”, which is never run`;
  }
}

export type RowReader = (cells: Readonly<Record<string, string>>) => ReadItem | Rejection;

/** The columns a composition reads. */
export const columnsOf = (composition: Composition): string[] => [
  ...new Set(
    composition.alternatives.flatMap(({ parts }) =>
      parts.flatMap((part) => ('attribute' in part ? [part.attribute] : [])),
    ),
  ),
];

interface AttributeReader {
  attribute: string;
  run(row: Row): Value | undefined;
  column: string;
  /** Where the column stands in a row. */
  slot: number;
  kind: Attribute['kind'] | undefined;
  /** The decimal sign the column is said to use. */
  sign: ',' | '.' | undefined;
  /** A code that is only trimmed: what cannot be seen in it is told, not trimmed away with the blanks. */
  bare: boolean;
  /** Finds the term of a choice that a word is a synonym of. */
  term: ((word: string) => string | undefined) | undefined;
}

/** A composition in which amounts keep the currency that stands beside them, also where it was saved before that was asked. */
function keepingCurrency(composition: Composition): Composition {
  const stored = (steps: readonly Step[]): Step[] =>
    steps.map((step) => (step.step === 'number' && !step.currency ? { ...step, currency: 'keep' } : step));
  return {
    steps: stored(composition.steps),
    alternatives: composition.alternatives.map((one) => ({
      steps: stored(one.steps),
      parts: one.parts.map((part) => ('attribute' in part ? { ...part, steps: stored(part.steps) } : part)),
    })),
  };
}

/**
 * Compiles a mapping. A record becomes an item or a rejection; it never throws.
 * @param attributes to know how each value is kept
 * @param currency the catalog's; amounts that name another are kept as amounts in that one
 */
export function compileMapping(
  mapping: ImportMapping,
  attributes: readonly Attribute[],
  currency?: string,
): RowReader {
  const columns = [...new Set(Object.values(mapping.fields).flatMap(columnsOf))];
  const index = attributeIndex(columns);
  const context = { index, language: 'en', currency: 'EUR', tables: mapping.tables };
  const kinds = new Map(attributes.map(({ code, kind }) => [code, kind]));
  const terms = new Map(
    attributes.flatMap((one) =>
      one.kind === 'choice' && one.terms?.length ? [[one.code, termFinder(one.terms)] as const] : [],
    ),
  );
  const readers = Object.entries(mapping.fields).map(([attribute, given]): AttributeReader => {
    const kind = kinds.get(attribute);
    const composition = kind === 'money' ? keepingCurrency(given) : given;
    const [column = ''] = columnsOf(composition);
    const stepsOf = [
      ...composition.steps,
      ...composition.alternatives.flatMap(({ steps, parts }) => [
        ...steps,
        ...parts.flatMap((part) => ('attribute' in part ? part.steps : [])),
      ]),
    ];
    return {
      attribute,
      run: compileComposition(composition, context).run,
      column,
      slot: columns.indexOf(column),
      kind,
      sign: stepsOf.flatMap((step) =>
        step.step === 'number' || step.step === 'measure' ? (step.decimalSign ?? []) : [],
      )[0],
      term: terms.get(attribute),
      bare:
        kind === 'identifier' &&
        composition.alternatives.length === 1 &&
        composition.alternatives[0]?.parts.length === 1 &&
        stepsOf.every(({ step }) => step === 'trim'),
    };
  });
  const accepted = new Set<string>(mapping.repairs);
  const { key } = mapping;
  return (cells) => {
    const row: (Value | undefined)[] = new Array(columns.length);
    const wrapped: Proposal[] = [];
    for (let slot = 0; slot < columns.length; slot++) {
      const column = columns[slot] as string;
      const cell = cells[column];
      if (cell === undefined || cell.trim() === '') continue;
      if (saysNothing(cell)) {
        const proposal = sheetErrorDamage(cell);
        if (proposal) wrapped[slot] = proposal;
        continue;
      }
      if (isFormula(cell)) {
        const proposal = formulaDamage(cell);
        if (!proposal) return { reason: 'formula', column, found: cell };
        wrapped[slot] = proposal;
        row[slot] = accepted.has('formula') ? proposal.to : cell;
      } else row[slot] = cell;
    }
    const item = readRow(row, readers, { accepted, key, currency }, cells);
    if ('reason' in item) return item;
    const found = wrapped.flatMap((proposal, slot) =>
      readers.flatMap(({ attribute, column }) => (column === columns[slot] ? [{ attribute, proposal }] : [])),
    );
    return found.length === 0 ? item : { ...item, proposals: [...item.proposals, ...found] };
  };
}

const asTerm = (value: Value, term: (word: string) => string | undefined): Value =>
  typeof value === 'string' ? (term(value) ?? value) : value.map((word) => term(word) ?? word);

/** What a row is read under besides its readers. */
interface RowTerms {
  readonly accepted: ReadonlySet<string>;
  readonly key: ItemKey;
  readonly currency: string | undefined;
}

/** Why a value of some kind cannot be taken; undefined where it can. */
function refusalOf(
  kind: Attribute['kind'] | undefined,
  attribute: string,
  value: Value,
): Rejection | undefined {
  if (isCut(value)) return { reason: 'tooLong', attribute };
  const found = asText(value);
  if (kind === 'money') {
    const amount = readAmount(found)?.amount;
    if (amount === undefined)
      return attribute === 'price' ? { reason: 'price', found } : { reason: 'number', attribute, found };
    if (amount.startsWith('-')) return { reason: 'negative', attribute, found };
  }
  if (kind === 'number' && readNumber(found) === undefined) return { reason: 'number', attribute, found };
  if (kind === 'yesNo' && readYesNo(found) === undefined) return { reason: 'yesNo', attribute, found };
  return undefined;
}

/**
 * Parts amounts from the currencies they name. The item's own currency is the one its row says, else the one its price
 * names, else the catalog's; amounts in another are kept beside, as amounts in that one.
 */
function tellCurrencies(
  values: Record<string, Value>,
  cells: Record<string, { column: string; cell: string }>,
  readers: readonly AttributeReader[],
  catalog: string | undefined,
): Rejection | undefined {
  const stated = values.priceCurrency === undefined ? undefined : asText(values.priceCurrency);
  let own = stated === undefined ? undefined : (currencyOf(stated, catalog) ?? stated);
  if (own !== undefined) values.priceCurrency = own;
  const money = readers.filter(({ kind, attribute }) => kind === 'money' && values[attribute] !== undefined);
  // The price says it first; other amounts only where there is no price and no currency of the catalog.
  money.sort((a, b) => Number(b.attribute === 'price') - Number(a.attribute === 'price'));
  for (const { attribute } of money) {
    const amount = readAmount(asText(values[attribute]), own ?? catalog);
    if (!amount) continue;
    const fixed = currencyInCode(attribute)?.currency;
    const named = amount.currency;
    if (fixed !== undefined) {
      if (named !== undefined && named !== fixed)
        return { reason: 'currencies', attribute, found: asText(values[attribute]), currency: fixed };
    } else if (named !== undefined && own === undefined && (attribute === 'price' || catalog === undefined)) {
      own = named;
      const cell = cells[attribute];
      if (named !== catalog) {
        values.priceCurrency = named;
        if (cell) cells.priceCurrency = cell;
      }
    } else if (named !== undefined && named !== (own ?? catalog)) {
      if (stated !== undefined && attribute === 'price')
        return { reason: 'currencies', attribute, found: asText(values[attribute]), currency: own ?? stated };
      const beside = codeInCurrency(attribute, named);
      values[beside] = amount.amount;
      const cell = cells[attribute];
      if (cell) cells[beside] = cell;
      delete values[attribute];
      delete cells[attribute];
      continue;
    }
    values[attribute] = amount.amount;
  }
  return undefined;
}

function readRow(
  row: Row,
  readers: readonly AttributeReader[],
  { accepted, key, currency }: RowTerms,
  source: Readonly<Record<string, string>>,
): ReadItem | Rejection {
  const values: Record<string, Value> = {};
  const cells: ReadItem['cells'] & Record<string, { column: string; cell: string }> = {};
  const proposals: { attribute: string; proposal: Proposal }[] = [];
  let sku = '';
  let family: string | undefined;
  let swappedSign: { readonly attribute: string; readonly found: string } | undefined;
  for (const { attribute, run, column, slot, kind, sign, bare, term } of readers) {
    const created = run(row);
    if (created === undefined) continue;
    const taken = bare ? row[slot] : created;
    const found = bare && typeof taken === 'string' ? taken.replace(/^[ \t\r\n]+|[ \t\r\n]+$/g, '') : created;
    const cell = source[column] ?? '';
    const swapped = sign === undefined ? undefined : decimalDamage(cell, sign);
    if (swapped) {
      proposals.push({ attribute, proposal: swapped });
      if (!accepted.has('decimalSign')) {
        // The rest of the row is looked at all the same: what else is damaged in it is named with it.
        swappedSign ??= { attribute, found: cell };
        continue;
      }
    }
    const proposal = typeof found === 'string' ? damageOf(attribute, found) : undefined;
    if (proposal) proposals.push({ attribute, proposal });
    // What is no number says nothing until its repair is accepted: the rest of the row is none the worse.
    if (proposal?.damage === 'stockWord' && (proposal.to === undefined || !accepted.has('stockWord')))
      continue;
    const value = proposal?.to !== undefined && accepted.has(proposal.damage) ? proposal.to : found;
    if (attribute === 'sku') sku = asText(value);
    else if (attribute === 'family') family = asText(value);
    else {
      const refused = refusalOf(kind, attribute, value);
      if (refused) return refused;
      values[attribute] =
        attribute === 'countryOfOrigin'
          ? (countryCode(asText(value)) ?? value)
          : term
            ? asTerm(value, term)
            : value;
    }
    cells[attribute] = { column, cell: cell.slice(0, 200) };
  }
  if (swappedSign) return { reason: 'decimalSign', ...swappedSign, damaged: { sku, proposals } };
  const refused = tellCurrencies(values, cells, readers, currency);
  if (refused) return refused;
  if (key === 'sku')
    return sku === '' ? { reason: 'noSku' } : { sku, key: sku, family, values, cells, proposals };
  const found = asText(values[key]);
  if (found === '') return { reason: 'noKey', key };
  return { sku: sku || found, key: found, family, values, cells, proposals };
}
