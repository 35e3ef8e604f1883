import type { Attribute } from '../core/catalog/attributes';
import {
  type EarlierColumn,
  type EarlierColumns,
  headingKey,
  readColumns,
} from '../core/import/columns/columns';
import type { ImportMapping } from '../core/import/mapping/importMapping';
import { columnsOf } from '../core/import/mapping/mapping';
import { mappingFrom } from '../core/import/mapping/suggestMapping';
import type { English } from '../core/words/forms';
import type { Head } from './head';
/** What a column may become: every attribute, and the family, which is none but is named by a column all the same. */
export const targetsFrom = (attributes: readonly Attribute[]): Attribute[] => [
  ...attributes,
  {
    code: 'family',
    label: 'Family',
    kind: 'identifier',
    synonyms: ['product group', 'parent', 'group code', 'style', 'modell'],
  },
];

/** What is known beside a file for reading its columns. */
export interface Knowledge {
  /** The language that texts are in where nothing says another. */
  readonly main?: string;
  /** What a word of a heading is in English. */
  readonly english?: English;
  /** What headings were in other sources. */
  readonly earlier?: EarlierColumns;
}

/** What the columns of a file are, and what else each may be. */
export const columnsRead = (head: Head, targets: readonly Attribute[], known: Knowledge = {}) =>
  readColumns(
    head.columns,
    head.records.map((one) => one.cells),
    targets,
    known.main,
    known.english,
    known.earlier,
  );

/** A mapping suggested for a file, from its headings and what its first records hold. */
export function suggestMapping(
  head: Head,
  attributes: readonly Attribute[],
  known: Knowledge = {},
): ImportMapping {
  const targets = targetsFrom(attributes);
  return mappingFrom(columnsRead(head, targets, known).matched, targets, head.form, head.records);
}

/**
 * What was settled in the mappings of other sources, to be asked heading by heading. An attribute that several columns fill
 * says nothing about one of them, nor does a column that holds several; one that a person had fill nothing is told as such.
 */
export function earlierColumns(
  sources: readonly {
    readonly name: string;
    readonly mapping: Pick<ImportMapping, 'fields' | 'leftOut'>;
  }[],
): EarlierColumns {
  const known = new Map<string, EarlierColumn[]>();
  const learn = (column: string, attribute: string | undefined, where: string) => {
    const key = headingKey(column);
    const those = known.get(key) ?? [];
    if (!those.some((one) => one.attribute === attribute)) those.push({ attribute, where });
    known.set(key, those);
  };
  for (const { name, mapping } of sources) {
    const used = Object.values(mapping.fields).flatMap(columnsOf);
    for (const [attribute, composition] of Object.entries(mapping.fields)) {
      const [column, ...more] = columnsOf(composition);
      const alone = more.length === 0 && used.indexOf(column ?? '') === used.lastIndexOf(column ?? '');
      if (column !== undefined && alone) learn(column, attribute, name);
    }
    for (const column of mapping.leftOut ?? []) learn(column, undefined, name);
  }
  return (heading) => known.get(heading) ?? [];
}
