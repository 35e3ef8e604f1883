import { InputError } from '../core/errors/inputError';
import {
  decodeBytes,
  detectEncoding,
  detectKind,
  detectSeparator,
  type Form,
  partsLines,
  refuseFile,
} from '../core/import/encoding/decode';
import { findHeading, headingRows } from '../core/import/headings/heading';
import { writesBackslashes } from '../core/import/tables/delimited';
import { columnStarts } from '../core/import/tables/fixedWidth';
import { groupColumn } from '../core/import/tables/groupHeadings';
import { BlockReader, findBlocks } from '../core/import/tables/keyValueText';
import { pairsIn } from '../core/import/tables/nameValueColumns';
import { sizeColumnNames, sizesAcross, spread } from '../core/import/tables/sizeColumns';
import { isTransposed, MAX_TURNED_ROWS, transposed } from '../core/import/tables/transposed';
import {
  type ListPlace,
  linesOf,
  type OutlineLine,
  outlineOf,
  type SourceRecord,
} from '../core/import/trees/records';
import { TreeBuilder } from '../core/import/trees/tree';
import { jsonReader, xmlReader } from '../core/import/trees/treeReaders';
import { linesIn, readSample } from './sample';
import {
  type Cells,
  filledIn,
  headingOf,
  leavesOutEnds,
  namesAt,
  readerOf,
  rowReader,
  sheetRows,
  uniqueNames,
} from './tableRows';

const headBytes = { delimited: 256 * 1024, tree: 4 * 1024 * 1024 };

/** Rows below the heading that the first look should show; where rows are long, more of the file is looked at. */
const FEW_ROWS = 5;

const MAX_COLUMNS = 2000;

const headRecords = 200;

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
  /** Columns in which cells are the stored results of formulas. */
  readonly calculated?: readonly string[];
  /** Whether the whole file was looked at. */
  readonly whole: boolean;
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

/** A workbook's first rows: of the sheet asked for, or of the one with the most rows that look like a table. */
async function sheetHead(path: string, given: Partial<Form>): Promise<Head> {
  const heads = new Map<string, string[][]>();
  const { sheet: _asked, ...all } = given;
  const most = headRecords + 50;
  const calculated = new Map<string, Set<number>>();
  for await (const { sheet, row, cells, calculated: own } of sheetRows(path, all, undefined, most)) {
    const rows = heads.get(sheet) ?? [];
    for (const column of own) calculated.set(sheet, (calculated.get(sheet) ?? new Set()).add(column));
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
  const head = tableHead(
    chosen.rows,
    { kind: given.kind ?? 'xlsx', encoding: given.encoding ?? 'utf-8', separator: ',', sheet: chosen.name },
    given,
    chosen.rows.length < headRecords,
    sheets,
  );
  return head.form.turned
    ? head
    : { ...head, calculated: namesAt(head.columns, calculated.get(chosen.name)) };
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
      count: found.lines.length,
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
