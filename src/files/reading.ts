import { InputError } from '../core/errors/inputError';
import { decodeStream, type Form, isTable } from '../core/import/encoding/decode';
import type { DelimitedRow } from '../core/import/tables/delimited';
import { footnotesOf } from '../core/import/tables/footnotes';
import { beginsPart, repeatsHeading } from '../core/import/tables/groupHeadings';
import { BlockReader, type KeyValueBlock } from '../core/import/tables/keyValueText';
import { spread } from '../core/import/tables/sizeColumns';
import { MAX_TURNED_ROWS, transposed } from '../core/import/tables/transposed';
import { recordsOf, type SourceRecord } from '../core/import/trees/records';
import { type Tree, TreeBuilder } from '../core/import/trees/tree';
import { jsonReader, xmlReader } from '../core/import/trees/treeReaders';
import { type Cells, countBytes, headingOf, readerOf, rowReader, sheetRows, uniqueNames } from './tableRows';
import type { SheetRow } from './workbooks/binarySheets';

/** A single record of a tree longer than this is taken for the wrong list. */
const MAX_TREE_RECORD = 16 * 1024 * 1024;

export interface SourceRow {
  /** In delimited text and workbooks the row; in trees the number of the record. 1 is the first. */
  readonly row: number;
  readonly record: SourceRecord | undefined;
  /** Why the row could not be read. */
  readonly broken: string | undefined;
}

