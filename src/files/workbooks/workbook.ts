import { readFile } from 'node:fs/promises';
import { InputError } from '../../core/errors/inputError';
import { decodeBytes, detectEncoding, detectKind } from '../../core/import/encoding/decode';
import { tableRows } from '../../core/import/tables/delimited';
import { type BroughtRow, fixedHeadings, tableOf, type Workbook } from '../../core/workbooks/workbook';
import { readSheets } from './xlsx';

/** Rows of a workbook at most: it is held whole while it is written and read. */
export const MAX_WORKBOOK_ROWS = 20_000;
/** What such a file may have at most; whoever takes it from outside holds it to this. */
export const MAX_WORKBOOK_BYTES = 30_000_000;

/** The letters of a column, A for 1. */
const letters = (column: number): string =>
  column <= 26
    ? String.fromCharCode(64 + column)
    : letters(Math.floor((column - 1) / 26)) + String.fromCharCode(65 + ((column - 1) % 26));

/**
 * A workbook as an Excel file (ECMA-376): the heading stays in sight, each column's needs stand in its heading's note, what may be
 * chosen is a list in the cells. Every cell is text; nothing of it is a formula.
 */
export async function writeWorkbook(book: Workbook): Promise<Uint8Array<ArrayBuffer>> {
  const { default: ExcelJS } = await import('exceljs');
  const file = new ExcelJS.Workbook();
  const sheet = file.addWorksheet(book.title.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31), {
    views: [{ state: 'frozen', xSplit: 1, ySplit: 1 }],
  });
  const [heading = [], ...rows] = tableOf(book);
  sheet.columns = heading.map((name, at) => ({
    header: name,
    width: at === 2 ? 44 : Math.min(48, Math.max(14, name.length + 4)),
    style: { numFmt: '@', alignment: { vertical: 'top', wrapText: at === 2 } },
  }));
  sheet.getRow(1).font = { bold: true };
  for (const row of rows) sheet.addRow([...row]);
  const chosen = book.columns.filter(({ choices }) => choices.length > 0);
  const lists = chosen.length > 0 ? file.addWorksheet('Choices') : undefined;
  book.columns.forEach((column, n) => {
    const { label, notes, choices } = column;
    const at = fixedHeadings.length + n + 1;
    if (notes.length > 0) sheet.getCell(1, at).note = notes.join('\n');
    if (!lists || choices.length === 0) return;
    const place = chosen.indexOf(column) + 1;
    lists.getColumn(place).values = [label, ...choices];
    lists.getColumn(place).numFmt = '@';
    const range = `Choices!$${letters(place)}$2:$${letters(place)}$${choices.length + 1}`;
    for (let row = 2; row <= rows.length + 1; row++)
      sheet.getCell(row, at).dataValidation = {
        type: 'list',
        allowBlank: true,
        // Another word is told of, and may stand: the catalog's words are not always among them.
        showErrorMessage: true,
        errorStyle: 'warning',
        errorTitle: label,
        error: 'This is none of the words in the list.',
        formulae: [range],
      };
  });
  return new Uint8Array(await file.xlsx.writeBuffer());
}

/**
 * The rows of a table that came back, of its first sheet or of delimited text, the heading first.
 * @throws InputError where it cannot be read or is too long
 */
export async function readWorkbook(path: string): Promise<BroughtRow[]> {
  const bytes = await readFile(path);
  const rows: BroughtRow[] = [];
  if (detectKind(bytes.subarray(0, 4096)) === 'xlsx') {
    let first: string | undefined;
    for await (const { sheet, row, cells } of readSheets(path)) {
      first ??= sheet;
      if (sheet !== first) break;
      rows.push({ row, cells: Array.from(cells, (cell) => cell ?? '') });
      if (rows.length > MAX_WORKBOOK_ROWS + 1)
        throw new InputError('workbookTooLong', { most: MAX_WORKBOOK_ROWS });
    }
  } else
    for (const { line, cells } of tableRows(decodeBytes(bytes, detectEncoding(bytes.subarray(0, 65_536))))) {
      // A sign that would begin a formula went out behind an apostrophe.
      rows.push({ row: line, cells: cells.map((cell) => cell.replace(/^'(?=[=+\-@])/, '')) });
      if (rows.length > MAX_WORKBOOK_ROWS + 1)
        throw new InputError('workbookTooLong', { most: MAX_WORKBOOK_ROWS });
    }
  return rows;
}
