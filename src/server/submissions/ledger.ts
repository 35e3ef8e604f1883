import { and, eq, getTableColumns, inArray } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import type { LedgerEntry } from '../../core/ledger/ledger';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { ledger } from '../db/schema';

type Row = typeof ledger.$inferSelect;
/** Rows written in one statement. */
export const rowsAtOnce = 500;

/** The columns of the ledger without the values, which are long and wanted for few. */
const { heldValues: _values, ...withoutValues } = getTableColumns(ledger);

const entryOf = (row: Omit<Row, 'heldValues'>): LedgerEntry => ({
  held: row.heldDigest === null ? undefined : { digest: row.heldDigest, submission: row.heldSubmission ?? 0 },
  pending:
    row.pendingSubmission === null
      ? undefined
      : {
          submission: row.pendingSubmission,
          digest: row.pendingDigest ?? undefined,
          removal: row.pendingDigest === null,
        },
  refused:
    row.refusedSubmission === null
      ? undefined
      : { digest: row.refusedDigest ?? undefined, submission: row.refusedSubmission },
  problems: row.problems,
  unsure: row.unsure,
  inReview: row.inReview,
  withdrawn: row.withdrawn,
  number: row.number ?? undefined,
});

/** All that a feed's channel has, by SKU. */
export async function ledgerOf(feed: string): Promise<Map<string, LedgerEntry>> {
  const rows = await db.select(withoutValues).from(ledger).where(eq(ledger.feed, feed));
  return new Map(rows.map((row) => [row.sku, entryOf(row)]));
}

/** What a feed's channel has of one listing; undefined where it never had it. */
export async function ledgerEntry(feed: string, sku: string): Promise<LedgerEntry | undefined> {
  const [row] = await db
    .select(withoutValues)
    .from(ledger)
    .where(and(eq(ledger.feed, feed), eq(ledger.sku, sku)));
  return row && entryOf(row);
}

/** The values that a feed's channel last accepted of some listings. */
export async function acceptedValues(feed: string, skus: readonly string[]): Promise<Map<string, Values>> {
  const found = new Map<string, Values>();
  for (let at = 0; at < skus.length; at += rowsAtOnce) {
    const rows = await db
      .select({ sku: ledger.sku, values: ledger.heldValues })
      .from(ledger)
      .where(and(eq(ledger.feed, feed), inArray(ledger.sku, skus.slice(at, at + rowsAtOnce))));
    for (const { sku, values } of rows) if (values) found.set(sku, values);
  }
  return found;
}

/** Some entries, held until the transaction ends. */
export async function lockedLedger(
  tx: Transaction,
  feed: string,
  skus: readonly string[],
): Promise<Map<string, LedgerEntry>> {
  if (skus.length === 0) return new Map();
  const rows = await tx
    .select(withoutValues)
    .from(ledger)
    .where(and(eq(ledger.feed, feed), inArray(ledger.sku, [...skus])))
    .for('update');
  return new Map(rows.map((row) => [row.sku, entryOf(row)]));
}

/** Writes entries of the ledger, each under its SKU, with the values that were accepted just now; without, those there stay. */
export async function writeLedger(
  tx: Transaction,
  feed: string,
  entries: readonly (readonly [sku: string, entry: LedgerEntry, values?: Values | undefined])[],
): Promise<void> {
  const changedAt = new Date();
  const rows = entries.map(([sku, entry, values]) => ({
    feed,
    sku,
    heldDigest: entry.held?.digest ?? null,
    heldSubmission: entry.held?.submission ?? null,
    heldValues: entry.held ? values : null,
    pendingSubmission: entry.pending?.submission ?? null,
    pendingDigest: entry.pending?.digest ?? null,
    refusedDigest: entry.refused?.digest ?? null,
    refusedSubmission: entry.refused?.submission ?? null,
    problems: [...entry.problems],
    unsure: entry.unsure,
    inReview: entry.inReview,
    withdrawn: entry.withdrawn,
    number: entry.number ?? null,
    changedAt,
  }));
  const columns = [
    'heldDigest',
    'heldSubmission',
    'pendingSubmission',
    'pendingDigest',
    'refusedDigest',
    'refusedSubmission',
    'problems',
    'unsure',
    'inReview',
    'withdrawn',
    'number',
    'changedAt',
  ] as const;
  const kept = rows.filter(({ heldValues }) => heldValues === undefined);
  const given = rows.filter(({ heldValues }) => heldValues !== undefined);
  for (let at = 0; at < kept.length; at += rowsAtOnce)
    await insertRows(
      tx,
      ledger,
      kept.slice(at, at + rowsAtOnce).map(({ heldValues: _none, ...row }) => row),
      columns,
    );
  for (let at = 0; at < given.length; at += rowsAtOnce)
    await insertRows(tx, ledger, given.slice(at, at + rowsAtOnce), [...columns, 'heldValues']);
}
