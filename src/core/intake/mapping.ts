import { z } from 'zod';
import type { Attribute } from '../catalog/attributes';
import { groupingWays } from '../catalog/grouping';
import type { Values } from '../catalog/item';
import { termFinder } from '../catalog/terms';
import { asText, attributeIndex, type Row, type Value } from '../catalog/value';
import {
  type Composition,
  compileComposition,
  compositionSchema,
  fromAttribute,
} from '../compose/composition';
import { type Step, valueTableSchema } from '../compose/steps';
import { readNumber } from '../measures/money';
import type { ColumnSuggestion } from './columns';
import { damageOf, damages, decimalDamage, formulaDamage, isFormula, type Proposal } from './damage';
import { encodings, type Form, separators, sourceKinds } from './decode';
import type { SourceRecord } from './records';

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
  sheet: z.string().optional().meta({ description: 'the sheet of a workbook' }),
  headingRow: z.number().int().positive().optional().meta({ description: 'the first row where left out' }),
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
    .record(z.string(), compositionSchema)
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
});
export type ImportMapping = z.infer<typeof importMappingSchema>;

/** The part of a mapping that says how its file is read. */
export const formOf = (mapping: ImportMapping): Form => ({
  kind: mapping.kind,
  encoding: mapping.encoding,
  separator: mapping.separator,
  ...(mapping.sheet === undefined ? {} : { sheet: mapping.sheet }),
  ...(mapping.headingRow === undefined ? {} : { headingRow: mapping.headingRow }),
  ...(mapping.list === undefined ? {} : { list: mapping.list }),
  ...(mapping.variants === undefined ? {} : { variants: mapping.variants }),
});

/** The steps that bring a cell into the form an attribute is kept in. */
export function intakeSteps(attribute: Attribute | undefined): Step[] {
  switch (attribute?.kind) {
    case 'money':
    case 'number':
      return [{ step: 'number' }];
    case 'pictures':
      return [{ step: 'split', at: '|' }];
    case 'measure':
      return [{ step: 'measure' }];
    case 'richText':
      return [];
    default:
      return [{ step: 'trim' }];
  }
}

/** The decimal sign that the cells of a column agree on, where at least three of them tell. */
function decimalSignOf(cells: readonly string[]): ',' | '.' | undefined {
  const telling = cells.flatMap((cell) => /\d([.,])\d{1,2}(?:\D|$)/.exec(cell)?.[1] ?? []);
  const commas = telling.filter((sign) => sign === ',').length;
  if (telling.length < 3) return undefined;
  return commas >= telling.length * 0.8 ? ',' : commas <= telling.length * 0.2 ? '.' : undefined;
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
  for (const { column, attribute } of suggestions) {
    const steps = intakeSteps(attributes.find(({ code }) => code === attribute));
    const sign = decimalSignOf(sample.map(({ cells }) => cells[column] ?? ''));
    fields[attribute] = fromAttribute(
      column,
      steps.map((step) => (step.step === 'number' && sign ? { ...step, decimalSign: sign } : step)),
    );
  }
  return importMappingSchema.parse({
    format: 'lively-cart/mapping@1',
    ...form,
    fields,
    ...(form.variants
      ? { grouping: { by: 'nesting' } }
      : fields.family
        ? { grouping: { by: 'sharedCode' } }
        : {}),
  });
}

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
  | { readonly reason: 'decimalSign'; readonly attribute: string; readonly found: string }
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
  numeric: boolean;
  /** The decimal sign the column is said to use. */
  sign: ',' | '.' | undefined;
  /** A code that is only trimmed: what cannot be seen in it is told, not trimmed away with the blanks. */
  bare: boolean;
  /** Finds the term of a choice that a word is a synonym of. */
  term: ((word: string) => string | undefined) | undefined;
}

/**
 * Compiles a mapping. A record becomes an item or a rejection; it never throws.
 * @param attributes to know which values must be numbers
 */
