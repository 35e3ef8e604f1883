import { asList } from '../core/catalog/value';
import { formatFacts } from '../core/channels/formats';
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
import { xmlText } from '../core/formats/xml';
import { formats } from './formats';
import { type ReadRow, rowOfCells } from './parsers';

/** What is meant to stand in the file for a row, by the names of the file. */
function meantBy(sheet: Sheet): (row: FeedRow) => ReadRow {
  const name = nameIn(sheet);
  const names = headingOf(sheet);
  const table = cellsOf(sheet);
  const extra = extraCells(sheet);
  const extras = extraNames(sheet);
  const id = sheet.fields.findIndex(({ role }) => role === 'id');
  const { rows } = formatFacts[sheet.delivery.format];
  if (rows === 'cells') return (row) => rowOfCells(names, table(row));
  if (rows === 'products') return ({ values }) => new Map([['sku', asList(values[id])]]);
  const text = (one: string) => (rows === 'elements' ? xmlText(one).replace(/\r\n?/g, '\n') : one);
  return (row) =>
    new Map([
      ...sheet.fields.map(
        ({ code }, at) => [name(code), asList(row.values[at]).map(text)] as [string, string[]],
      ),
      ...extra(row).map((one, at) => [extras[at] ?? '', one === '' ? [] : [one]] as [string, string[]]),
    ]);
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
    for await (const found of formats[sheet.delivery.format].read(sheet, path)) {
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
