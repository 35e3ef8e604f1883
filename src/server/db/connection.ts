import { drizzle } from 'drizzle-orm/mysql2';
import { createPool, type Pool } from 'mysql2/promise';
import { settings } from '../settings';
import * as schema from './schema';

const shared = globalThis as typeof globalThis & { livelyPool?: Pool };

const connect = (): Pool =>
  createPool({
    ...settings.database,
    connectionLimit: 8,
    timezone: 'Z',
    supportBigNumbers: true,
    connectTimeout: 10_000,
  });

/** One pool a process; kept across reloads while developing. */
export const pool: Pool = shared.livelyPool ?? connect();
shared.livelyPool = pool;

export const db = drizzle(pool, { schema, mode: 'default' });
export type Database = typeof db;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
