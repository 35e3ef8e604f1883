import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { drizzle } from 'drizzle-orm/mysql2';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { type Connection, createConnection, type RowDataPacket } from 'mysql2/promise';
import { settings } from '@/server/runtime/settings';

/** Databases of earlier schemas, as `scripts/dump.mjs` wrote them: each becomes one of today with all that it held. */
const folder = 'tests/data/databases';
const migrationsFolder = join(process.cwd(), 'src/server/db/migrations');

/** What tables and columns of a dump are called today. */
const renamed: Readonly<
  Record<string, { tables: Record<string, string>; columns: Record<string, Record<string, string>> }>
> = {
  '0042': {
    tables: {
      notice: 'notification',
      hook: 'webhook',
      hook_delivery: 'webhook_delivery',
      partner_range: 'supplier_range',
      partner_variant: 'supplier_variant',
      partner_pair: 'supplier_match',
      number_block: 'gtin_block',
      number_given: 'gtin_assignment',
      pace: 'rate_limit',
      left_draft: 'saved_draft',
      item_remark: 'item_hint',
      pressed: 'request_once',
    },
    columns: {
      notice: { seen_at: 'read_at' },
      hook_delivery: { hook_id: 'webhook_id', notice_id: 'notification_id' },
      partner_range: { brought_at: 'imported_at' },
      number_block: { body: 'first_number' },
      left_draft: { left_at: 'saved_at' },
      item_remark: { remarks: 'hints' },
      pressed: { press: 'id' },
      picture: { print: 'perceptual_hash', look: 'thumbnail' },
      feed_listing: { got: 'completed', of: 'total' },
      ledger: {
        held_digest: 'accepted_digest',
        held_submission: 'accepted_submission',
        held_values: 'accepted_values',
        refused_digest: 'rejected_digest',
        refused_submission: 'rejected_submission',
      },
    },
  },
};

const { database: _own, ...server } = settings.database;
let connection: Connection;

async function empty(name: string): Promise<void> {
  await connection.query('drop database if exists ??', [name]);
  await connection.query('create database ?? character set utf8mb4 collate utf8mb4_bin', [name]);
  await connection.changeUser({ database: name });
}

/** The contents of tables, each row as text, by table. */
async function contents(columnsOf: ReadonlyMap<string, readonly string[]>): Promise<Map<string, string[]>> {
  const found = new Map<string, string[]>();
  for (const [table, columns] of columnsOf) {
    const [rows] = await connection.query<RowDataPacket[][]>({
      sql: 'select ?? from ??',
      values: [columns, table],
      rowsAsArray: true,
    });
    found.set(table, rows.map((row) => JSON.stringify(row)).sort());
  }
  return found;
}

/** Tables with their columns and indexes, as the database describes them. */
async function structure(): Promise<string[]> {
  const [columns] = await connection.query<RowDataPacket[]>(
    `select concat_ws(' ', table_name, column_name, column_type, is_nullable, coalesce(column_default, '-'), extra) as words
     from information_schema.columns where table_schema = database() and table_name <> '__drizzle_migrations'`,
  );
  const [indexes] = await connection.query<RowDataPacket[]>(
    `select concat_ws(' ', table_name, index_name, seq_in_index, column_name, non_unique) as words
     from information_schema.statistics where table_schema = database() and table_name <> '__drizzle_migrations'`,
  );
  const [keys] = await connection.query<RowDataPacket[]>(
    `select concat_ws(' ', table_name, constraint_name, referenced_table_name, delete_rule) as words
     from information_schema.referential_constraints where constraint_schema = database()`,
  );
  return [...columns, ...indexes, ...keys].map(({ words }) => String(words)).sort();
}

beforeAll(async () => {
  connection = await createConnection({ ...server, dateStrings: true, multipleStatements: false });
});
afterAll(async () => {
  for (const name of ['lively_migrated', 'lively_new'])
    await connection.query('drop database if exists ??', [name]);
  await connection.end();
});

const dumps = readdirSync(folder).map((file) => file.replace('.sql.gz', ''));

test.each(dumps)('a database of schema %s becomes one of today, and holds what it held', async (dump) => {
  await empty('lively_new');
  await migrate(drizzle(connection) as never, { migrationsFolder });
  const wanted = await structure();

  await empty('lively_migrated');
  await connection.query('set foreign_key_checks = 0');
  const statements = gunzipSync(readFileSync(join(folder, `${dump}.sql.gz`)))
    .toString()
    .split('\n');
  for (const statement of statements) await connection.query(statement);
  await connection.query('set foreign_key_checks = 1');
  const [all] = await connection.query<RowDataPacket[]>(
    "select table_name as name, column_name as field from information_schema.columns where table_schema = database() and table_name <> '__drizzle_migrations' order by table_name, ordinal_position",
  );
  const columnsOf = new Map<string, string[]>();
  for (const { name, field } of all) columnsOf.set(name, [...(columnsOf.get(name) ?? []), field]);
  const before = await contents(columnsOf);
  expect([...before.values()].flat().length).toBeGreaterThan(1000);
  await migrate(drizzle(connection) as never, { migrationsFolder });

  expect(await structure()).toEqual(wanted);
  const { tables, columns } = renamed[dump] ?? { tables: {}, columns: {} };
  const now = await contents(
    new Map(
      [...columnsOf].map(([table, fields]) => [
        tables[table] ?? table,
        fields.map((field) => columns[table]?.[field] ?? field),
      ]),
    ),
  );
  for (const [table, rows] of before) expect([table, now.get(tables[table] ?? table)]).toEqual([table, rows]);
});
