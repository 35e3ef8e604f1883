import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { type CsvError, type InfoRecord, parse } from 'csv-parse';
import { parse as parseSync } from 'csv-parse/sync';
import { emptyRecord } from '../core/catalog/value';
import { InputError } from '../core/errors/inputError';
import {
  decodeBytes,
  decodeStream,
  detectEncoding,
  detectKind,
  detectSeparator,
  type Form,
  refuseFile,
  type Separator,
} from '../core/intake/decode';
import {
  type ListPlace,
  linesOf,
  type OutlineLine,
  outlineOf,
  recordsOf,
  type SourceRecord,
} from '../core/intake/records';
import { type Tree, TreeBuilder } from '../core/intake/tree';
import { jsonReader, xmlReader } from '../core/intake/treeReaders';
import { readSheets } from './xlsx';

const headBytes = { delimited: 256 * 1024, tree: 4 * 1024 * 1024 };
/** Rows below the heading that the first look should show; where rows are long, more of the file is looked at. */
const fewRows = 5;
const mostColumns = 2000;
const headRecords = 200;
/** A single row longer than this is taken for a quotation mark that was never closed. */
const mostRecordBytes = 1024 * 1024;
/** A single record of a tree longer than this is taken for the wrong list. */
const mostTreeRecord = 16 * 1024 * 1024;

/** What the beginning of a source shows. */
export interface Head {
  /** How it is read: what was asked for, and what was found for the rest. */
  readonly form: Form;
  readonly columns: readonly string[];
  /** Each column with how many of the first records fill it, and samples. */
  readonly lines: readonly OutlineLine[];
  /** The first records, at most 200. */
  readonly records: readonly SourceRecord[];
  /** Sheets of a workbook. */
  readonly sheets: readonly string[];
  /** Lists of a tree that could be the records, and lists inside a record that could be its variants. */
  readonly lists: readonly ListPlace[];
  readonly variantLists: readonly ListPlace[];
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
  if (kind !== 'delimited') return treeHead(path, { ...given, kind, encoding });
  const lines = linesIn(sample, fewRows);
  if (!whole && lines > 0 && lines < fewRows) ({ sample, whole } = await readSample(path, headBytes.tree));
  const text = decodeBytes(sample, encoding).replace(/^\ufeff/, '');
  const separator = given.separator ?? detectSeparator(text);
  const complete = whole ? text : text.slice(0, Math.max(text.lastIndexOf('\n'), 0) || undefined);
  return tableHead(
    parseHead(complete, separator, whole),
    { kind, encoding, separator },
    given.headingRow ?? 1,
    whole,
  );
}

/** The head of a source whose first rows are known, one of them the heading. */
function tableHead(
  rows: readonly (readonly string[])[],
  form: Form,
  headingRow: number,
  whole: boolean,
  sheets: readonly string[] = [],
): Head {
  const heading = rows[headingRow - 1];
  if (!heading || heading.every((cell) => (cell ?? '').trim() === '')) throw new InputError('empty');
  if (heading.length > mostColumns)
    throw new InputError('tooManyColumns', { count: heading.length, most: mostColumns });
  const below = rows.slice(headingRow, headingRow + headRecords);
  if (below.length === 0) throw new InputError('onlyHeading');
  const columns = uniqueNames(heading);
  const records = below.map((cells) => ({ cells: cellsOf(columns, cells), group: undefined }));
  const lines = new Map(linesOf(records).map((line) => [line.path, line]));
  return {
    form: { ...form, ...(headingRow === 1 ? {} : { headingRow }) },
    columns,
    lines: columns.map((path) => lines.get(path) ?? { path, filled: 0, samples: [], repeated: false }),
    records,
    sheets,
    lists: [],
    variantLists: [],
    whole,
  };
}

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

function cellsOf(columns: readonly string[], row: readonly (string | undefined)[]): Record<string, string> {
  const cells = emptyRecord<string>();
  for (let i = 0; i < columns.length; i++) cells[columns[i] as string] = row[i] ?? '';
  return cells;
}

function parseHead(text: string, separator: Separator, whole: boolean): string[][] {
  let unclosed = false;
  let lastGood = 0;
  const onSkip = (error: CsvError | undefined) => {
    if (error?.code === 'CSV_QUOTE_NOT_CLOSED') unclosed = true;
    return undefined;
  };
  try {
    const records: string[][] = parseSync(text, {
      ...parserOptions(separator),
      to: headRecords + 50,
      on_skip: onSkip,
      on_record: (record: string[], { lines }: InfoRecord) => {
        lastGood = lines;
        return record;
      },
    });
    // A cell may be cut where the sample ends; only the whole file can say that a mark is never closed.
    if (unclosed && whole) throw new InputError('quoteUnclosed', { line: lastGood + 1 });
    return records;
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError('notDelimited', { why: String(error instanceof Error ? error.message : error) });
  }
}

const parserOptions = (separator: Separator) => ({
  delimiter: separator,
  relax_column_count: true,
  skip_empty_lines: true,
  skip_records_with_error: true,
  // A quotation mark inside a cell that does not begin with one is ordinary text: 12" wheel.
  relax_quotes: true,
  max_record_size: mostRecordBytes,
  bom: true,
});

