import type { CellValue } from 'exceljs';
import yauzl from 'yauzl';
import { InputError } from '../core/errors/inputError';

/** Unpacked, a workbook may be this large, and this many times its packed size; more is an attack, not a price list. */
const mostUnpacked = 2 * 1024 ** 3;
const mostRatio = 150;
const mostShared = 192 * 1024 ** 2;
const freeUnpacked = 32 * 1024 ** 2;

const refusal = (why: string) => new InputError('workbookRefused', { why });

/**
 * Unpacks a workbook once without keeping anything, so that nothing reads an archive that blows up.
 * Sizes are counted, not believed.
 * @throws InputError
 */
async function refuseBomb(path: string): Promise<void> {
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.open(path, { lazyEntries: true, autoClose: false }, (error, opened) =>
      opened ? resolve(opened) : reject(refusal(`is not a readable archive: ${error?.message ?? ''}`)),
    ),
  );
  try {
    let unpacked = 0;
    let packed = 0;
    let entries = 0;
    const names: string[] = [];
    await new Promise<void>((resolve, reject) => {
      zip.on('error', (error) => reject(refusal(`is not a readable archive: ${error.message}`)));
      zip.on('end', () => resolve());
      zip.on('entry', (entry: yauzl.Entry) => {
        names.push(entry.fileName);
        packed += entry.compressedSize;
        if (++entries > 5000) return reject(refusal('holds more than 5,000 parts'));
        if (entry.fileName.endsWith('/')) return zip.readEntry();
        let own = 0;
        zip.openReadStream(entry, (error, stream) => {
          if (error || !stream) return reject(refusal(`cannot be unpacked: ${error?.message ?? ''}`));
          stream.on('data', (chunk: Buffer) => {
            unpacked += chunk.length;
            own += chunk.length;
            // The words that cells share are held in memory while the rows are read.
            if (own > mostShared && entry.fileName === 'xl/sharedStrings.xml') {
              stream.destroy();
              reject(
                refusal('shares more than 192 MB of words between its cells; split it, or save it as CSV'),
              );
              return;
            }
            if (unpacked > mostUnpacked || (unpacked > freeUnpacked && unpacked > packed * mostRatio)) {
              stream.destroy();
              reject(
                refusal(
                  `unpacks to more than ${mostRatio} times its size, as only a file made to fill a machine does; save it anew and bring it in again`,
                ),
              );
            }
          });
          stream.on('error', (bad) => reject(refusal(`cannot be unpacked: ${bad.message}`)));
          stream.on('end', () => zip.readEntry());
        });
      });
      zip.readEntry();
    });
    if (!names.includes('xl/workbook.xml'))
      throw refusal('is an archive of something else: it has no sheets');
  } finally {
    zip.close();
  }
}

export interface SheetRow {
  readonly sheet: string;
  readonly row: number;
  readonly cells: readonly string[];
  /** Address of the first cell that holds a formula. */
  readonly formula: string | undefined;
}

/** A cell as text. Dates come as ISO 8601 dates, formulas not at all: what a file claims a formula gives is not trusted. */
function cellText(value: CellValue): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().replace(/T00:00:00\.000Z$/, '');
  if (typeof value !== 'object') return String(value);
  if ('richText' in value) return value.richText.map(({ text }) => text).join('');
  if ('text' in value) return typeof value.text === 'string' ? value.text : cellText(value.text);
  if ('error' in value) return '';
  return '';
}

const isFormulaCell = (value: CellValue): boolean =>
  typeof value === 'object' && value !== null && ('formula' in value || 'sharedFormula' in value);

/**
 * Streams the rows of a workbook, sheet after sheet.
 * @param wanted only this sheet; all where undefined
 * @throws InputError where the archive is broken, blows up, or is too wide
 */
export async function* readSheets(path: string, wanted?: string): AsyncGenerator<SheetRow> {
  await refuseBomb(path);
  const { default: ExcelJS } = await import('exceljs');
  const reader = new ExcelJS.stream.xlsx.WorkbookReader(path, {
    worksheets: 'emit',
    sharedStrings: 'cache',
    hyperlinks: 'ignore',
    styles: 'cache',
    entries: 'ignore',
  });
  try {
    for await (const sheet of reader) {
      const name = (sheet as unknown as { name: string }).name;
      const skip = wanted !== undefined && name !== wanted;
      for await (const row of sheet) {
        if (skip) continue;
        if (row.cellCount > 2000)
          throw refusal(
            `has ${row.cellCount.toLocaleString('en')} columns in row ${row.number}; 2,000 are the most`,
          );
        const cells: string[] = [];
        let formula: string | undefined;
        row.eachCell({ includeEmpty: true }, (cell, column) => {
          cells[column - 1] = cellText(cell.value);
          if (isFormulaCell(cell.value)) formula ??= cell.address;
        });
        yield { sheet: name, row: row.number, cells, formula };
      }
    }
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw refusal(`cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}
