import type { Sheet } from '../core/channels/sheet';
import { atom } from '../core/formats/atom';
import { csv, tsv } from '../core/formats/delimited';
import { cellsOf, type FeedHead, type FeedRows, type Format, headingOf } from '../core/formats/format';
import { json, jsonLd, ndjson } from '../core/formats/json';
import { rss, xml } from '../core/formats/rss';
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

/** Every format that listings can be written in, by the code a sheet names. A new one is an entry here. */
export const formats: Readonly<Record<Sheet['delivery']['format'], Format>> = {
  atom,
  rss,
  xml,
  csv,
  tsv,
  json,
  ndjson,
  jsonLd,
  xlsx,
};

/** The file of a sheet's format, as bytes, a piece at a time. */
export async function* feedPieces(sheet: Sheet, head: FeedHead, rows: FeedRows): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  for await (const one of formats[sheet.delivery.format].write(sheet, head, rows))
    yield typeof one === 'string' ? encoder.encode(one) : one;
}
