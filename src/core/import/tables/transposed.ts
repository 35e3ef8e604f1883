import { startingAttributes } from '../../catalog/attributes';
import { fold } from '../../text/folding';
import { headingLexicon, headingMeaning } from '../headings/headingLexicon';
import { headingWords } from '../headings/headings';
import { MAX_NAME } from './nameValueColumns';

/** Tables whose items stand beside each other, a column each, and the values below each other: they are turned before they are read. */

type Cells = readonly (string | undefined)[];

/** Rows of a table that is turned: each becomes a column. It is held whole in memory. */
export const MAX_TURNED_ROWS = 240;
const MIN_ROWS = 4;

const solid = (text: string): string => fold(text).replace(/ /g, '');
let known: ReadonlySet<string> | undefined;

/** Whether a cell is what columns are called. */
function names(cell: string): boolean {
  if (cell.length > MAX_NAME) return false;
  known ??= new Set([
    ...[...headingLexicon.values()].flat().map(solid),
    ...startingAttributes.flatMap(({ label, synonyms }) => [label, ...synonyms].map(solid)),
  ]);
  const bare = headingWords(cell).name;
  return known.has(solid(cell)) || known.has(solid(bare)) || headingMeaning(bare)?.whole === true;
}

const share = (cells: readonly string[]): number =>
  cells.length === 0 ? 0 : cells.filter(names).length / cells.length;

/**
 * Whether the items of a table stand beside each other: its first column reads as names of columns do, and no row does.
 * @param rows the whole table
 */
export function isTransposed(rows: readonly Cells[]): boolean {
  const table = rows.filter((row) => row.filter((cell) => cell?.trim()).length > 1);
  if (table.length < MIN_ROWS || table.length > MAX_TURNED_ROWS) return false;
  const first = table.map((row) => row[0]?.trim() ?? '');
  if (new Set(first).size < first.length || share(first) < 0.6) return false;
  return table.every((row) => share(row.slice(1).flatMap((cell) => cell?.trim() || [])) < 0.3);
}

/** A table with its rows as columns. */
export function transposed(rows: readonly Cells[]): string[][] {
  const width = rows.reduce((most, row) => Math.max(most, row.length), 0);
  return Array.from({ length: width }, (_, column) => rows.map((row) => row[column] ?? ''));
}
