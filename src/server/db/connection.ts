import { AsyncLocalStorage } from 'node:async_hooks';
import { drizzle } from 'drizzle-orm/mysql2';
import { createPool, type Pool } from 'mysql2/promise';
import { settings } from '../runtime/settings';
import * as schema from './schema';

const connect = (connectionLimit: number): Pool =>
  createPool({
    ...settings.database,
    connectionLimit,
    timezone: 'Z',
    supportBigNumbers: true,
    connectTimeout: 10_000,
    // A query that waits longer than this for a connection fails in words instead of standing for ever.
    queueLimit: 2000,
  });

interface Pools {
  readonly queries: Pool;
  readonly transactions: Pool;
}

const shared = globalThis as typeof globalThis & { livelyPools?: Pools };

/**
 * Two pools a process, kept across reloads while developing. Transactions have one of their own: what holds a connection
 * while it waits never keeps plain queries from theirs.
 */
const pools: Pools = shared.livelyPools ?? { queries: connect(8), transactions: connect(8) };
shared.livelyPools = pools;

const queries = drizzle(pools.queries, { schema, mode: 'default' });
const transactions = drizzle(pools.transactions, { schema, mode: 'default' });

export type Database = typeof queries;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
type TransactionOptions = Parameters<Database['transaction']>[1];

const open = new AsyncLocalStorage<Transaction>();

/** MariaDB's numbers of what is tried again, and what each is called. */
const again: Readonly<Record<number, 'deadlock' | 'lockWait' | 'changed'>> = {
  1213: 'deadlock',
  1205: 'lockWait',
  1020: 'changed',
};
/** How many transactions of this process were run again, by reason; see the metrics. */
export const transactionsRetried = { deadlock: 0, lockWait: 0, changed: 0 };
const MAX_TRIES = 6;

function numberOf(error: unknown): number | undefined {
  for (let one: unknown = error; one instanceof Error; one = one.cause)
    if ('errno' in one && typeof one.errno === 'number') return one.errno;
  return undefined;
}

/**
 * Locks are taken in one order: the workspace's revision, items, listings, the ledger; a submission before its entries, and a
 * feed before what is its own. What breaks it is tried again, which is the exception and counted.
 *
 * Runs work in one transaction; a transaction inside another is part of it. Where the database gives up to break a
 * deadlock everything is rolled back and run again, so the work must change nothing but the database.
 */
async function transaction<T>(
  work: (tx: Transaction) => Promise<T>,
  options?: TransactionOptions,
): Promise<T> {
  const outer = open.getStore();
  if (outer) return work(outer);
  for (let tried = 1; ; tried++)
    try {
      return await transactions.transaction((tx) => open.run(tx, () => work(tx)), options);
    } catch (error) {
      const reason = again[numberOf(error) ?? 0];
      if (tried >= MAX_TRIES || !reason) throw error;
      transactionsRetried[reason]++;
      await new Promise((resolve) => setTimeout(resolve, 2 ** tried * (10 + Math.random() * 10)));
    }
}

/** Whether one stands in a transaction. */
export const isInTransaction = (): boolean => open.getStore() !== undefined;

/** Leaves the transaction one stands in, for what is kept beyond it and must not see what may be rolled back. */
export const outsideTransaction = <T>(work: () => Promise<T>): Promise<T> => open.exit(work);

/**
 * The database. Inside a transaction every query of the same call is part of it, whoever makes it: nothing waits for a
 * second connection while it holds the first.
 */
export const db: Omit<Database, 'transaction'> & { transaction: typeof transaction } = new Proxy(queries, {
  get(target, name) {
    if (name === 'transaction') return transaction;
    const holder = open.getStore() ?? target;
    const found = Reflect.get(holder, name) as unknown;
    return typeof found === 'function' ? found.bind(holder) : found;
  },
}) as never;

/** Ends every connection of this process. */
export async function closePools(): Promise<void> {
  await Promise.all([pools.queries.end(), pools.transactions.end()]);
}
