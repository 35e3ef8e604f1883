/** What scripts/test.mjs tells the tests about the database it started. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection, type RowDataPacket } from 'mysql2/promise';

/** Where the start of the test run has loaded the demo once. */
export const demoDatabase = 'lively';
let times = 100_000;

/** Brings the test's own database to fresh demo data: what was loaded once, in each table that is otherwise. */
export async function freshDemo(): Promise<void> {
  const { settings } = await import('@/server/runtime/settings');
  const { database: own, ...server } = settings.database;
  // Not through the application's pools: their connections stand in a database that has to be there first.
  const connection = await createConnection(server);
  try {
    await connection.query('create database if not exists ?? character set utf8mb4 collate utf8mb4_bin', [
      own,
    ]);
    const [found] = await connection.query<(RowDataPacket & { name: string })[]>(
      'select table_name as name from information_schema.tables where table_schema = ?',
      [demoDatabase],
    );
    const names = found.map(({ name }) => name);
    const [here] = await connection.query<(RowDataPacket & { name: string })[]>(
      'select table_name as name from information_schema.tables where table_schema = ?',
      [own],
    );
    const made = new Set(here.map(({ name }) => name));
    // Tables that belong to each other are made and emptied in any order.
    await connection.query('set foreign_key_checks = 0');
    await connection.query('use ??', [own]);
    for (const name of names) {
      if (made.has(name)) continue;
      // With the keys between tables, which a table "like" another does not have.
      const [[table]] = await connection.query<RowDataPacket[]>('show create table ??.??', [
        demoDatabase,
        name,
      ]);
      await connection.query(String(table?.['Create Table']));
    }
    const sumsOf = async (database: string) => {
      const [rows] = await connection.query<(RowDataPacket & { Checksum: unknown })[]>(
        `checksum table ${names.map(() => '??.??').join()}`,
        names.flatMap((name) => [database, name]),
      );
      return rows.map(({ Checksum }) => String(Checksum));
    };
    const [wanted, there] = [await sumsOf(demoDatabase), await sumsOf(own)];
    for (const [at, name] of names.entries()) {
      if (wanted[at] === there[at]) continue;
      await connection.query('truncate table ??.??', [own, name]);
      // What the database makes itself of a row is made again.
      const [columns] = await connection.query<(RowDataPacket & { name: string })[]>(
        'select column_name as name from information_schema.columns where table_schema = ? and table_name = ? and generation_expression is null',
        [demoDatabase, name],
      );
      const copied = columns.map((column) => column.name);
      await connection.query('insert into ??.?? (??) select ?? from ??.??', [
        own,
        name,
        copied,
        copied,
        demoDatabase,
        name,
      ]);
    }
    // A process that has seen another catalog under the same revision would take it for this one.
    times += 1000;
    await connection.query('update ??.workspace set catalog_revision = ?, reload_revision = ?', [
      own,
      times,
      times,
    ]);
  } finally {
    await connection.end();
  }
}

export async function closeDatabase(): Promise<void> {
  const { closePools } = await import('@/server/db/connection');
  await closePools();
}

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'lively-test-'));

/** A body as an upload's stream. */
export const bodyOf = (bytes: string | Uint8Array): ReadableStream<Uint8Array> =>
  new Blob([bytes as BlobPart]).stream();
