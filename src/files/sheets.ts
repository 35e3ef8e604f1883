import { Writable } from 'node:stream';
import ExcelJS from 'exceljs';

/**
 * Writes a workbook with one sheet. Every cell is text, so that no leading zero is lost and nothing is taken for a formula.
 * @returns the file's bytes
 */
export async function writeSheet(
  name: string,
  headings: readonly string[],
  rows: Iterable<readonly string[]>,
): Promise<Uint8Array<ArrayBuffer>> {
  const pieces: Buffer[] = [];
  const stream = new Writable({
    write(piece: Buffer, _encoding, done) {
      pieces.push(piece);
      done();
    },
  });
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  const sheet = book.addWorksheet(name.slice(0, 31), { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = headings.map((heading) => ({
    header: heading,
    width: Math.min(60, Math.max(12, heading.length + 4)),
    style: { numFmt: '@' },
  }));
  sheet.getRow(1).font = { bold: true };
  sheet.getRow(1).commit();
  for (const row of rows) sheet.addRow([...row]).commit();
  sheet.commit();
  await book.commit();
  return new Uint8Array(Buffer.concat(pieces));
}
