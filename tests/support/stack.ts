/** What scripts/test.mjs tells the tests about the database it started. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/mysql2/migrator';

/** Brings the test database to fresh demo data; called before each integration file. */
export async function freshDemo(): Promise<void> {
  const { db } = await import('@/server/db/connection');
  const { takeBundledChannels } = await import('@/server/channels/channels');
  const { loadDemo } = await import('@/server/demo/load');
  await db.execute(sql`drop database if exists lively`);
  await db.execute(sql`create database lively character set utf8mb4 collate utf8mb4_bin`);
  await db.execute(sql`use lively`);
  await migrate(db, { migrationsFolder: join(process.cwd(), 'src/server/db/migrations') });
  await takeBundledChannels();
  await loadDemo(join(process.cwd(), 'demo'));
}

export async function closeDatabase(): Promise<void> {
  const { pool } = await import('@/server/db/connection');
  await pool.end();
}

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'lively-test-'));

/** A body as an upload's stream. */
export const bodyOf = (bytes: string | Uint8Array): ReadableStream<Uint8Array> =>
  new Blob([bytes as BlobPart]).stream();
