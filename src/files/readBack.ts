import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { JSONParser } from '@streamparser/json';
import { parse } from 'csv-parse';
import { SaxesParser } from 'saxes';
import { asList } from '../core/catalog/value';
import type { FeedFormat } from '../core/channels/delivery';
import type { Sheet } from '../core/channels/sheet';
import { InputError } from '../core/errors/inputError';
import {
  cellsOf,
  extraCells,
  extraNames,
  type FeedRow,
  type FeedRows,
  headingOf,
  nameIn,
} from '../core/formats/format';
import { namespaceOf, xmlText } from '../core/formats/xml';
import { readSheets } from './workbooks/xlsx';

/** What stands in a file for one listing: the values of each name, in their order. */
type ReadRow = ReadonlyMap<string, readonly string[]>;

const rowOfCells = (names: readonly string[], cells: readonly (string | undefined)[]): ReadRow =>
  new Map(names.map((name, at) => [name, cells[at] ? [cells[at] as string] : []]));

async function* delimited(sheet: Sheet, path: string, usual: string): AsyncGenerator<ReadRow> {
  const parser = createReadStream(path).pipe(
    parse({ delimiter: sheet.delivery.separator ?? usual, bom: true, relax_column_count: false }),
  );
  let names: string[] | undefined;
  for await (const cells of parser as AsyncIterable<string[]>) {
    if (names) yield rowOfCells(names, cells);
    else names = cells;
  }
}

