import { and, desc, eq, getTableColumns, gt, inArray, sql } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { channelStatusOf, type LedgerEntry } from '../../core/ledger/ledger';
import { asksChannelStatus } from '../../core/plans/plan';
import { raiseRevision } from '../catalog/changes';
import { touchItems } from '../catalog/externalFacts';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { draft, ledger, ledgerRevision, planVersion } from '../db/schema';
import { Memo } from '../runtime/memo';

type Row = typeof ledger.$inferSelect;
/** Rows written in one statement. */
export const BATCH_ROWS = 500;

/** The columns of the ledger without the values, which are long and wanted for few. */
const { acceptedValues: _values, ...withoutValues } = getTableColumns(ledger);

const entryOf = (row: Omit<Row, 'acceptedValues'>): LedgerEntry => ({
  held:
    row.acceptedDigest === null
      ? undefined
      : { digest: row.acceptedDigest, submission: row.acceptedSubmission ?? 0 },
  pending:
    row.pendingSubmission === null
      ? undefined
      : {
          submission: row.pendingSubmission,
          digest: row.pendingDigest ?? undefined,
          removal: row.pendingDigest === null,
        },
  refused:
    row.rejectedSubmission === null
      ? undefined
      : { digest: row.rejectedDigest ?? undefined, submission: row.rejectedSubmission },
  draft:
    row.draftDigest === null ? undefined : { digest: row.draftDigest, submission: row.draftSubmission ?? 0 },
  problems: row.problems,
  unsure: row.unsure,
  inReview: row.inReview,
  withdrawn: row.withdrawn,
  number: row.number ?? undefined,
});

/** A ledger as this process read it last. */
interface ReadLedger {
  readonly entries: ReadonlyMap<string, LedgerEntry>;
  readonly revision: number;
}
const ledgers = new Memo<ReadLedger>({ owner: 'ledgers', maxEntries: 200 });

/**
 * Raises the revision of a feed's ledger and locks it for the transaction: writers of one ledger follow each other, so that a reader who
 * knows a revision knows all entries up to it. It counts on from the database's clock, so that a feed that is made again under the code
 * of one that was deleted never repeats a revision.
 */
export async function raiseLedgerRevision(tx: Transaction, feed: string): Promise<number> {
  const clock = sql<number>`cast(unix_timestamp(now(3)) * 1000 as unsigned)`;
  await tx
    .insert(ledgerRevision)
    .values({ feed, revision: clock as unknown as number })
    .onDuplicateKeyUpdate({
      set: { revision: sql`greatest(${ledgerRevision.revision} + 1, ${clock})` },
    });
  const [row] = await tx
    .select({ revision: ledgerRevision.revision })
    .from(ledgerRevision)
    .where(eq(ledgerRevision.feed, feed));
  return row?.revision ?? 0;
}

/**
 * All that a feed's channel has, by SKU. Only what was written since the last call is read; where nothing was, the answer is
 * the same object.
 */
export async function ledgerOf(feed: string): Promise<ReadonlyMap<string, LedgerEntry>> {
  const [state] = await db
    .select({ revision: ledgerRevision.revision })
    .from(ledgerRevision)
    .where(eq(ledgerRevision.feed, feed));
  const revision = state?.revision ?? 0;
  const known = ledgers.get(feed);
  if (known?.revision === revision) return known.entries;
  // A revision that went back is that of another database: a copy that was restored.
  const since = known && known.revision < revision ? known : undefined;
  const rows = await db
    .select(withoutValues)
    .from(ledger)
    .where(and(eq(ledger.feed, feed), since && gt(ledger.revision, since.revision)));
  const entries = new Map(since?.entries);
  for (const row of rows) entries.set(row.sku, entryOf(row));
  ledgers.set(feed, { entries, revision });
  return entries;
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
  for (let at = 0; at < skus.length; at += BATCH_ROWS) {
    const rows = await db
      .select({ sku: ledger.sku, values: ledger.acceptedValues })
      .from(ledger)
      .where(and(eq(ledger.feed, feed), inArray(ledger.sku, skus.slice(at, at + BATCH_ROWS))));
    for (const { sku, values } of rows) if (values) found.set(sku, values);
  }
  return found;
}

const someOf = (from: Pick<Transaction, 'select'>, feed: string, skus: readonly string[]) =>
  from
    .select(withoutValues)
    .from(ledger)
    .where(and(eq(ledger.feed, feed), inArray(ledger.sku, [...skus])));

