import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { emptyRecord } from '../core/catalog/value';
import { InputError } from '../core/errors/inputError';
import {
  decodeBytes,
  decodeStream,
  detectEncoding,
  detectKind,
  detectSeparator,
  type Form,
  isTable,
  partsLines,
  refuseFile,
} from '../core/import/encoding/decode';
import { findHeading, headingRows, joinHeadings } from '../core/import/headings/heading';
import { DelimitedReader, type DelimitedRow, writesBackslashes } from '../core/import/tables/delimited';
import { columnStarts, FixedWidthReader } from '../core/import/tables/fixedWidth';
import { footnotesOf } from '../core/import/tables/footnotes';
import { beginsPart, groupColumn, groupHeadingIn, repeatsHeading } from '../core/import/tables/groupHeadings';
import { BlockReader, findBlocks, type KeyValueBlock } from '../core/import/tables/keyValueText';
import { pairReader, pairsIn } from '../core/import/tables/nameValueColumns';
import {
  type ListPlace,
  linesOf,
  type OutlineLine,
  outlineOf,
  recordsOf,
  type SourceRecord,
} from '../core/import/tables/records';
import { sizeColumnNames, sizesAcross, spread } from '../core/import/tables/sizeColumns';
import { isTransposed, MAX_TURNED_ROWS, transposed } from '../core/import/tables/transposed';
import { type Tree, TreeBuilder } from '../core/import/tables/tree';
import { jsonReader, xmlReader } from '../core/import/tables/treeReaders';
import { readTables } from './tables';
import type { SheetRow } from './workbooks/binarySheets';
import { readSheets } from './workbooks/xlsx';

const headBytes = { delimited: 256 * 1024, tree: 4 * 1024 * 1024 };
/** Rows below the heading that the first look should show; where rows are long, more of the file is looked at. */
const FEW_ROWS = 5;
const MAX_COLUMNS = 2000;
const headRecords = 200;
/** A single record of a tree longer than this is taken for the wrong list. */
const MAX_TREE_RECORD = 16 * 1024 * 1024;

type Cells = readonly (string | undefined)[];

/** What the beginning of a source shows. */
export interface Head {
  /** How it is read: what was asked for, and what was found for the rest. */
  readonly form: Form;
  readonly columns: readonly string[];
  /** Columns that it may have beside them: what names others and what holds them, and the heading above a row. */
  readonly beside: readonly string[];
  /** Whether there are no other columns further down: a table says all of them in its heading, unless its rows name some. */
  readonly closed: boolean;
  /** Each column with how many of the first records fill it, and samples. */
  readonly lines: readonly OutlineLine[];
  /** The first records, at most 200. */
  readonly records: readonly SourceRecord[];
  /** Sheets of a workbook. */
  readonly sheets: readonly string[];
  /** Lists of a tree that could be the records, and lists inside a record that could be its variants. */
  readonly lists: readonly ListPlace[];
  readonly variantLists: readonly ListPlace[];
  /** Columns of a table that look like sizes, with how many there are of each, whether they are read so or not. */
  readonly sizes: readonly string[];
  /** Whether the whole file was looked at. */
  readonly whole: boolean;
}

export interface SourceRow {
  /** In delimited text and workbooks the row; in trees the number of the record. 1 is the first. */
  readonly row: number;
  readonly record: SourceRecord | undefined;
  /** Why the row could not be read. */
  readonly broken: string | undefined;
}

/** Line ends in some bytes, counted as far as asked for. */
function linesIn(bytes: Uint8Array, most: number): number {
  let lines = 0;
  for (let at = bytes.indexOf(10); at >= 0 && lines < most; at = bytes.indexOf(10, at + 1)) lines++;
  return lines;
}

async function readSample(path: string, bytes: number): Promise<{ sample: Uint8Array; whole: boolean }> {
  const file = await open(path);
  try {
    const buffer = new Uint8Array(bytes);
    const { bytesRead } = await file.read(buffer, 0, bytes, 0);
    return { sample: buffer.subarray(0, bytesRead), whole: (await file.stat()).size <= bytesRead };
  } finally {
    await file.close();
  }
}

/**
 * Looks at the beginning of a file: what it is, how it is written, its columns and first records.
 * @param given what is already decided; the rest is found out
 * @throws InputError in words where the file is empty, of no known kind, without records or unreadable
 */
