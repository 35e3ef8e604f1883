import { fold } from '../text/folding';

/** The column under which the heading stands that rows of a table are gathered below. */
export const sectionColumn = 'Heading above';

/** Longer ones are notes. */
const mostSigns = 60;

/**
 * What a row says as the heading of those below it: "Pots" alone in one of the first cells. A code alone is an item that lacks the
 * rest, a sentence is a note.
 */
export function sectionIn(row: readonly (string | undefined)[], columns: number): string | undefined {
  if (columns < 3) return undefined;
  const at = row.findIndex((cell) => cell?.trim());
  if (at < 0 || at > 1 || row.findLastIndex((cell) => cell?.trim()) !== at) return undefined;
  const text = row[at]?.trim() ?? '';
  const code = /^\S*\d\S*$/.test(text);
  return text.length <= mostSigns && /\p{L}{3}/u.test(text) && !code && !/[.!?;,]$/.test(text)
    ? text.replace(/:$/, '').trim()
    : undefined;
}

/** Whether a row says the heading again, as pages of a list begin with it. */
export const repeatsHeading = (row: readonly (string | undefined)[], columns: readonly string[]): boolean =>
  row.filter((cell) => cell?.trim()).length > 1 &&
  row.every((cell, at) => !cell?.trim() || fold(cell.trim()) === fold(columns[at] ?? ''));
