import { pipeline, Readable, Writable } from 'node:stream';
import { setTimeout } from 'node:timers/promises';
import { stringify } from 'csv-stringify';

/** Rows after which what has been packed is handed on. */
const handedOn = 500;
/** In which something packed comes out as long as there is any, in ms. */
const pause = 4;

/**
 * Writes a workbook with one sheet, a piece at a time. Every cell is text, so that no leading zero is lost and nothing is
 * taken for a formula.
 * @returns the file's bytes
 */
export async function* sheetPieces(
  name: string,
  headings: readonly string[],
  rows: Iterable<readonly string[]> | AsyncIterable<readonly string[]>,
): AsyncGenerator<Uint8Array> {
  const pieces: Buffer[] = [];
  const stream = new Writable({
    write(piece: Buffer, _encoding, done) {
      pieces.push(piece);
      done();
    },
  });
  // Large, and wanted by few: loaded where a workbook is written.
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  // What a sheet's name may not hold: Ecma-376, 18.2.19, and what spreadsheets make of it.
  const sheet = book.addWorksheet(name.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31), {
    views: [{ state: 'frozen', ySplit: 1 }],
  });
  sheet.columns = headings.map((heading) => ({
    header: heading,
    width: Math.min(60, Math.max(12, heading.length + 4)),
    style: { numFmt: '@' },
  }));
  sheet.getRow(1).font = { bold: true };
  sheet.getRow(1).commit();
  let count = 0;
  for await (const row of rows) {
    sheet.addRow([...row]).commit();
    if (++count % handedOn !== 0) continue;
    // What is being packed piles up in memory: the next rows wait until no more of it comes out.
    for (let before = -1; before !== pieces.length; ) {
      before = pieces.length;
      await setTimeout(pause);
    }
    yield* pieces.splice(0);
  }
  sheet.commit();
  await book.commit();
  yield* pieces;
}

function* following<T>(first: T, rest: Iterable<T>): Generator<T> {
  yield first;
  yield* rest;
}

/**
 * Writes delimited text (RFC 4180) for spreadsheets as its rows come: with a byte order mark, and nothing in it is taken for a
 * formula.
 * @returns the file's bytes
 */
export const csvPieces = (
  headings: readonly string[],
  rows: Iterable<readonly string[]>,
): AsyncIterable<Uint8Array> =>
  pipeline(
    Readable.from(following(headings, rows)),
    stringify({ escape_formulas: true, bom: true }),
    // What goes wrong is told to whoever reads.
    () => undefined,
  );