export async function readHead(path: string, given: Partial<Form> = {}): Promise<Head> {
  let { sample, whole } = await readSample(path, headBytes.delimited);
  const kind = given.kind ?? detectKind(sample);
  if (kind === 'xlsx') return sheetHead(path, given);
  const refusal = refuseFile(sample);
  if (refusal) throw new InputError(refusal);
  const encoding = given.encoding ?? detectEncoding(sample);
  if (kind === 'html') return sheetHead(path, { ...given, kind, encoding });
  if (kind === 'xml' || kind === 'json') return treeHead(path, { ...given, kind, encoding });
  const lines = linesIn(sample, FEW_ROWS);
  if (!whole && lines > 0 && lines < FEW_ROWS) ({ sample, whole } = await readSample(path, headBytes.tree));
  const text = decodeBytes(sample, encoding).replace(/^\ufeff/, '');
  const end = Math.max(text.lastIndexOf('\n'), text.lastIndexOf('\r'));
  const lookedAt = whole || end < 0 ? text : text.slice(0, end + 1);
  const separator = given.separator ?? detectSeparator(text);
  const begins =
    kind === 'blocks'
      ? (given.begins ?? findBlocks(lookedAt) ?? '')
      : given.kind === undefined
        ? findBlocks(lookedAt)
        : undefined;
  if (begins !== undefined)
    return blocksHead(lookedAt, { kind: 'blocks', encoding, separator, begins }, whole);
  const starts =
    kind === 'fixed'
      ? (given.starts ?? columnStarts(lookedAt) ?? [0])
      : given.kind === undefined && !partsLines(lookedAt, separator)
        ? columnStarts(lookedAt)
        : undefined;
  const escaped =
    !starts && (given.escapes ?? (given.kind === undefined && writesBackslashes(lookedAt, separator)));
  const form: Form = starts
    ? { kind: 'fixed', encoding, separator, starts }
    : { kind, encoding, separator, ...(escaped ? { escapes: 'backslash' } : {}) };
  return tableHead(headRows(lookedAt, form, given), form, given, whole);
}

/** What splits text into rows. */
const readerOf = ({ kind, separator, starts = [0], escapes }: Form): DelimitedReader =>
  kind === 'fixed'
    ? new FixedWidthReader(starts)
    : new DelimitedReader(separator, undefined, escapes === 'backslash');

/** The first rows of delimited text. Where the heading stands tells how wide a row is, and so what a mark swallowed. */
function headRows(text: string, form: Form, given: Partial<Form>): string[][] {
  const most = headRecords + 50;
  const taken = (width?: { from: number; cells: number }) => {
    const reader = readerOf(form);
    const rows: string[][] = [];
    for (const { cells } of chain(reader.push(text), reader.end())) {
      rows.push([...cells]);
      if (width && rows.length === width.from) reader.width = width.cells;
      if (rows.length >= most) break;
    }
    return rows;
  };
  const rows = taken();
  const from = given.headingRow ?? findHeading(rows);
  return taken({ from, cells: rows[from - 1]?.length ?? 0 });
}

function* chain<T>(...parts: Iterable<T>[]): Generator<T> {
  for (const part of parts) yield* part;
}