/** What a feed's channel has of some listings, by SKU. */
export async function ledgerEntries(
  feed: string,
  skus: readonly string[],
): Promise<Map<string, LedgerEntry>> {
  if (skus.length === 0) return new Map();
  return new Map((await someOf(db, feed, skus)).map((row) => [row.sku, entryOf(row)]));
}

/** Some entries, locked until the transaction ends; the ledger's revision is locked before them, as {@link writeLedger} does. */
export async function lockedLedger(
  tx: Transaction,
  feed: string,
  skus: readonly string[],
): Promise<Map<string, LedgerEntry>> {
  if (skus.length === 0) return new Map();
  await tx
    .select({ revision: ledgerRevision.revision })
    .from(ledgerRevision)
    .where(eq(ledgerRevision.feed, feed))
    .for('update');
  return new Map((await someOf(tx, feed, skus).for('update')).map((row) => [row.sku, entryOf(row)]));
}

/** Whether a feed's draft, or what it has published, asks how its listings stand at the channel. */
async function requested(tx: Transaction, feed: string): Promise<boolean> {
  const [own, [latest]] = await Promise.all([
    tx.select({ plan: draft.plan }).from(draft).where(eq(draft.feed, feed)),
    tx
      .select({ plan: planVersion.plan })
      .from(planVersion)
      .where(eq(planVersion.feed, feed))
      .orderBy(desc(planVersion.version))
      .limit(1),
  ]);
  return [...own, ...(latest ? [latest] : [])].some(({ plan }) => asksChannelStatus(plan));
}

/** Those of some listings that are about to stand otherwise at the channel, where the feed's conditions ask for it. */
async function standingOtherwise(
  tx: Transaction,
  feed: string,
  entries: readonly (readonly [sku: string, entry: LedgerEntry, ...unknown[]])[],
): Promise<string[]> {
  if (!(await requested(tx, feed))) return [];
  const before = await lockedLedger(
    tx,
    feed,
    entries.map(([sku]) => sku),
  );
  return entries.flatMap(([sku, entry]) =>
    channelStatusOf(before.get(sku)).join() === channelStatusOf(entry).join() ? [] : [sku],
  );
}

/**
 * Writes entries of the ledger, each under its SKU, with the values that were accepted just now; without, those there stay. Items
 * of which a condition asks how they stand are counted anew where that is another now.
 */
export async function writeLedger(
  tx: Transaction,
  feed: string,
  entries: readonly (readonly [sku: string, entry: LedgerEntry, values?: Values | undefined])[],
): Promise<void> {
  const changedAt = new Date();
  const revision = await raiseLedgerRevision(tx, feed);
  const otherwise = await standingOtherwise(tx, feed, entries);
  const rows = entries.map(([sku, entry, values]) => ({
    feed,
    sku,
    acceptedDigest: entry.held?.digest ?? null,
    acceptedSubmission: entry.held?.submission ?? null,
    acceptedValues: entry.held ? values : null,
    pendingSubmission: entry.pending?.submission ?? null,
    pendingDigest: entry.pending?.digest ?? null,
    rejectedDigest: entry.refused?.digest ?? null,
    rejectedSubmission: entry.refused?.submission ?? null,
    draftDigest: entry.draft?.digest ?? null,
    draftSubmission: entry.draft?.submission ?? null,
    problems: [...entry.problems],
    unsure: entry.unsure,
    inReview: entry.inReview,
    withdrawn: entry.withdrawn,
    number: entry.number ?? null,
    changedAt,
    revision,
  }));
  const columns = [
    'acceptedDigest',
    'acceptedSubmission',
    'pendingSubmission',
    'pendingDigest',
    'rejectedDigest',
    'rejectedSubmission',
    'draftDigest',
    'draftSubmission',
    'problems',
    'unsure',
    'inReview',
    'withdrawn',
    'number',
    'changedAt',
    'revision',
  ] as const;
  const stored = rows.filter(({ acceptedValues }) => acceptedValues === undefined);
  const given = rows.filter(({ acceptedValues }) => acceptedValues !== undefined);
  for (let at = 0; at < stored.length; at += BATCH_ROWS)
    await insertRows(
      tx,
      ledger,
      stored.slice(at, at + BATCH_ROWS).map(({ acceptedValues: _none, ...row }) => row),
      columns,
    );
  for (let at = 0; at < given.length; at += BATCH_ROWS)
    await insertRows(tx, ledger, given.slice(at, at + BATCH_ROWS), [...columns, 'acceptedValues']);
  if (otherwise.length > 0) await touchItems(tx, otherwise, await raiseRevision(tx));
}
