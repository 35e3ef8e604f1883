import { asList, type Value } from '../catalog/value';
import type { Sheet } from '../channels/sheet';

/** What a file says of itself. */
export interface FeedHead {
  /** A permanent address of the feed (RFC 4287, 4.2.6). */
  readonly id: string;
  readonly title: string;
  readonly author: string;
  /** Where the file itself is fetched from, where it is (RFC 4287, 4.2.7.2, relation “self”). */
  readonly self?: string | undefined;
  /** RFC 3339 date and time. */
  readonly updated: string;
}

/** One listing: its values in the order of the sheet's fields. */
export interface FeedRow {
  readonly values: readonly (Value | undefined)[];
  /** What stands in the columns that are no fields, in the order of {@link extraNames}; a listing that is sent by itself where left out. */
  readonly extra?: readonly string[] | undefined;
  /** Its place in a family that is shown with a lead. */
  readonly relation?: 'lead' | 'member' | undefined;
}

/** What a row is for. */
export interface RowPurpose {
  readonly removal: boolean;
  /** Its place in a family that is shown with a lead. */
  readonly relation?: 'lead' | 'member' | undefined;
}

/** The columns of a file that are no fields: what a row is for, and its place in a family. */
export const extraNames = ({ delivery }: Sheet): string[] => [
  ...(delivery.removal === 'row' ? [delivery.action] : []),
  ...(delivery.families === 'leads' && delivery.relation ? [delivery.relation] : []),
];

/** What stands in those columns for a row. */
export const extraOf = ({ delivery }: Sheet, { removal, relation = undefined }: RowPurpose): string[] => [
  ...(delivery.removal === 'row' ? [removal ? delivery.remove : delivery.put] : []),
  ...(delivery.families === 'leads' && delivery.relation ? [relation ?? ''] : []),
];

const alone: RowPurpose = { removal: false };
/** The cells of those columns, for each row. */
export function extraCells(sheet: Sheet): (row: FeedRow) => readonly string[] {
  const usual = extraOf(sheet, alone);
  return ({ extra }) => extra ?? usual;
}

/** The names that head a table of listings. */
export function headingOf(sheet: Sheet): string[] {
  const name = nameIn(sheet);
  return [...sheet.fields.map(({ code }) => name(code)), ...extraNames(sheet)];
}

/** Listings one after another, as they are there or as they are read: files are made of more than memory holds. */
export type FeedRows = Iterable<FeedRow> | AsyncIterable<FeedRow>;

/** A way of writing listings that a sheet can name. Options are data in the sheet (`delivery`). */
export interface Format {
  readonly code: Sheet['delivery']['format'];
  /** As registered with IANA. */
  readonly mediaType: string;
  /** Of the file's name, without the point. */
  readonly ending: string;
  /** The file, a piece at a time: whatever its size, one piece is in memory. */
  write(sheet: Sheet, head: FeedHead, rows: FeedRows): Pieces;
}

/** A file in pieces: text of UTF-8, or bytes where it is packed. */
export type Pieces = AsyncIterable<string> | AsyncIterable<Uint8Array>;
/** A format whose files are text. */
export type TextFormat = Omit<Format, 'write'> & {
  write(sheet: Sheet, head: FeedHead, rows: FeedRows): AsyncIterable<string>;
};

/** What a field is called in a file: by the sheet's table of names, else by its code. */
export const nameIn = (sheet: Sheet): ((code: string) => string) => {
  const names = new Map(Object.entries(sheet.delivery.names ?? {}));
  return (code) => names.get(code) ?? code;
};

const numeric = new Set(['number', 'money', 'measure']);

/**
 * A listing as the cells of a table, a field each: a list in one cell, by the field's own separator or the sheet's. Where the
 * file has a decimal sign of its own, "12.50 EUR" stands as "12,50 EUR": only numbers are touched, and only in fields that
 * hold them.
 */
export function cellsOf(sheet: Sheet): (row: FeedRow) => string[] {
  const { decimalSign, listSeparator } = sheet.delivery;
  const columns = sheet.fields.map(({ kind, values }) => ({
    separator: values?.separator ?? listSeparator,
    touched: decimalSign !== '.' && numeric.has(kind),
  }));
  const extra = extraCells(sheet);
  return (row) => [
    ...columns.map(({ separator, touched }, at) => {
      const cell = asList(row.values[at]).join(separator);
      return touched ? cell.replace(/(\d)\.(?=\d)/g, `$1${decimalSign}`) : cell;
    }),
    ...extra(row),
  ];
}
