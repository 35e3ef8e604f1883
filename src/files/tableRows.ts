import { createReadStream } from 'node:fs';
import { emptyRecord } from '../core/catalog/value';
import { decodeStream, type Form } from '../core/import/encoding/decode';
import { joinHeadings } from '../core/import/headings/heading';
import { DelimitedReader } from '../core/import/tables/delimited';
import { FixedWidthReader } from '../core/import/tables/fixedWidth';
import { beginsPart, groupColumn, groupHeadingIn } from '../core/import/tables/groupHeadings';
import { pairReader } from '../core/import/tables/nameValueColumns';
import { readTables } from './tables';
import { readSheets } from './workbooks/xlsx';

export type Cells = readonly (string | undefined)[];

/** What splits text into rows. */
export const readerOf = ({ kind, separator, starts = [0], escapes }: Form): DelimitedReader =>
  kind === 'fixed'
    ? new FixedWidthReader(starts)
    : new DelimitedReader(separator, undefined, escapes === 'backslash');

/** The names of the columns, from one row or two. */
export const headingOf = (rows: readonly Cells[], row: number, lines: number): Cells | undefined =>
  lines === 2 ? joinHeadings(rows[row - 1] ?? [], rows[row] ?? []) : rows[row - 1];

/** Empty and repeated headings get names, so that every column can be mapped. */
export function uniqueNames(heading: readonly (string | undefined)[]): string[] {
  const seen = new Map<string, number>();
  return Array.from(heading, (cell, i) => {
    const name = (cell ?? '').trim() || `Column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}

/** Makes rows into cells by their columns, one after another from the first. */
export function rowReader(columns: readonly string[]): (row: Cells) => Record<string, string> {
  let addPairs = pairReader(columns);
  let section = '';
  /** What the part of the list that is being read calls its columns. */
  let here = columns;
  return (row) => {
    const cells = emptyRecord<string>();
    if (beginsPart(row, columns)) {
      here = uniqueNames(columns.map((name, at) => row[at]?.trim() || name));
      addPairs = pairReader(here);
    }
    for (let i = 0; i < here.length; i++) cells[here[i] as string] = row[i] ?? '';
    addPairs(cells);
    const begun = groupHeadingIn(row, columns.length);
    if (begun !== undefined) section = begun;
    else if (section !== '') cells[groupColumn] ??= section;
    return cells;
  };
}

export const filledIn = (row: readonly (string | undefined)[]): number =>
  row.filter((cell) => cell?.trim()).length;

/** The rows of a workbook's sheets, or of a page's tables. */
export const sheetRows = (
  path: string,
  { kind, encoding = 'utf-8', sheet }: Partial<Form>,
  onBytes: (bytes: number) => void = () => undefined,
  most?: number,
) =>
  kind === 'html'
    ? readTables(decodeStream(countBytes(path, onBytes), encoding), sheet)
    : readSheets(path, sheet, most);

export async function* countBytes(
  path: string,
  onBytes: (bytes: number) => void,
): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of createReadStream(path, { highWaterMark: 256 * 1024 }) as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    onBytes(bytes);
    yield chunk;
  }
}

/**
 * Whether a table leaves out empty cells at the end of its rows: some rows are shorter, in more than one length or at least
 * three of them, and no row of full length ends with an empty cell. A row that lost a cell in its middle looks otherwise.
 */
export function leavesOutEnds(rows: readonly Cells[], columns: number): boolean {
  const short = rows.filter((cells) => filledIn(cells) > 1 && cells.length < columns);
  const lengths = new Set(short.map((cells) => cells.length));
  return (
    (short.length >= 3 || lengths.size > 1) &&
    rows.every((cells) => (cells.at(-1) ?? '').trim() !== '' || cells.length < 2)
  );
}

/** The names of some columns, 0 being the first. */
export const namesAt = (columns: readonly string[], places: ReadonlySet<number> = new Set()): string[] =>
  columns.filter((_, at) => places.has(at));