async function* readBlocks(
  path: string,
  form: Form,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow> {
  const reader = new BlockReader(form.begins ?? '');
  let row = 0;
  const rowOf = ({ cells, broken }: KeyValueBlock): SourceRow => ({
    row: ++row,
    record: { cells, group: undefined },
    broken,
  });
  let first = true;
  for await (const text of decodeStream(countBytes(path, onBytes), form.encoding)) {
    for (const block of reader.push(first ? text.replace(/^\ufeff/, '') : text)) yield rowOf(block);
    first = false;
  }
  for (const block of reader.end()) yield rowOf(block);
}

/**
 * Streams a source's records in chunks; memory does not grow with the file. Rows that cannot be read come as `broken`.
 * @param form how the file is read, as {@link readHead} found it
 * @param chunk records in one go
 * @param onBytes told how many bytes have been read so far
 * @throws InputError where the rest of the file cannot be told apart into records
 */
export async function* readSource(
  path: string,
  form: Form,
  chunk: number,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow[]> {
  let batch: SourceRow[] = [];
  const rows =
    form.kind === 'delimited' || form.kind === 'fixed'
      ? readDelimited(path, form, onBytes)
      : form.kind === 'blocks'
        ? readBlocks(path, form, onBytes)
        : isTable(form.kind)
          ? readWorkbook(path, form, onBytes)
          : readTree(path, form, onBytes);
  for await (const row of form.across?.length ? spreadRows(rows, form.across) : rows) {
    batch.push(row);
    if (batch.length >= chunk) {
      yield batch;
      batch = [];
    }
  }
  if (batch.length > 0) yield batch;
}

/** Rows of sizes as the items that they are, which are numbered anew. */
async function* spreadRows(
  rows: AsyncIterable<SourceRow>,
  across: readonly string[],
): AsyncGenerator<SourceRow> {
  let row = 0;
  for await (const { record, broken } of rows) {
    if (!record || broken !== undefined) yield { row: ++row, record, broken };
    else
      for (const cells of spread(record.cells, across))
        yield { row: ++row, record: { ...record, cells }, broken };
  }
}

/** Why a row is no item but stands beside them. */
const besides = (cells: Cells, columns: readonly string[]): string | undefined =>
  repeatsHeading(cells, columns) || beginsPart(cells, columns)
    ? 'repeats the heading'
    : footnotesOf(cells, columns.length);

/** Why a row does not fit its heading; cells that are too many are fine where they are empty. */
function misfitOf(
  cells: readonly string[],
  columns: readonly string[],
  shortRows = false,
): string | undefined {
  if (cells.length === columns.length || (shortRows && cells.length < columns.length)) return undefined;
  if (cells.length > columns.length && cells.slice(columns.length).every((cell) => cell.trim() === ''))
    return undefined;
  return `has ${cells.length} cells where the heading row has ${columns.length}`;
}

async function* readDelimited(
  path: string,
  form: Form,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow> {
  const { headingRow = 1, headingLines = 1 } = form;
  const reader = readerOf(form);
  const above: (readonly string[])[] = [];
  let row = 0;
  let columns: string[] = [];
  let cellsOf = rowReader(columns);
  const take = ({ cells, broken }: DelimitedRow): SourceRow | undefined => {
    row++;
    if (row < headingRow) return undefined;
    if (row < headingRow + headingLines) {
      above.push(cells);
      reader.width = cells.length;
      if (above.length === headingLines) {
        columns = uniqueNames(headingOf(above, 1, headingLines) ?? []);
        cellsOf = rowReader(columns);
      }
      return undefined;
    }
    return {
      row,
      record: { cells: cellsOf(cells), group: undefined },
      broken: broken ?? besides(cells, columns) ?? misfitOf(cells, columns, form.shortRows),
    };
  };
  const rows: string[][] = [];
  const every = form.turned
    ? ({ cells }: DelimitedRow) => {
        if (rows.length >= MAX_TURNED_ROWS) throw new InputError('tooManyTurned', { most: MAX_TURNED_ROWS });
        rows.push([...cells]);
        return undefined;
      }
    : take;
  let first = true;
  for await (const text of decodeStream(countBytes(path, onBytes), form.encoding)) {
    for (const one of reader.push(first ? text.replace(/^\ufeff/, '') : text)) {
      const taken = every(one);
      if (taken) yield taken;
    }
    first = false;
  }
  for (const one of reader.end()) {
    const taken = every(one);
    if (taken) yield taken;
  }
  for (const [at, cells] of transposed(rows).entries()) {
    const taken = take({ line: at + 1, cells, broken: undefined });
    if (taken) yield taken;
  }
}

/** The rows of a sheet whose items stand beside each other, as if they stood below each other. */
async function* turnedSheet(rows: AsyncIterable<SheetRow>): AsyncGenerator<SheetRow> {
  const table: Cells[] = [];
  let formula: string | undefined;
  let sheet = '';
  for await (const one of rows) {
    if (one.row > MAX_TURNED_ROWS) throw new InputError('tooManyTurned', { most: MAX_TURNED_ROWS });
    table[one.row - 1] = one.cells;
    sheet = one.sheet;
    formula ??= one.formula;
  }
  for (const [at, cells] of transposed(Array.from(table, (row) => row ?? [])).entries())
    yield { sheet, row: at + 1, cells, formula, calculated: [] };
}

async function* readWorkbook(
  path: string,
  form: Form,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow> {
  const { headingRow = 1, headingLines = 1 } = form;
  const above: Cells[] = [];
  let columns: string[] | undefined;
  let cellsOf: ReturnType<typeof rowReader> | undefined;
  const rows = sheetRows(path, form, onBytes);
  for await (const { row, cells, formula } of form.turned ? turnedSheet(rows) : rows) {
    if (row < headingRow) continue;
    if (row < headingRow + headingLines) above[row - headingRow] = cells;
    if (row < headingRow + headingLines - 1) continue;
    columns ??= uniqueNames(headingOf(above, 1, headingLines) ?? []);
    cellsOf ??= rowReader(columns);
    if (row >= headingRow + headingLines && cells.some((cell) => cell?.trim()))
      yield {
        row,
        record: { cells: cellsOf(cells), group: undefined },
        broken: formula
          ? `holds a formula without a result in cell ${formula}; open and save the file, or paste the value`
          : besides(cells, columns),
      };
  }
}

async function* readTree(
  path: string,
  form: Form,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow> {
  const found: SourceRow[] = [];
  const list = form.list ?? '';
  let entries = 0;
  let row = 0;
  let since = 0;
  const builder = new TreeBuilder(list, (entry: Tree) => {
    since = 0;
    if (typeof entry === 'string' || Array.isArray(entry)) return;
    for (const record of recordsOf(entry, form.variants ?? '', `${list || 'record'}-${++entries}`))
      found.push({ row: ++row, record, broken: undefined });
  });
  const reader = form.kind === 'xml' ? xmlReader(builder) : jsonReader(builder);
  let first = true;
  for await (const text of decodeStream(countBytes(path, onBytes), form.encoding)) {
    since += text.length;
    reader.write(first ? text.replace(/^\ufeff/, '') : text);
    first = false;
    if (since > MAX_TREE_RECORD) throw new InputError('recordWithoutEnd', { list });
    yield* found.splice(0);
  }
  reader.end();
  yield* found.splice(0);
}
