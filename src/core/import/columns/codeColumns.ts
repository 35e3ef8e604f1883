/** In so many of the filled cells. */
const MOST = 0.8;
const MIN_CELLS = 5;

/**
 * How many codes of a column are shorter than nearly all others, which are digits of one length and begin with zeros here and there: a
 * spreadsheet may have taken their zeros away. 0 where the lengths differ anyway.
 */
export function shortenedCodes(cells: readonly string[]): number {
  const codes = cells.map((cell) => cell.trim()).filter((cell) => /^\d+$/.test(cell));
  if (codes.length < MIN_CELLS || codes.length < cells.filter((cell) => cell.trim() !== '').length) return 0;
  const counts = new Map<number, number>();
  for (const { length } of codes) counts.set(length, (counts.get(length) ?? 0) + 1);
  const [usual = 0, count = 0] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [];
  const zeros = codes.some((code) => code.length === usual && code.startsWith('0'));
  return zeros && count >= codes.length * MOST ? codes.filter(({ length }) => length < usual).length : 0;
}