async function* workbook(_sheet: Sheet, path: string): AsyncGenerator<ReadRow> {
  let names: string[] | undefined;
  for await (const { cells } of readSheets(path)) {
    const texts = cells.map((cell) => cell ?? '');
    if (names) yield rowOfCells(names, texts);
    else names = texts;
  }
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

const rowOfObject = (object: object): ReadRow =>
  new Map(
    Object.entries(object).map(([name, value]) => [
      name,
      Array.isArray(value) ? value.map(textOf) : [textOf(value)],
    ]),
  );

async function* lines(_sheet: Sheet, path: string): AsyncGenerator<ReadRow> {
  for await (const line of createInterface({ input: createReadStream(path), crlfDelay: 0 }))
    if (line !== '') yield rowOfObject(JSON.parse(line));
}

/** The elements of a list in a JSON file, one at a time. @param key that the list stands under; undefined where it is all there is */
async function* listed(path: string, key: string | undefined): AsyncGenerator<object> {
  // What has been told is not kept.
  const parser = new JSONParser({ paths: [key === undefined ? '$.*' : '$.*.*'], keepStack: false });
  let done: object[] = [];
  parser.onValue = ({ value, stack }) => {
    if (key === undefined || stack.at(-1)?.key === key) done.push(value as object);
  };
  for await (const piece of createReadStream(path)) {
    parser.write(piece as Buffer);
    yield* done;
    done = [];
  }
  if (!parser.isEnded) throw new Error('it ends in the middle');
}

async function* array({ delivery: { envelope } }: Sheet, path: string): AsyncGenerator<ReadRow> {
  for await (const one of listed(path, envelope)) yield rowOfObject(one);
}

/** Products of schema.org: told apart by their SKU alone, since their fields stand by roles. */
async function* graph(_sheet: Sheet, path: string): AsyncGenerator<ReadRow> {
  for await (const product of listed(path, '@graph')) {
    const { sku } = product as { readonly sku?: unknown };
    yield new Map([['sku', sku === undefined ? [] : [String(sku)]]]);
  }
}

/** The elements of a listing by their local names, in the channel's namespace. */
async function* elements(
  sheet: Sheet,
  path: string,
  entry: string,
  namespace: string,
): AsyncGenerator<ReadRow> {
  const parser = new SaxesParser({ xmlns: true });
  let done: ReadRow[] = [];
  let row: Map<string, string[]> | undefined;
  let text = '';
  let wrong: Error | undefined;
  parser.on('error', (error) => {
    wrong ??= error;
  });
  parser.on('opentag', (tag) => {
    if (tag.local === entry && !row) row = new Map();
    text = '';
  });
  parser.on('text', (given) => {
    text += given;
  });
  parser.on('closetag', (tag) => {
    if (tag.local === entry && row && (tag.uri !== namespace || sheet.delivery.format === 'xml')) {
      done.push(row);
      row = undefined;
    } else if (row && tag.uri === namespace) row.set(tag.local, [...(row.get(tag.local) ?? []), text]);
    text = '';
  });
  for await (const piece of createReadStream(path, 'utf8')) {
    parser.write(piece as string);
    if (wrong) throw wrong;
    yield* done;
    done = [];
  }
  parser.close();
  if (wrong) throw wrong;
  yield* done;
}

const readers: Readonly<Record<FeedFormat, (sheet: Sheet, path: string) => AsyncGenerator<ReadRow>>> = {
  csv: (sheet, path) => delimited(sheet, path, ','),
  tsv: (sheet, path) => delimited(sheet, path, '\t'),
  xlsx: workbook,
  ndjson: lines,
  json: array,
  jsonLd: graph,
  atom: (sheet, path) => elements(sheet, path, 'entry', namespaceOf(sheet)),
  rss: (sheet, path) => elements(sheet, path, 'item', namespaceOf(sheet)),
  xml: (sheet, path) => elements(sheet, path, sheet.delivery.entry, sheet.delivery.namespace ?? ''),
};

/** What is meant to stand in the file for a row, by the names of the file. */
function meantBy(sheet: Sheet): (row: FeedRow) => ReadRow {
  const name = nameIn(sheet);
  const names = headingOf(sheet);
  const table = cellsOf(sheet);
  const extra = extraCells(sheet);
  const extras = extraNames(sheet);
  const id = sheet.fields.findIndex(({ role }) => role === 'id');
  switch (sheet.delivery.format) {
    case 'csv':
    case 'tsv':
    case 'xlsx':
      return (row) => rowOfCells(names, table(row));
    case 'jsonLd':
      return ({ values }) => new Map([['sku', asList(values[id])]]);
    default: {
      const xml = ['atom', 'rss', 'xml'].includes(sheet.delivery.format);
      const text = (one: string) => (xml ? xmlText(one).replace(/\r\n?/g, '\n') : one);
      return (row) =>
        new Map([
          ...sheet.fields.map(
            ({ code }, at) => [name(code), asList(row.values[at]).map(text)] as [string, string[]],
          ),
          ...extra(row).map((one, at) => [extras[at] ?? '', one === '' ? [] : [one]] as [string, string[]]),
        ]);
    }
  }
}

const blank = /^\s*$/;
/** Whether two lists of values are the same to whom reads them: a file holds no empty ones. */
function same(a: readonly string[], b: readonly string[]): boolean {
  const [left, right] = [a, b].map((list) => list.filter((one) => !blank.test(one)));
  return left?.length === right?.length && left?.every((one, at) => one === right?.[at]) === true;
}

/**
 * Reads a file that was made with a parser that shares nothing with what wrote it, and compares each value with what was
 * meant. JSON-LD is compared by the listings it holds.
 * @returns how many listings it holds @throws InputError naming the row and the column that differs, or why it cannot be read
 */
export async function readBack(sheet: Sheet, path: string, rows: FeedRows): Promise<number> {
  const meant = meantBy(sheet);
  const rest = Symbol.asyncIterator in rows ? rows[Symbol.asyncIterator]() : rows[Symbol.iterator]();
  let count = 0;
  const differs = (why: string) => new InputError('fileDiffers', { row: count, why });
  try {
    for await (const found of readers[sheet.delivery.format](sheet, path)) {
      count++;
      const next = await rest.next();
      if (next.done) throw differs('it holds more listings than were to leave');
      for (const [name, values] of meant(next.value))
        if (!same(values, found.get(name) ?? [])) throw differs(`“${name}” is not what was meant`);
    }
  } catch (error) {
    if (error instanceof InputError && error.code === 'fileDiffers') throw error;
    throw differs(error instanceof Error ? error.message : String(error));
  }
  if (!(await rest.next()).done) throw differs('a listing is missing from it');
  return count;
}