export function compileMapping(mapping: ImportMapping, attributes: readonly Attribute[]): RowReader {
  const columns = [...new Set(Object.values(mapping.fields).flatMap(columnsOf))];
  const index = attributeIndex(columns);
  const context = { index, language: 'en', currency: 'EUR', tables: mapping.tables };
  const kinds = new Map(attributes.map(({ code, kind }) => [code, kind]));
  const terms = new Map(
    attributes.flatMap((one) =>
      one.kind === 'choice' && one.terms?.length ? [[one.code, termFinder(one.terms)] as const] : [],
    ),
  );
  const readers = Object.entries(mapping.fields).map(([attribute, composition]): AttributeReader => {
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
      numeric: kinds.get(attribute) === 'money' || kinds.get(attribute) === 'number',
      sign: stepsOf.flatMap((step) => (step.step === 'number' ? (step.decimalSign ?? []) : []))[0],
      term: terms.get(attribute),
      bare:
        kinds.get(attribute) === 'identifier' &&
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
      if (isFormula(cell)) {
        const proposal = formulaDamage(cell);
        if (!proposal) return { reason: 'formula', column, found: cell };
        wrapped[slot] = proposal;
        row[slot] = accepted.has('formula') ? proposal.to : cell;
      } else row[slot] = cell;
    }
    const item = readRow(row, readers, accepted, key, cells);
    if ('reason' in item) return item;
    const found = wrapped.flatMap((proposal, slot) =>
      readers.flatMap(({ attribute, column }) => (column === columns[slot] ? [{ attribute, proposal }] : [])),
    );
    return found.length === 0 ? item : { ...item, proposals: [...item.proposals, ...found] };
  };
}

const asTerm = (value: Value, term: (word: string) => string | undefined): Value =>
  typeof value === 'string' ? (term(value) ?? value) : value.map((word) => term(word) ?? word);

function readRow(
  row: Row,
  readers: readonly AttributeReader[],
  accepted: ReadonlySet<string>,
  key: ItemKey,
  source: Readonly<Record<string, string>>,
): ReadItem | Rejection {
  const values: Record<string, Value> = {};
  const cells: Record<string, { column: string; cell: string }> = {};
  const proposals: { attribute: string; proposal: Proposal }[] = [];
  let sku = '';
  let family: string | undefined;
  for (const { attribute, run, column, slot, numeric, sign, bare, term } of readers) {
    const made = run(row);
    if (made === undefined) continue;
    const taken = bare ? row[slot] : made;
    const found = bare && typeof taken === 'string' ? taken.replace(/^[ \t\r\n]+|[ \t\r\n]+$/g, '') : made;
    const cell = source[column] ?? '';
    const swapped = sign === undefined ? undefined : decimalDamage(cell, sign);
    if (swapped) {
      proposals.push({ attribute, proposal: swapped });
      if (!accepted.has('decimalSign')) return { reason: 'decimalSign', attribute, found: cell };
    }
    const proposal = typeof found === 'string' ? damageOf(attribute, found) : undefined;
    if (proposal) proposals.push({ attribute, proposal });
    const value = proposal?.to !== undefined && accepted.has(proposal.damage) ? proposal.to : found;
    if (attribute === 'sku') sku = asText(value);
    else if (attribute === 'family') family = asText(value);
    else {
      if (numeric && readNumber(asText(value)) === undefined)
        return attribute === 'price'
          ? { reason: 'price', found: asText(value) }
          : { reason: 'number', attribute, found: asText(value) };
      values[attribute] = term ? asTerm(value, term) : value;
    }
    cells[attribute] = { column, cell: cell.slice(0, 200) };
  }
  if (key === 'sku')
    return sku === '' ? { reason: 'noSku' } : { sku, key: sku, family, values, cells, proposals };
  const found = asText(values[key]);
  if (found === '') return { reason: 'noKey', key };
  return { sku: sku || found, key: found, family, values, cells, proposals };
}
