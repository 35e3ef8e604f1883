import { z } from 'zod';
import type { Attribute } from '../catalog/attributes';
import { groupingWays } from '../catalog/grouping';
import type { Values } from '../catalog/item';
import { asText, attributeIndex, type Row, type Value } from '../catalog/value';
import {
  type Composition,
  compileComposition,
  compositionSchema,
  fromAttribute,
} from '../compose/composition';
import type { Step, valueTableSchema } from '../compose/steps';
import { readNumber } from '../measures/money';
import type { ColumnSuggestion } from './columns';
import { damageOf, damages, type Proposal } from './damage';

/**
 * How a source's columns become attributes: the same compositions as field mapping, their attribute parts naming columns.
 * `sku` is the key; `family` names the family an item belongs to.
 */
export const importMappingSchema = z.strictObject({
  format: z.literal('lively-cart/mapping@1'),
  encoding: z.enum(['utf-8', 'windows-1252']),
  separator: z.enum([',', ';', '\t', '|']),
  list: z
    .string()
    .optional()
    .meta({ description: 'path of the list of records, in JSON and XML; the largest where left out' }),
  fields: z
    .record(z.string(), compositionSchema)
    .meta({ description: 'by attribute code; attribute parts name columns' }),
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
});
export type ImportMapping = z.infer<typeof importMappingSchema>;

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

export function mappingFrom(
  suggestions: readonly ColumnSuggestion[],
  attributes: readonly Attribute[],
  form: Pick<ImportMapping, 'encoding' | 'separator'>,
): ImportMapping {
  const fields: Record<string, Composition> = {};
  for (const { column, attribute } of suggestions)
    fields[attribute] = fromAttribute(column, intakeSteps(attributes.find(({ code }) => code === attribute)));
  return { format: 'lively-cart/mapping@1', ...form, fields };
}

export interface ReadItem {
  readonly sku: string;
  readonly family: string | undefined;
  readonly values: Values;
  /** The column each value came from and what stood there. */
  readonly cells: Readonly<Record<string, { column: string; cell: string }>>;
  /** Damage that was found, repaired where its kind is accepted. */
  readonly proposals: readonly { attribute: string; proposal: Proposal }[];
}

export type Rejection =
  | { readonly reason: 'noSku' }
  | { readonly reason: 'noName' }
  | { readonly reason: 'price'; readonly found: string }
  | { readonly reason: 'number'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'repeated'; readonly sku: string; readonly row: number }
  | { readonly reason: 'cells'; readonly found: number; readonly wanted: number };

/** What a rejection says. */
export function rejectionWords(rejection: Rejection): string {
  switch (rejection.reason) {
    case 'noSku':
      return 'has no SKU';
    case 'noName':
      return 'has no name';
    case 'price':
      return `price “${rejection.found}” is not an amount`;
    case 'number':
      return `${rejection.attribute} “${rejection.found}” is not a number`;
    case 'repeated':
      return `repeats the SKU ${rejection.sku} of row ${rejection.row}`;
    case 'cells':
      return `has ${rejection.found} cells where the heading row has ${rejection.wanted}`;
  }
}

export type RowReader = (record: readonly string[]) => ReadItem | Rejection;

/**
 * Compiles a mapping over a file's columns. A row becomes an item or a rejection; it never throws.
 * @param attributes to know which values must be numbers
 */
export function compileMapping(
  mapping: ImportMapping,
  columns: readonly string[],
  attributes: readonly Attribute[],
): RowReader {
  const index = attributeIndex(columns);
  const context = {
    index,
    language: 'en',
    currency: 'EUR',
    tables: {} as Record<string, z.infer<typeof valueTableSchema>>,
  };
  const kinds = new Map(attributes.map(({ code, kind }) => [code, kind]));
  const readers = Object.entries(mapping.fields).map(([attribute, composition]) => {
    const first = composition.alternatives[0]?.parts.find((part) => 'attribute' in part);
    return {
      attribute,
      run: compileComposition(composition, context).run,
      column: first && 'attribute' in first ? first.attribute : '',
      numeric: kinds.get(attribute) === 'money' || kinds.get(attribute) === 'number',
    };
  });
  const accepted = new Set<string>(mapping.repairs);
  const slots = columns.map((column) => index.slotOf(column) as number);
  return (record) => {
    if (record.length !== columns.length)
      return { reason: 'cells', found: record.length, wanted: columns.length };
    const row: (Value | undefined)[] = new Array(index.codes.length);
    record.forEach((cell, i) => {
      if (cell.trim() !== '') row[slots[i] as number] = cell;
    });
    return readRow(row, readers, accepted, (column) => asText(row[index.slotOf(column) ?? -1]));
  };
}

interface AttributeReader {
  attribute: string;
  run(row: Row): Value | undefined;
  column: string;
  numeric: boolean;
}

function readRow(
  row: Row,
  readers: readonly AttributeReader[],
  accepted: ReadonlySet<string>,
  cellOf: (column: string) => string,
): ReadItem | Rejection {
  const values: Record<string, Value> = {};
  const cells: Record<string, { column: string; cell: string }> = {};
  const proposals: { attribute: string; proposal: Proposal }[] = [];
  let sku = '';
  let family: string | undefined;
  for (const { attribute, run, column, numeric } of readers) {
    const found = run(row);
    if (found === undefined) continue;
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
      values[attribute] = value;
    }
    cells[attribute] = { column, cell: cellOf(column).slice(0, 200) };
  }
  if (sku === '') return { reason: 'noSku' };
  return { sku, family, values, cells, proposals };
}
