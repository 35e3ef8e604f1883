import { and, eq, inArray } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import type { LedgerEntry } from '../../core/ledger/ledger';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { ledger } from '../db/schema';

type Row = typeof ledger.$inferSelect;
/** Rows written in one statement. */
export const rowsAtOnce = 500;

/** What a channel has of a listing, with the values it last accepted. */
export interface Kept extends LedgerEntry {
  readonly values: Values | undefined;
}

const keptOf = (row: Row): Kept => ({
  held:
    row.heldDigest === null
      ? undefined
      : { digest: row.heldDigest, submission: row.heldSubmission ?? 0 },
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
  values: row.heldValues ?? undefined,
});

/** All that a feed's channel has, by SKU. */
export async function ledgerOf(feed: string): Promise<Map<string, Kept>> {
  const rows = await db.select().from(ledger).where(eq(ledger.feed, feed));
  return new Map(rows.map((row) => [row.sku, keptOf(row)]));
}

/** Some of them, held until the transaction ends. */
export async function lockedLedger(
  tx: Transaction,
  feed: string,
  skus: readonly string[],
): Promise<Map<string, Kept>> {
  if (skus.length === 0) return new Map();
  const rows = await tx
    .select()
    .from(ledger)
    .where(and(eq(ledger.feed, feed), inArray(ledger.sku, [...skus])))
    .for('update');
  return new Map(rows.map((row) => [row.sku, keptOf(row)]));
}

/** Writes entries of the ledger, each under its SKU. */
export async function writeLedger(
  tx: Transaction,
  feed: string,
  entries: readonly (readonly [sku: string, entry: LedgerEntry, values: Values | undefined])[],
): Promise<void> {
  const changedAt = new Date();
  const rows = entries.map(([sku, entry, values]) => ({
    feed,
    sku,
    heldDigest: entry.held?.digest ?? null,
    heldSubmission: entry.held?.submission ?? null,
    heldValues: entry.held ? (values ?? null) : null,
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
  for (let at = 0; at < rows.length; at += rowsAtOnce)
    await insertRows(tx, ledger, rows.slice(at, at + rowsAtOnce), [
      'heldDigest',
      'heldSubmission',
      'heldValues',
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
    ]);
}
