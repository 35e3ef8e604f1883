import { z } from 'zod';
import { attributeSchema } from '../../catalog/attributes';
import { groupingWays } from '../../catalog/grouping';
import { compositionSchema } from '../../compose/composition';
import { valueTableSchema } from '../../compose/steps';
import { encodings, type Form, separators, sourceKinds } from '../encoding/decode';
import { damages } from './damage';

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
    description: 'how delimited text escapes separators; doubled quotation marks by default',
  }),
  begins: z.string().optional().meta({
    description:
      'the name that each block begins with, in text with a line a value; empty where empty lines part them',
  }),
  sheet: z.string().optional().meta({ description: 'the sheet of a workbook' }),
  headingRow: z.number().int().positive().optional().meta({ description: 'the first row by default' }),
  headingLines: z
    .union([z.literal(1), z.literal(2)])
    .optional()
    .meta({ description: 'rows of the heading; one by default' }),
  shortRows: z
    .boolean()
    .optional()
    .meta({ description: 'whether rows may omit empty cells at their end; no by default' }),
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
    .meta({ description: 'path of the list of records, in JSON and XML; the largest by default' }),
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
    .meta({ description: "value mappings that steps look up: the source's word → ours" }),
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
    description: 'attributes whose values are taken from the file also where a person edited them by hand',
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