const filledIn = (row: readonly (string | undefined)[]): number => row.filter((cell) => cell?.trim()).length;

/** A workbook's first rows: of the sheet asked for, or of the one with the most rows that look like a table. */
async function sheetHead(path: string, given: Partial<Form>): Promise<Head> {
  const heads = new Map<string, string[][]>();
  for await (const { sheet, row, cells } of readSheets(path)) {
    const rows = heads.get(sheet) ?? [];
    heads.set(sheet, rows);
    if (row <= headRecords + 50) rows[row - 1] = [...cells];
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
  if (!chosen) throw new InputError('empty');
  // Titles above a table fill one cell; its heading is the first row with two or more.
  const found = chosen.rows.findIndex(
    (row) => filledIn(row) >= Math.min(2, Math.max(...chosen.rows.map(filledIn))),
  );
  return tableHead(
    chosen.rows,
    { kind: 'xlsx', encoding: 'utf-8', separator: ',', sheet: chosen.name },
    given.headingRow ?? found + 1,
    chosen.rows.length < headRecords,
    sheets,
  );
}

async function treeHead(path: string, given: Partial<Form> & Pick<Form, 'kind' | 'encoding'>): Promise<Head> {
  const { sample, whole } = await readSample(path, headBytes.tree);
  const builder = new TreeBuilder();
  const reader = given.kind === 'xml' ? xmlReader(builder) : jsonReader(builder);
  reader.write(decodeBytes(sample, given.encoding).replace(/^\ufeff/, ''));
  if (whole) reader.end();
  const found = outlineOf(builder.whole(), given);
  if (found.lines.length > mostColumns)
    throw new InputError('tooManyValuesAt', {
      list: found.list,
      count: found.lines.length.toLocaleString('en'),
      most: mostColumns,
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
    lines: found.lines,
    records: records.slice(0, headRecords),
    sheets: [],
    lists: found.lists,
    variantLists: found.variantLists,
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
    form.kind === 'delimited'
      ? readDelimited(path, form, onBytes)
      : form.kind === 'xlsx'
        ? readWorkbook(path, form)
        : readTree(path, form, onBytes);
  for await (const row of rows) {
    batch.push(row);
    if (batch.length >= chunk) {
      yield batch;
      batch = [];
    }
  }
  if (batch.length > 0) yield batch;
}

async function* countBytes(path: string, onBytes: (bytes: number) => void): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of createReadStream(path, { highWaterMark: 256 * 1024 }) as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    onBytes(bytes);
    yield chunk;
  }
}

async function* readDelimited(
  path: string,
  form: Form,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow> {
  const headingRow = form.headingRow ?? 1;
  const broken: string[] = [];
  let lastGood = 0;
  let unclosed = false;
  const parser = parse({
    ...parserOptions(form.separator),
    on_record: (record: string[], { lines }: InfoRecord) => {
      lastGood = lines;
      return record;
    },
  });
  parser.on('skip', (error: CsvError) => {
    if (error.code === 'CSV_QUOTE_NOT_CLOSED') unclosed = true;
    else
      broken.push(
        error.code === 'CSV_MAX_RECORD_SIZE'
          ? 'is longer than 1 MB, as if a quotation mark were never closed'
          : 'has a quotation mark in the wrong place',
      );
  });
  const decoded = Readable.from(decodeStream(countBytes(path, onBytes), form.encoding));
  decoded.on('error', (error) => parser.destroy(error));
  decoded.pipe(parser);
  let row = 0;
  let columns: string[] = [];
  try {
    for await (const cells of parser as AsyncIterable<string[]>) {
      while (broken.length > 0) yield { row: ++row, record: undefined, broken: broken.shift() };
      row++;
      if (row < headingRow) continue;
      if (row === headingRow) columns = uniqueNames(cells);
      else if (cells.length !== columns.length)
        yield {
          row,
          record: { cells: cellsOf(columns, cells), group: undefined },
          broken: `has ${cells.length} cells where the heading row has ${columns.length}`,
        };
      else yield { row, record: { cells: cellsOf(columns, cells), group: undefined }, broken: undefined };
    }
  } finally {
    decoded.destroy();
  }
  if (unclosed) throw new InputError('quoteUnclosed', { line: lastGood + 1 });
  while (broken.length > 0) yield { row: ++row, record: undefined, broken: broken.shift() };
}

async function* readWorkbook(path: string, form: Form): AsyncGenerator<SourceRow> {
  let columns: string[] | undefined;
  const headingRow = form.headingRow ?? 1;
  for await (const { row, cells, formula } of readSheets(path, form.sheet)) {
    if (row < headingRow) continue;
    if (row === headingRow) columns = uniqueNames(cells);
    else if (columns && cells.some((cell) => cell?.trim()))
      yield {
        row,
        record: { cells: cellsOf(columns, cells), group: undefined },
        broken: formula
          ? `holds a formula in cell ${formula}, which is never run; paste its value instead`
          : undefined,
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
    if (since > mostTreeRecord) throw new InputError('recordWithoutEnd', { list });
    yield* found.splice(0);
  }
  reader.end();
  yield* found.splice(0);
}
