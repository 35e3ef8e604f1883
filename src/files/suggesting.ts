import type { Attribute } from '../core/catalog/attributes';
import { type English, suggestColumns } from '../core/intake/columns';
import { type ImportMapping, mappingFrom } from '../core/intake/mapping';
import type { Head } from './reading';

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

/**
 * A mapping suggested for a file, from its headings and what its first records hold.
 * @param main the language that texts are in where nothing says another
 * @param english what a word of a heading is in English
 */
export function suggestMapping(
  head: Head,
  attributes: readonly Attribute[],
  main?: string,
  english?: English,
): ImportMapping {
  const targets = targetsFrom(attributes);
  const cells = head.records.map((one) => one.cells);
  const columns = suggestColumns(head.columns, cells, targets, main, english);
  return mappingFrom(columns, targets, head.form, head.records);
}