/** The head of a source whose first rows are known, one of them the heading. */
function tableHead(
  written: readonly Cells[],
  form: Form,
  given: Partial<Form>,
  complete: boolean,
  sheets: readonly string[] = [],
): Head {
  const turning = given.turned ?? (given.kind === undefined && complete && isTransposed(written));
  if (turning && written.length > MAX_TURNED_ROWS)
    throw new InputError('tooManyTurned', { most: MAX_TURNED_ROWS });
  const rows = turning ? transposed(written) : written;
  const headingRow = given.headingRow ?? findHeading(rows);
  const lines = given.headingLines ?? headingRows(rows, headingRow);
  const heading = headingOf(rows, headingRow, lines);
  if (!heading || heading.every((cell) => (cell ?? '').trim() === '')) throw new InputError('empty');
  if (heading.length > MAX_COLUMNS)
    throw new InputError('tooManyColumns', { count: heading.length, most: MAX_COLUMNS });
  const below = rows.slice(headingRow + lines - 1, headingRow + lines - 1 + headRecords);
  if (below.length === 0) throw new InputError('onlyHeading');
  const columns = uniqueNames(heading);
  const cellsOf = rowReader(columns);
  const plain = below.map((cells) => ({ cells: cellsOf(cells), group: undefined }));
  const sizes = sizesAcross(columns, plain);
  const across = given.across ?? (given.kind === undefined ? sizes : []);
  const records =
    across.length === 0
      ? plain
      : plain.flatMap(({ cells }) => spread(cells, across).map((own) => ({ cells: own, group: undefined })));
  const outline = new Map(linesOf(records).map((line) => [line.path, line]));
  // Pairs of columns stand under the names they give.
  const paired = new Set(pairsIn(columns).flatMap(({ name, value }) => [name, value]));
  const sections = new Set(records.flatMap(({ cells }) => cells[groupColumn] ?? []));
  // One may be a note; as many as there are items head nothing.
  const parted = columns.includes(groupColumn) || (sections.size > 1 && sections.size <= records.length / 3);
  const created = across.length === 0 ? [] : Object.values(sizeColumnNames);
  const all = [...new Set([...columns, ...created, ...outline.keys()])].filter(
    (column) => !paired.has(column) && !across.includes(column) && (parted || column !== groupColumn),
  );
  return {
    form: {
      ...form,
      ...(turning ? { turned: true as const } : {}),
      ...(across.length > 0 ? { across } : {}),
      ...(headingRow === 1 ? {} : { headingRow }),
      ...(lines === 1 ? {} : { headingLines: lines }),
      ...(form.kind === 'delimited' && (given.shortRows ?? leavesOutEnds(below, columns.length))
        ? { shortRows: true }
        : {}),
    },
    columns: all,
    beside: [...paired, ...across, groupColumn],
    closed: paired.size === 0,
    lines: all.map((path) => outline.get(path) ?? { path, filled: 0, samples: [], repeated: false }),
    records,
    sheets,
    lists: [],
    variantLists: [],
    sizes,
    whole: complete,
  };
}

/**
 * Whether a table leaves out empty cells at the end of its rows: some rows are shorter, in more than one length or at least
 * three of them, and no row of full length ends with an empty cell. A row that lost a cell in its middle looks otherwise.
 */
function leavesOutEnds(rows: readonly Cells[], columns: number): boolean {
  const short = rows.filter((cells) => filledIn(cells) > 1 && cells.length < columns);
  const lengths = new Set(short.map((cells) => cells.length));
  return (
    (short.length >= 3 || lengths.size > 1) &&
    rows.every((cells) => (cells.at(-1) ?? '').trim() !== '' || cells.length < 2)
  );
}

/** The names of the columns, from one row or two. */
const headingOf = (rows: readonly Cells[], row: number, lines: number): Cells | undefined =>
  lines === 2 ? joinHeadings(rows[row - 1] ?? [], rows[row] ?? []) : rows[row - 1];

