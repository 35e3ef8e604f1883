import { stringify } from 'csv-stringify/sync';
import type { Sheet } from '../channels/sheet';
import { cellsOf, type FeedRows, headingOf, type TextFormat } from './format';

/** Rows written at once. */
const piece = 200;

/**
 * Delimited text (RFC 4180): a row of names, then a row a listing. Separator, decimal sign, line ends and byte order mark
 * are the sheet's; a list stands in one cell, by the field's own separator.
 */
async function* writeDelimited(sheet: Sheet, rows: FeedRows, usual: string): AsyncGenerator<string> {
  const { separator = usual, lineEnd, mark } = sheet.delivery;
  const lines = (cells: readonly (readonly string[])[]) =>
    stringify(cells as string[][], {
      delimiter: separator,
      record_delimiter: lineEnd === 'lf' ? '\n' : '\r\n',
      // A line end of either kind inside a cell, and blanks that some readers would take away.
      quoted_match: /[\r\n]|^\s|\s$/,
    });
  const cells = cellsOf(sheet);
  yield (mark === 'utf8' ? '\ufeff' : '') + lines([headingOf(sheet)]);
  let waiting: string[][] = [];
  for await (const row of rows) {
    waiting.push(cells(row));
    if (waiting.length < piece) continue;
    yield lines(waiting);
    waiting = [];
  }
  if (waiting.length > 0) yield lines(waiting);
}

export const csv: TextFormat = {
  code: 'csv',
  mediaType: 'text/csv',
  ending: 'csv',
  write: (sheet, _head, rows) => writeDelimited(sheet, rows, ','),
};

export const tsv: TextFormat = {
  code: 'tsv',
  mediaType: 'text/tab-separated-values',
  ending: 'txt',
  write: (sheet, _head, rows) => writeDelimited(sheet, rows, '\t'),
};
