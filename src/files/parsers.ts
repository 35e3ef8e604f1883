import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { JSONParser } from '@streamparser/json';
import { parse } from 'csv-parse';
import { SaxesParser } from 'saxes';
import type { Sheet } from '../core/channels/sheet';
import { readSheets } from './workbooks/xlsx';

/** What stands in a file for one listing: the values of each name, in their order. */
export type ReadRow = ReadonlyMap<string, readonly string[]>;

export const rowOfCells = (names: readonly string[], cells: readonly (string | undefined)[]): ReadRow =>
  new Map(names.map((name, at) => [name, cells[at] ? [cells[at] as string] : []]));

export async function* delimited(sheet: Sheet, path: string, usual: string): AsyncGenerator<ReadRow> {
  const parser = createReadStream(path).pipe(
    parse({ delimiter: sheet.delivery.separator ?? usual, bom: true, relax_column_count: false }),
  );
  let names: string[] | undefined;
  for await (const cells of parser as AsyncIterable<string[]>) {
    if (names) yield rowOfCells(names, cells);
    else names = cells;
  }
}

export async function* workbook(_sheet: Sheet, path: string): AsyncGenerator<ReadRow> {
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

export async function* lines(_sheet: Sheet, path: string): AsyncGenerator<ReadRow> {
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

export async function* array({ delivery: { envelope } }: Sheet, path: string): AsyncGenerator<ReadRow> {
  for await (const one of listed(path, envelope)) yield rowOfObject(one);
}

/** Products of schema.org: told apart by their SKU alone, since their fields stand by roles. */
export async function* graph(_sheet: Sheet, path: string): AsyncGenerator<ReadRow> {
  for await (const product of listed(path, '@graph')) {
    const { sku } = product as { readonly sku?: unknown };
    yield new Map([['sku', sku === undefined ? [] : [String(sku)]]]);
  }
}

/** The elements of a listing by their local names, in the channel's namespace. */
export async function* elements(
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
