import type { CellValue } from 'exceljs';
import { InputError } from '../../core/errors/inputError';
import { formatNumber } from '../../core/formatting/formatting';
import { isArchive, isCompound, isSheetsAsXml } from '../../core/import/encoding/decode';
import { beginningOf, partsOfWorkbook } from '../packed/archives';
import { fillDown, readOtherSheets, type SheetRow } from './binarySheets';

const refusal = (why: string) => new InputError('workbookRefused', { why });

/** A cell as text. Dates come as ISO 8601 dates; no formula is ever run, and what the file stores as its result counts. */
function cellText(value: CellValue): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().replace(/T00:00:00\.000Z$/, '');
  if (typeof value !== 'object') return String(value);
  if ('richText' in value) return value.richText.map(({ text }) => text).join('');
  if ('text' in value) return typeof value.text === 'string' ? value.text : cellText(value.text);
  if ('error' in value) return '';
  if ('result' in value) return cellText(value.result);
  return '';
}

/** Whether a cell holds a formula without a result: it was never calculated, or its result is an error. */
const lacksResult = (value: CellValue): boolean =>
  typeof value === 'object' &&
  value !== null &&
  ('formula' in value || 'sharedFormula' in value) &&
  cellText(value) === '' &&
  value.result !== '';
const holdsFormula = (value: CellValue): boolean =>
  typeof value === 'object' && value !== null && ('formula' in value || 'sharedFormula' in value);

/**
 * The rows of a workbook of any kind, sheet after sheet: XLSX as a stream, others as a whole. Its bytes say what it is.
 * @param wanted only this sheet; all where undefined
 * @param most so many rows of each sheet are enough; others may come all the same
 * @throws InputError where it is broken, blows up, or is too wide
 */
export async function* readSheets(path: string, wanted?: string, most?: number): AsyncGenerator<SheetRow> {
  const begin = await beginningOf(path);
  if (isCompound(begin) || isSheetsAsXml(begin)) return yield* readOtherSheets(path, wanted, most);
  if (!isArchive(begin)) throw refusal('is none: it is no archive');
  const { parts, unpacked, merged } = await partsOfWorkbook(path);
  if (parts.includes('xl/workbook.bin') || parts.includes('content.xml'))
    return yield* readOtherSheets(path, wanted, most, unpacked);
  if (!parts.includes('xl/workbook.xml')) throw refusal('is an archive of something else: it has no sheets');
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
      const fill = fillDown(merged.get(String((sheet as unknown as { id: string | number }).id)) ?? []);
      for await (const row of sheet) {
        if (skip) continue;
        if (row.cellCount > 2000)
          throw refusal(
            `has ${formatNumber(row.cellCount)} columns in row ${row.number}; 2,000 are the most`,
          );
        const cells: string[] = [];
        let formula: string | undefined;
        const calculated: number[] = [];
        row.eachCell({ includeEmpty: true }, (cell, column) => {
          cells[column - 1] = cellText(cell.value);
          if (lacksResult(cell.value)) formula ??= cell.address;
          else if (holdsFormula(cell.value)) calculated.push(column - 1);
        });
        fill(row.number, cells);
        yield { sheet: name, row: row.number, cells, formula, calculated };
      }
    }
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw refusal(`cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}