/** Empty and repeated headings get names, so that every column can be mapped. */
function uniqueNames(heading: readonly (string | undefined)[]): string[] {
  const seen = new Map<string, number>();
  return Array.from(heading, (cell, i) => {
    const name = (cell ?? '').trim() || `Column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}

/** Makes rows into cells by their columns, one after another from the first. */
function rowReader(columns: readonly string[]): (row: Cells) => Record<string, string> {
  let addPairs = pairReader(columns);
  let section = '';
  /** What the part of the list that is being read calls its columns. */
  let here = columns;
  return (row) => {
    const cells = emptyRecord<string>();
    if (beginsPart(row, columns)) {
      here = uniqueNames(columns.map((name, at) => row[at]?.trim() || name));
      addPairs = pairReader(here);
    }
    for (let i = 0; i < here.length; i++) cells[here[i] as string] = row[i] ?? '';
    addPairs(cells);
    const begun = groupHeadingIn(row, columns.length);
    if (begun !== undefined) section = begun;
    else if (section !== '') cells[groupColumn] ??= section;
    return cells;
  };
}

const filledIn = (row: readonly (string | undefined)[]): number => row.filter((cell) => cell?.trim()).length;

/** The rows of a workbook's sheets, or of a page's tables. */
const sheetRows = (
  path: string,
  { kind, encoding = 'utf-8', sheet }: Partial<Form>,
  onBytes: (bytes: number) => void = () => undefined,
  most?: number,
) =>
  kind === 'html'
    ? readTables(decodeStream(countBytes(path, onBytes), encoding), sheet)
    : readSheets(path, sheet, most);

/** A workbook's first rows: of the sheet asked for, or of the one with the most rows that look like a table. */
async function sheetHead(path: string, given: Partial<Form>): Promise<Head> {
  const heads = new Map<string, string[][]>();
  const { sheet: _asked, ...all } = given;
  const most = headRecords + 50;
  for await (const { sheet, row, cells } of sheetRows(path, all, undefined, most)) {
    const rows = heads.get(sheet) ?? [];
    heads.set(sheet, rows);
    if (row <= most) rows[row - 1] = [...cells];
  }
  const sheets = [...heads.keys()];
  if (given.sheet !== undefined && !heads.has(given.sheet))
    throw new InputError('noSheet', {
      sheet: given.sheet,
      known: sheets.map((name) => `“${name}”`).join(', '),
    });
  const tables = [...heads].map(([name, sparse]) => {
    const rows = Array.from(sparse, (row) => row ?? []);
    return { name, rows, size: rows.filter((row) => filledIn(row) > 1).length };
  });
  const chosen =
    tables.find(({ name }) => name === given.sheet) ?? tables.sort((one, other) => other.size - one.size)[0];
  if (!chosen) throw new InputError(given.kind === 'html' ? 'noTables' : 'empty');
  return tableHead(
    chosen.rows,
    { kind: given.kind ?? 'xlsx', encoding: given.encoding ?? 'utf-8', separator: ',', sheet: chosen.name },
    given,
    chosen.rows.length < headRecords,
    sheets,
  );
}

/** The head of a text with a line a value. */
function blocksHead(text: string, form: Form, complete: boolean): Head {
  const reader = new BlockReader(form.begins ?? '');
  const blocks = [...chain(reader.push(text), reader.end())];
  // The last block may go on.
  const records = (complete || blocks.length < 2 ? blocks : blocks.slice(0, -1))
    .slice(0, headRecords)
    .map(({ cells }) => ({ cells, group: undefined }));
  const lines = linesOf(records);
  if (lines.length === 0) throw new InputError('empty');
  if (lines.length > MAX_COLUMNS)
    throw new InputError('tooManyColumns', { count: lines.length, most: MAX_COLUMNS });
  return {
    form,
    columns: lines.map(({ path }) => path),
    beside: [],
    closed: false,
    lines,
    records,
    sheets: [],
    lists: [],
    variantLists: [],
    sizes: [],
    whole: complete,
  };
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

async function treeHead(path: string, given: Partial<Form> & Pick<Form, 'kind' | 'encoding'>): Promise<Head> {
  const { sample, whole } = await readSample(path, headBytes.tree);
  const builder = new TreeBuilder();
  const reader = given.kind === 'xml' ? xmlReader(builder) : jsonReader(builder);
  reader.write(decodeBytes(sample, given.encoding).replace(/^\ufeff/, ''));
  if (whole) reader.end();
  const found = outlineOf(builder.whole(), given);
  if (found.lines.length > MAX_COLUMNS)
    throw new InputError('tooManyValuesAt', {
      list: found.list,
      count: found.lines.length.toLocaleString('en'),
      most: MAX_COLUMNS,
    });
  // The last record may be cut where the sample ends.
  const records = whole ? found.records : found.records.slice(0, Math.max(found.records.length - 1, 1));
  return {
    form: {
      kind: given.kind,
      encoding: given.encoding,
      separator: ',',
      list: found.list,
      ...(found.variants === '' ? {} : { variants: found.variants }),
    },
    columns: found.lines.map((line) => line.path),
    beside: [],
    closed: false,
    lines: found.lines,
    records: records.slice(0, headRecords),
    sheets: [],
    lists: found.lists,
    variantLists: found.variantLists,
    sizes: [],
    whole,
  };
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

async function* countBytes(path: string, onBytes: (bytes: number) => void): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of createReadStream(path, { highWaterMark: 256 * 1024 }) as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    onBytes(bytes);
    yield chunk;
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
    yield { sheet, row: at + 1, cells, formula };
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
          ? `holds a formula in cell ${formula}, which is never run; paste its value instead`
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
