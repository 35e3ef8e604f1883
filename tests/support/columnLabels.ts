/** Heading rows of tables with the attribute that a person gave each column, and how often the suggested one is right. */
import { readFileSync } from 'node:fs';
import { startingAttributes } from '../../src/core/catalog/attributes';
import { readColumns } from '../../src/core/import/columns/columns';
import type { English } from '../../src/core/words/forms';

export interface ColumnResult {
  readonly table: string;
  readonly column: string;
  readonly right: string;
  readonly found: string;
  /** 0 where the attribute that was found is right, 1 and 2 where a further one that is offered is, else -1. */
  readonly rank: number;
  readonly confidence: number;
}

/**
 * What is suggested for every labelled column. A column that fills nothing is right where nothing is suggested for it.
 * Each table of the file: a line with its name, its headings, the right attributes (`-` for none), and a few rows.
 */
export function columnResults(file: 'held' | 'tuning', english?: English): ColumnResult[] {
  const tables = readFileSync(`tests/data/labels/columns-${file}.tsv`, 'utf8').trimEnd().split('\n\n');
  return tables.flatMap((text) => {
    const [title = '', heading = '', labels = '', ...rows] = text.split('\n');
    const columns = heading.split('\t');
    const sample = rows.map((row) =>
      Object.fromEntries(row.split('\t').map((cell, at) => [columns[at] ?? '', cell])),
    );
    const { matched, fits } = readColumns(columns, sample, startingAttributes, 'en', english);
    return labels.split('\t').map((right, at) => {
      const column = columns[at] ?? '';
      const own = matched.find((one) => one.column === column);
      const named = own?.attribute ?? '-';
      const rightOnes = right.split(',');
      const others = (fits.get(column) ?? []).filter(({ attribute }) => attribute !== named);
      const later = others.slice(0, 2).findIndex(({ attribute }) => rightOnes.includes(attribute));
      return {
        table: title.slice(2),
        column,
        right,
        found: named,
        rank: rightOnes.includes(named) ? 0 : later < 0 ? -1 : later + 1,
        confidence: own?.score ?? 0,
      };
    });
  });
}
