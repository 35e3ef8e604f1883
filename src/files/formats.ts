import type { FeedFormat } from '../core/channels/formats';
import type { Sheet } from '../core/channels/sheet';
import { atom } from '../core/formats/atom';
import { csv, tsv } from '../core/formats/delimited';
import { cellsOf, type FeedHead, type FeedRows, type Format, headingOf } from '../core/formats/format';
import { json, jsonLd, ndjson } from '../core/formats/json';
import { rss, xml } from '../core/formats/rss';
import { namespaceOf } from '../core/formats/xml';
import { array, delimited, elements, graph, lines, type ReadRow, workbook } from './parsers';
import { sheetPieces } from './workbooks/sheets';

async function* tableOf(sheet: Sheet, rows: FeedRows): AsyncGenerator<string[]> {
  const cells = cellsOf(sheet);
  for await (const row of rows) yield cells(row);
}

const xlsx: Format = {
  code: 'xlsx',
  mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ending: 'xlsx',
  write: (sheet, head, rows) => sheetPieces(head.title, headingOf(sheet), tableOf(sheet, rows)),
};

/** A format with what reads it back: a parser that shares nothing with what writes it. */
export interface FileFormat extends Format {
  read(sheet: Sheet, path: string): AsyncGenerator<ReadRow>;
}

/** Every format that listings can be written in, by the code a sheet names. A new one is an entry here, and its facts in `core/channels/formats.ts`. */
export const formats: Readonly<Record<FeedFormat, FileFormat>> = {
  atom: { ...atom, read: (sheet, path) => elements(sheet, path, 'entry', namespaceOf(sheet)) },
  rss: { ...rss, read: (sheet, path) => elements(sheet, path, 'item', namespaceOf(sheet)) },
  xml: {
    ...xml,
    read: (sheet, path) => elements(sheet, path, sheet.delivery.entry, sheet.delivery.namespace ?? ''),
  },
  csv: { ...csv, read: (sheet, path) => delimited(sheet, path, ',') },
  tsv: { ...tsv, read: (sheet, path) => delimited(sheet, path, '\t') },
  json: { ...json, read: array },
  ndjson: { ...ndjson, read: lines },
  jsonLd: { ...jsonLd, read: graph },
  xlsx: { ...xlsx, read: workbook },
};

/** The file of a sheet's format, as bytes, a piece at a time. */
export async function* feedPieces(sheet: Sheet, head: FeedHead, rows: FeedRows): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  for await (const one of formats[sheet.delivery.format].write(sheet, head, rows))
    yield typeof one === 'string' ? encoder.encode(one) : one;
}
