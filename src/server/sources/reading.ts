import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { type CsvError, type InfoRecord, parse } from 'csv-parse';
import { parse as parseSync } from 'csv-parse/sync';
import iconv from 'iconv-lite';
import { InputError } from '../../core/formats/inputError';
import {
  decodeBytes,
  detectEncoding,
  detectSeparator,
  type Encoding,
  type Form,
  refusalWords,
  refuseFile,
  type Separator,
} from '../../core/intake/decode';

const headBytes = 256 * 1024;
const mostColumns = 2000;
/** A single row longer than this is taken for a quotation mark that was never closed. */
const mostRecordBytes = 1024 * 1024;

export interface Head {
  readonly form: Form;
  readonly columns: readonly string[];
  /** The first rows below the heading, as many as the first part of the file holds, at most 200. */
  readonly records: readonly (readonly string[])[];
}

/**
 * Looks at the beginning of a file: its encoding and separator (unless given), its columns and first rows.
 * @throws InputError in words where the file is empty, binary, without rows or unreadable
 */
export async function readHead(path: string, given?: Partial<Form>): Promise<Head> {
  const file = await open(path);
  let sample: Uint8Array;
  let whole: boolean;
  try {
    const buffer = new Uint8Array(headBytes);
    const { bytesRead } = await file.read(buffer, 0, headBytes, 0);
    sample = buffer.subarray(0, bytesRead);
    whole = (await file.stat()).size <= bytesRead;
  } finally {
    await file.close();
  }
  const refusal = refuseFile(sample);
  if (refusal) throw new InputError(refusalWords[refusal]);
  const encoding = given?.encoding ?? detectEncoding(sample);
  const text = decodeBytes(sample, encoding).replace(/^\ufeff/, '');
  const separator = given?.separator ?? detectSeparator(text);
  const complete = whole ? text : text.slice(0, Math.max(text.lastIndexOf('\n'), 0) || undefined);
  const records = parseHead(complete, separator, whole);
  const [heading, ...rows] = records;
  if (!heading || heading.every((cell) => cell.trim() === '')) throw new InputError(refusalWords.empty);
  if (heading.length > mostColumns)
    throw new InputError(
      `The file has ${heading.length} columns; ${mostColumns} are the most. Nothing was changed. Check the separator.`,
    );
  if (rows.length === 0) throw new InputError(refusalWords.onlyHeading);
  return { form: { encoding, separator }, columns: uniqueNames(heading), records: rows.slice(0, 200) };
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
      to: 201,
      on_skip: onSkip,
      on_record: (record: string[], { lines }: InfoRecord) => {
        lastGood = lines;
        return record;
      },
    });
    // A cell may be cut where the sample ends; only the whole file can say that a mark is never closed.
    if (unclosed && whole) throw new InputError(unclosedWords(lastGood));
    return records;
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(
      `The file cannot be read as delimited text: ${error instanceof Error ? error.message : error}. Nothing was changed.`,
    );
  }
}

const parserOptions = (separator: Separator) => ({
  delimiter: separator,
  relax_column_count: true,
  skip_empty_lines: true,
  skip_records_with_error: true,
  max_record_size: mostRecordBytes,
  bom: true,
});

/** @param lastGood the last line that belongs to a whole row; the mark stands in the one behind it */
function unclosedWords(lastGood: number): string {
  return `A quotation mark opened in line ${lastGood + 1} is never closed, so the rows behind it cannot be told apart. Nothing was changed. Close or double it in that line and choose the file again.`;
}

/** Empty and repeated headings get names, so that every column can be mapped. */
function uniqueNames(heading: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return heading.map((cell, i) => {
    const name = cell.trim() || `Column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}

export interface FileRow {
  /** 1 is the heading row. */
  readonly row: number;
  readonly record: readonly string[] | undefined;
  /** Why the row could not be read. */
  readonly broken: string | undefined;
}

/**
 * Streams a file's rows in chunks; memory does not grow with the file. Rows that cannot be read come as `broken`.
 * @param onBytes told how many bytes have been read so far
 * @throws InputError where the rest of the file cannot be told apart into rows
 */
export async function* readRows(
  path: string,
  encoding: Encoding,
  separator: Separator,
  chunk: number,
  onBytes: (bytes: number) => void,
): AsyncGenerator<FileRow[]> {
  let bytes = 0;
  const counted = createReadStream(path, { highWaterMark: 256 * 1024 }).pipe(
    new Transform({
      transform(data: Buffer, _encoding, done) {
        bytes += data.length;
        done(null, data);
      },
    }),
  );
  const decoded = counted.pipe(iconv.decodeStream(encoding));
  const broken: FileRow[] = [];
  let row = 0;
  let lastGood = 0;
  const parser = parse({
    ...parserOptions(separator),
    on_record: (record: string[], { lines }: InfoRecord) => {
      lastGood = lines;
      return record;
    },
  });
  let unclosed = false;
  parser.on('skip', (error: CsvError) => {
    if (error.code === 'CSV_QUOTE_NOT_CLOSED') unclosed = true;
    else {
      const long = error.code === 'CSV_MAX_RECORD_SIZE';
      broken.push({
        row: 0,
        record: undefined,
        broken: long
          ? 'is longer than 1 MB, as if a quotation mark were never closed'
          : 'has a quotation mark in the wrong place',
      });
    }
  });
  decoded.on('error', (error) => parser.destroy(error));
  decoded.pipe(parser);
  let batch: FileRow[] = [];
  try {
    for await (const record of parser as AsyncIterable<string[]>) {
      for (const one of broken.splice(0)) batch.push({ ...one, row: ++row });
      row++;
      if (row > 1) batch.push({ row, record, broken: undefined });
      if (batch.length >= chunk) {
        onBytes(bytes);
        yield batch;
        batch = [];
      }
    }
  } finally {
    counted.destroy();
  }
  if (unclosed) throw new InputError(unclosedWords(lastGood));
  for (const one of broken.splice(0)) batch.push({ ...one, row: ++row });
  onBytes(bytes);
  if (batch.length > 0) yield batch;
}
