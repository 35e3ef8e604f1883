import { foldAlike } from '../../text/folding';

/** The column under which the heading stands that rows of a table are gathered below. */
export const groupColumn = 'Heading above';

/** Longer ones are notes. */
const MAX_CHARACTERS = 60;

/**
 * What a row says as the heading of those below it: "Pots" alone in one of the first cells. A code alone is an item that lacks the
 * rest, a sentence is a note.
 */
export function groupHeadingIn(row: readonly (string | undefined)[], columns: number): string | undefined {
  if (columns < 3) return undefined;
  const at = row.findIndex((cell) => cell?.trim());
  if (at < 0 || at > 1 || row.findLastIndex((cell) => cell?.trim()) !== at) return undefined;
  const text = row[at]?.trim() ?? '';
  // Nothing else is looked at in a long text, however long it is.
  if (text.length > MAX_CHARACTERS) return undefined;
  const code = /^\S*\d\S*$/.test(text);
  return /\p{L}{3}/u.test(text) && !code && !/[.!?;,]$/.test(text)
    ? text.replace(/:$/, '').trim()
    : undefined;
}

/**
 * Whether a row is the heading of another part of the list, whose columns are partly others: at least two of its names, and half of
 * all, stand where they stood before, and the others are as short as names are, and no amounts.
 */
export function beginsPart(row: readonly (string | undefined)[], columns: readonly string[]): boolean {
  let [same, other] = [0, 0];
  for (const [at, cell = ''] of row.entries()) {
    const text = cell.trim();
    if (text === '') continue;
    if (text.length > 40 || !/\p{L}{2}/u.test(text) || /\d{3}/.test(text)) return false;
    if (foldAlike(text, columns[at] ?? '')) same++;
    else other++;
  }
  return same > 1 && other > 0 && same >= other;
}

/** Whether a row says the heading again, as pages of a list begin with it. */
export function repeatsHeading(row: readonly (string | undefined)[], columns: readonly string[]): boolean {
  let same = 0;
  for (const [at, cell = ''] of row.entries()) {
    const text = cell.trim();
    if (text === '') continue;
    const name = columns[at] ?? '';
    // Folding a long text takes long, and most rows differ in their first cell.
    if (text !== name && (Math.abs(text.length - name.length) > 2 || !foldAlike(text, name))) return false;
    same++;
  }
  return same > 1;
}
