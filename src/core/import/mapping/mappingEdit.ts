import { z } from 'zod';
import { attributeSchema } from '../../catalog/attributes';
import { ownEntry } from '../../catalog/value';
import { compositionSchema } from '../../compose/composition';
import { damages } from './damage';
import { type ImportMapping, importMappingSchema, itemKeys, missingWays } from './importMapping';
import { columnsOf } from './mapping';

/** One change to how a source is read. Small on purpose: two quick changes to different things both count. */
export const mappingEditSchema = z.discriminatedUnion('edit', [
  z.strictObject({
    edit: z.literal('field'),
    attribute: attributeSchema.shape.code,
    composition: compositionSchema.nullable(),
  }),
  z.strictObject({
    edit: z.literal('word'),
    table: z.string().min(1).max(100),
    word: z.string().max(1000),
    to: z.string().max(1000).nullable().meta({ description: 'empty removes the word from the mapping' }),
  }),
  z.strictObject({ edit: z.literal('key'), key: z.enum(itemKeys) }),
  z.strictObject({ edit: z.literal('missing'), missing: z.enum(missingWays) }),
  z.strictObject({
    edit: z.literal('grouping'),
    grouping: importMappingSchema.shape.grouping.unwrap().nullable(),
  }),
  z
    .strictObject({ edit: z.literal('overwrite'), attribute: attributeSchema.shape.code, on: z.boolean() })
    .meta({ description: 'takes the values of the file also where a person edited them by hand' }),
  z.strictObject({ edit: z.literal('repair'), damage: z.enum(damages), accepted: z.boolean() }),
]);
export type MappingEdit = z.infer<typeof mappingEditSchema>;

const without = <T>(record: Readonly<Record<string, T>>, name: string): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([key]) => key !== name));

/** Columns that fill nothing any more by a person's hand: they had filled something, or were left out before. */
function leftOutAfter(
  mapping: ImportMapping,
  fields: ImportMapping['fields'],
): Pick<ImportMapping, 'leftOut'> {
  const used = (all: ImportMapping['fields']) => Object.values(all).flatMap(columnsOf);
  const now = new Set(used(fields));
  const out = [...new Set([...(mapping.leftOut ?? []), ...used(mapping.fields)])];
  const leftOut = out.filter((column) => !now.has(column));
  return leftOut.length > 0 ? { leftOut } : {};
}

/** The mapping after an edit; the mapping given is left as it is. */
export function applyMappingEdit(mapping: ImportMapping, edit: MappingEdit): ImportMapping {
  switch (edit.edit) {
    case 'field': {
      const others = without(mapping.fields, edit.attribute);
      const fields = edit.composition ? { ...others, [edit.attribute]: edit.composition } : others;
      const { leftOut: _before, ...rest } = mapping;
      return { ...rest, fields, ...leftOutAfter(mapping, fields) };
    }
    case 'word': {
      const others = without(ownEntry(mapping.tables, edit.table) ?? {}, edit.word);
      const table = edit.to === null ? others : { ...others, [edit.word]: edit.to };
      return { ...mapping, tables: { ...mapping.tables, [edit.table]: table } };
    }
    case 'key':
      return { ...mapping, key: edit.key };
    case 'missing':
      return { ...mapping, missing: edit.missing };
    case 'grouping': {
      const { grouping: _before, ...others } = mapping;
      return edit.grouping ? { ...others, grouping: edit.grouping } : others;
    }
    case 'overwrite': {
      const others = (mapping.overwrite ?? []).filter((code) => code !== edit.attribute);
      return { ...mapping, overwrite: edit.on ? [...others, edit.attribute] : others };
    }
    case 'repair': {
      const others = (mapping.repairs ?? []).filter((damage) => damage !== edit.damage);
      return { ...mapping, repairs: edit.accepted ? [...others, edit.damage] : others };
    }
  }
}
