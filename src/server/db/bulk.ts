import { getTableColumns, getTableName, type InferInsertModel, type SQL, sql } from 'drizzle-orm';
import type { MySqlColumn, MySqlTable } from 'drizzle-orm/mysql-core';
import { escapeId, escape as escapeValue } from 'mysql2';
import { md5 } from '../runtime/md5';
import type { Transaction } from './connection';

/** A list in parts of so many, for statements that would grow too long. */
export const inParts = <T>(list: readonly T[], size = 1000): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/**
 * Whether a column holds one of many texts. The query builder makes an object of every one of them; here the driver writes the list.
 * @param texts at least one
 */
export const isOneOf = (column: MySqlColumn, texts: readonly string[]): SQL =>
  sql`${column} in (${sql.param(texts)})`;

/**
 * Whether a text is one of many, by the digest that the database keeps of it (`digestOf` of the schema). Of 100 million texts two have
 * one digest by chance once in three thousand times: where that matters, the texts themselves are compared too.
 * @param texts at least one
 */
export const hasDigestOf = (column: MySqlColumn, texts: readonly string[]): SQL =>
  sql`${column} in (${sql.param({ toSqlString: () => texts.map((text) => `x'${md5(text).slice(0, 16)}'`).join(',') })})`;

/** A value as the database keeps it: what its column would make of it was made before. */
export class AsKept {
  constructor(readonly text: string) {}
}

/** Rows to be inserted; of their values some may be as the database keeps them. */
type Inserted<T extends MySqlTable> = {
  [K in keyof InferInsertModel<T>]: InferInsertModel<T>[K] | AsKept;
};

/** So many signs of rows are sent at once; with the row that goes beyond it, far below what the server takes in one statement. */
const MAX_CHARACTERS = 4 * 1024 ** 2;

/**
 * Inserts many rows, in one statement where they are not too long for that. The query builder makes an object of every value,
 * which for a thousand rows costs more than the database's own work; this writes the statement as text, each value escaped by the
 * driver.
 * @param update columns to take over from the new row where its key is already there; `ignore` keeps the old row
 */
export async function insertRows<T extends MySqlTable>(
  tx: Transaction,
  table: T,
  rows: readonly Inserted<T>[],
  update?: 'ignore' | readonly (keyof InferInsertModel<T> & string)[],
): Promise<void> {
  const columns = Object.entries(getTableColumns(table)).filter(([key]) => rows.some((row) => key in row));
  const lineOf = (row: Inserted<T>): string => {
    const cells = columns.map(([key, column]) => {
      const value = (row as Record<string, unknown>)[key];
      if (value === undefined) return 'default';
      if (value === null) return 'null';
      return escapeValue(value instanceof AsKept ? value.text : (column.mapToDriverValue(value) as string));
    });
    return `(${cells.join(',')})`;
  };
  const names = new Map(columns.map(([key, column]) => [key, escapeId(column.name)]));
  const into = `insert ${update === 'ignore' ? 'ignore ' : ''}into ${escapeId(getTableName(table))} (${[...names.values()].join(',')}) values `;
  const onDuplicate = Array.isArray(update)
    ? ` on duplicate key update ${update.map((key) => `${names.get(key)} = values(${names.get(key)})`).join(', ')}`
    : '';
  for (let at = 0; at < rows.length; ) {
    const lines: string[] = [];
    for (let signs = 0; at < rows.length && signs < MAX_CHARACTERS; at++) {
      const line = lineOf(rows[at] as Inserted<T>);
      lines.push(line);
      signs += line.length;
    }
    // As one parameter: the driver looks through the statement for places of parameters, a megabyte sign by sign.
    const values = sql.param({ toSqlString: () => lines.join(',') });
    await tx.execute(sql`${sql.raw(into)}${values}${sql.raw(onDuplicate)}`);
  }
}
