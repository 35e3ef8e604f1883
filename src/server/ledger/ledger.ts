import { and, desc, eq, getTableColumns, gte, inArray, max, sql } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { channelStatusOf, type LedgerEntry } from '../../core/ledger/ledger';
import { asksChannelStatus } from '../../core/plans/plan';
import { raiseRevision } from '../catalog/changes';
import { touchItems } from '../catalog/externalFacts';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { draft, ledger, planVersion } from '../db/schema';

type Row = typeof ledger.$inferSelect;
/** Rows written in one statement. */
export const BATCH_ROWS = 500;

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
  readonly entries: ReadonlyMap<string, Dated>;
  /** When the latest entry was written. */
  readonly latest: Date | null;
  /** What was written last, as {@link refreshStateOf} tells it. */
  readonly stand: string;
  /** Whether it was read so long after that one that no older entry is still to come. */
  readonly settled: boolean;
}
const read = new Map<string, ReadLedger>();
interface Dated extends LedgerEntry {
  readonly changedAt: Date;
}
/** An entry that was written before another may be seen after it: what is younger than the latest less this is read again. */
const overlap = 120_000;

/** From when on entries are read again. */
const againFrom = (latest: Date | null): Date => new Date((latest?.getTime() ?? 0) - overlap);

/** How many entries were written since a moment, and when, in ms from there: any that is written changes it. */
async function standOf(feed: string, since: Date): Promise<string> {
  const from = sql.param(since, ledger.changedAt);
  const [found] = await db
    .select({
      count: sql<number>`count(*)`,
      sum: sql<number | null>`sum(timestampdiff(microsecond, ${from}, ${ledger.changedAt}) div 1000)`,
    })
    .from(ledger)
    .where(and(eq(ledger.feed, feed), gte(ledger.changedAt, since)));
  return `${Number(found?.count ?? 0)} ${Number(found?.sum ?? 0)}`;
}

/** The same of entries that were read. */
function standAmong(entries: ReadonlyMap<string, Dated>, since: Date): string {
  const from = since.getTime();
  let [count, sum] = [0, 0];
  for (const { changedAt } of entries.values()) {
    const after = changedAt.getTime() - from;
    if (after < 0) continue;
    count++;
    sum += after;
  }
  return `${count} ${sum}`;
}

/**
 * All that a feed's channel has, by SKU. Only what was written since the last call is read; where nothing was, the answer is
 * the same object. After a whole feed was sent that is many: they are counted before they are read again.
 */
export async function ledgerOf(feed: string): Promise<ReadonlyMap<string, LedgerEntry>> {
  const known = read.get(feed);
  const [state] = await db
    .select({ latest: max(ledger.changedAt) })
    .from(ledger)
    .where(eq(ledger.feed, feed));
  const latest = state?.latest ?? null;
  if (known?.settled && known.latest?.getTime() === latest?.getTime()) return known.entries;
  const settled = latest === null || Date.now() - latest.getTime() > overlap;
  if (
    known &&
    known.latest?.getTime() === latest?.getTime() &&
    known.stand === (await standOf(feed, againFrom(latest)))
  ) {
    read.set(feed, { ...known, settled });
    return known.entries;
  }
  // A database that stands where it stood before is another one: a copy that was brought back.
  const since =
    known?.latest && latest && latest >= known.latest ? known.latest.getTime() - overlap : undefined;
  const rows = await db
    .select(withoutValues)
    .from(ledger)
    .where(
      and(eq(ledger.feed, feed), since === undefined ? undefined : gte(ledger.changedAt, new Date(since))),
    );
  if (since === undefined || !known) {
    const entries = new Map(rows.map((row) => [row.sku, { ...entryOf(row), changedAt: row.changedAt }]));
    read.set(feed, { entries, latest, stand: standAmong(entries, againFrom(latest)), settled });
    return entries;
  }
  const fresh = rows.filter(
    ({ sku, changedAt }) => known.entries.get(sku)?.changedAt.getTime() !== changedAt.getTime(),
  );
  if (fresh.length === 0) {
    read.set(feed, { ...known, latest, stand: standAmong(known.entries, againFrom(latest)), settled });
    return known.entries;
  }
  const entries = new Map(known.entries);
  for (const row of fresh) entries.set(row.sku, { ...entryOf(row), changedAt: row.changedAt });
  read.set(feed, { entries, latest, stand: standAmong(entries, againFrom(latest)), settled });
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
      .select({ sku: ledger.sku, values: ledger.heldValues })
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

/** Some entries, held until the transaction ends. */
export async function lockedLedger(
  tx: Transaction,
  feed: string,
  skus: readonly string[],
): Promise<Map<string, LedgerEntry>> {
  if (skus.length === 0) return new Map();
  return new Map((await someOf(tx, feed, skus).for('update')).map((row) => [row.sku, entryOf(row)]));
}

/** Whether a feed's draft, or what it has published, asks how its listings stand at the channel. */
async function asked(tx: Transaction, feed: string): Promise<boolean> {
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
  if (!(await asked(tx, feed))) return [];
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
  const otherwise = await standingOtherwise(tx, feed, entries);
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
    draftDigest: entry.draft?.digest ?? null,
    draftSubmission: entry.draft?.submission ?? null,
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
    'draftDigest',
    'draftSubmission',
    'problems',
    'unsure',
    'inReview',
    'withdrawn',
    'number',
    'changedAt',
  ] as const;
  const kept = rows.filter(({ heldValues }) => heldValues === undefined);
  const given = rows.filter(({ heldValues }) => heldValues !== undefined);
  for (let at = 0; at < kept.length; at += BATCH_ROWS)
    await insertRows(
      tx,
      ledger,
      kept.slice(at, at + BATCH_ROWS).map(({ heldValues: _none, ...row }) => row),
      columns,
    );
  for (let at = 0; at < given.length; at += BATCH_ROWS)
    await insertRows(tx, ledger, given.slice(at, at + BATCH_ROWS), [...columns, 'heldValues']);
  if (otherwise.length > 0) await touchItems(tx, otherwise, await raiseRevision(tx));
}
