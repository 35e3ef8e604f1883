import { readFile, stat } from 'node:fs/promises';
import type { CellObject, DenseWorkSheet } from '@e965/xlsx';
import { InputError } from '../../core/errors/inputError';
import { formatNumber } from '../../core/formatting/formatting';
import type { MergedDown } from '../packed/archives';

/** These are read as a whole; an old workbook holds 65,536 rows at most, and is never this large. Packed or not, in bytes. */
const mostBytes = { file: 64 * 1024 ** 2, unpacked: 256 * 1024 ** 2 };
const MAX_COLUMNS = 2000;

const refusal = (why: string) => new InputError('workbookRefused', { why });

/** A cell as text. Dates come as ISO 8601 dates; no formula is ever run, and what the file stores as its result counts. */
function cellText({ t, v }: CellObject): string {
  if (v === undefined || t === 'e' || t === 'z') return '';
  if (v instanceof Date) return v.toISOString().replace(/T00:00:00\.000Z$/, '');
  return String(v);
}

/**
 * The rows of workbooks of other kinds: old binary ones (XLS), new binary ones (XLSB) and OpenDocument's (ODS), sheet after sheet.
 * @param wanted only this sheet; all where undefined
 * @param most rows of each sheet: a look at the beginning takes a part of the time that all takes
 * @param unpacked bytes that it holds, where it is an archive
 * @throws InputError where it is too large, locked, or cannot be read
 */
export async function* readOtherSheets(
  path: string,
  wanted?: string,
  most?: number,
  unpacked = 0,
): AsyncGenerator<SheetRow> {
  if ((await stat(path)).size > mostBytes.file || unpacked > mostBytes.unpacked)
    throw refusal('is too large for its kind, which is read as a whole; save it as XLSX or CSV');
  // Large, and wanted by few. Workbooks older than 1997 write their letters in a code page.
  const [{ read, set_cptable, utils }, codePages] = await Promise.all([
    import('@e965/xlsx'),
    import('@e965/xlsx/dist/cpexcel'),
  ]);
  set_cptable(codePages);
  const bytes = await readFile(path);
  let book: ReturnType<typeof read>;
  // It prints what it makes of number formats, which nothing here looks at.
  const { error: print } = console;
  try {
    console.error = () => undefined;
    book = read(bytes, {
      type: 'buffer',
      dense: true,
      cellDates: true,
      UTC: true,
      cellHTML: false,
      cellText: false,
      ...(wanted === undefined ? {} : { sheets: wanted }),
      ...(most === undefined ? {} : { sheetRows: most }),
    });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw refusal(
      /password|encrypt/i.test(why)
        ? 'is locked with a password; save it without one'
        : `cannot be read: ${why}`,
    );
  } finally {
    console.error = print;
  }
  for (const sheet of book.SheetNames) {
    if (wanted !== undefined && sheet !== wanted) continue;
    const rows = (book.Sheets[sheet] as DenseWorkSheet | undefined)?.['!data'] ?? [];
    const fill = fillDown(
      (book.Sheets[sheet]?.['!merges'] ?? []).flatMap(({ s, e }) =>
        e.r > s.r ? [{ from: s.r + 1, to: e.r + 1, column: s.c }] : [],
      ),
    );
    for (const [at, own] of rows.entries()) {
      if (!own) continue;
      if (own.length > MAX_COLUMNS)
        throw refusal(`has ${formatNumber(own.length)} columns in row ${at + 1}; 2,000 are the most`);
      let formula: string | undefined;
      const calculated: number[] = [];
      const cells = Array.from(own, (cell: CellObject | undefined, column) => {
        const text = cell ? cellText(cell) : '';
        if (cell?.f !== undefined && text === '' && cell.v !== '')
          formula ??= utils.encode_cell({ r: at, c: column });
        else if (cell?.f !== undefined) calculated.push(column);
        return text;
      });
      fill(at + 1, cells);
      if (cells.some((cell) => cell !== '') || formula !== undefined)
        yield { sheet, row: at + 1, cells, formula, calculated };
    }
  }
}

export interface SheetRow {
  readonly sheet: string;
  readonly row: number;
  readonly cells: readonly string[];
  /** Address of the first cell that holds a formula without a result. */
  readonly formula: string | undefined;
  /** Columns, 0 being the first, whose cell is the stored result of a formula. */
  readonly calculated: readonly number[];
}

/**
 * Fills merged cells: what stands in the first row of a range that reaches down stands in all of its rows.
 * @returns fills the cells of a row in place; rows come in their order
 */
export function fillDown(ranges: readonly MergedDown[]): (row: number, cells: string[]) => void {
  const begins = new Map<number, MergedDown[]>();
  for (const one of ranges) begins.set(one.from, [...(begins.get(one.from) ?? []), one]);
  let open: { readonly range: MergedDown; readonly value: string }[] = [];
  return (row, cells) => {
    open = open.filter(({ range }) => range.to >= row);
    for (const { range, value } of open) if ((cells[range.column] ?? '') === '') cells[range.column] = value;
    for (const range of begins.get(row) ?? []) open.push({ range, value: cells[range.column] ?? '' });
  };
}
