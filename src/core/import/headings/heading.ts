import { currencyOf } from '../../measures/currencies';
import { readNumber } from '../../measures/numbers';
import { unitOf } from '../../measures/units';

type Cells = readonly (string | undefined)[];

const filled = (row: Cells): string[] =>
  Array.from(row, (cell) => cell?.trim() ?? '').filter((cell) => cell !== '');

/** Whether a cell could name a column: words, short, no amount, no address, no code of digits. */
const isName = (cell: string): boolean =>
  cell.length <= 60 &&
  /\p{L}/u.test(cell) &&
  !/^https?:|@\w+\.|\s\S+\s.*[.!?]$/u.test(cell) &&
  readNumber(cell) === undefined;

const share = (cells: readonly string[], test: (cell: string) => boolean): number =>
  cells.length === 0 ? 0 : cells.filter(test).length / cells.length;

/** The number of filled cells that most rows have, of those with the most. */
function usualWidth(rows: readonly Cells[]): number {
  const widths = rows.map((row) => filled(row).length).sort((a, b) => b - a);
  return widths[Math.floor(widths.length / 4)] ?? 0;
}

/** A day, a year or a page, as titles of lists have them and names of columns do not. */
const ofTitles =
  /\b\d{1,4}[./-]\d{1,2}[./-]\d{2,4}\b|\b20\d\d\b|\b(?:page|seite|página|pagina|strona|sida|blad)\b\D{0,3}\d/iu;

/** How far down a heading is looked for. */
const MAX_ABOVE = 30;

/**
 * Where the heading of a table stands: below titles, notes, empty rows and a line that names the separator.
 * @param rows the first rows of a file
 * @returns its row, 1 being the first
 */
export function findHeading(rows: readonly Cells[]): number {
  const width = usualWidth(rows);
  for (const [at, row] of rows.slice(0, MAX_ABOVE).entries()) {
    const cells = filled(row);
    if (cells.length < Math.min(2, width) || cells.length < width / 2) continue;
    if (cells.length < Math.min(3, width) && cells.some((cell) => ofTitles.test(cell))) continue;
    // A row of values above all names is no heading; one that is as wide as the table and names most of it is.
    if (share(cells, isName) >= 0.6 && new Set(cells).size > cells.length / 2) return at + 1;
    if (share(cells, isName) < 0.3) break;
  }
  // Nothing reads like names: the first row that is as wide as the table.
  const first = rows.findIndex((row) => filled(row).length >= Math.max(Math.min(2, width), width / 2));
  return first < 0 ? 1 : first + 1;
}

const isUnit = (cell: string): boolean =>
  cell === '%' || unitOf(cell) !== undefined || currencyOf(cell) !== undefined;

/** Whether a row says in what the values of each column are: nothing but units and currencies, under some of the names. */
const saysUnits = (row: Cells): boolean => {
  const cells = filled(row).map((cell) => cell.replace(/^[([]\s*|\s*[)\]]$/g, ''));
  return cells.length > 1 && cells.every(isUnit);
};

/**
 * Whether the heading goes on in the row below it: names of groups above ("Price" over "net" and "gross"), or words that
 * say more of the name above, as merged cells leave them.
 */
export function headingRows(rows: readonly Cells[], headingRow: number): 1 | 2 {
  const [above = [], below = [], ...rest] = rows.slice(headingRow - 1);
  const upper = filled(above);
  const lower = filled(below);
  if (rest.length > 0 && lower.length <= upper.length && saysUnits(below)) return 2;
  if (lower.length === 0 || rest.length === 0 || upper.length >= usualWidth(rest) + 1) return 1;
  const width = usualWidth(rest);
  const gaps = width > 0 && upper.length < width && lower.length >= 2;
  if (!gaps || share(lower, isName) < 1 || lower.some((cell) => cell.length > 30)) return 1;
  // Rows of values hold amounts, codes or addresses somewhere; a row of names holds none.
  const values = rest.slice(0, 10).map(filled);
  return values.length > 0 && values.every((cells) => share(cells, isName) < 1) ? 2 : 1;
}

/** The names of a heading in two rows: each group's name goes on to the right, as far as nothing else stands there. */
export function joinHeadings(above: Cells, below: Cells): string[] {
  let group = '';
  if (saysUnits(below))
    return Array.from(above, (cell, at) => {
      const unit = below[at]?.trim().replace(/^[([]\s*|\s*[)\]]$/g, '') ?? '';
      return unit === '' ? (cell ?? '') : `${cell?.trim() ?? ''} (${unit})`;
    });
  return Array.from({ length: Math.max(above.length, below.length) }, (_, at) => {
    const upper = above[at]?.trim() ?? '';
    const lower = below[at]?.trim() ?? '';
    if (upper !== '') group = upper;
    if (lower === '') return upper;
    return group === '' || group === lower ? lower : `${group} ${lower}`;
  });
}
