import { and, eq, getTableColumns, sql } from 'drizzle-orm';
import type { Listing } from '../../core/listing/evaluate';
import { causesTogether, type FeedFigures, noFigures } from '../../core/listing/figures';
import { AsKept, inParts, insertRows, isOneOf } from '../db/bulk';
import type { Transaction } from '../db/connection';
import { feedListing, feedValue, item, type ValueShared } from '../db/schema';
import type { EvaluatedChunk, EvaluatedListing } from './evaluateChunk';

/** Writing down what is true of listings, comparing those that share a value, and the figures that follow from it. */

const listingColumns = [
  'state',
  'own',
  'reason',
  'digest',
  'category',
  'place',
  'ownCauses',
  'causes',
  'issues',
  'shared',
  'completed',
  'total',
] as const;

type Standing = Pick<typeof feedListing.$inferSelect, 'category' | 'state' | 'causes'>;

/** Counts a listing in, or out, of a feed's figures. */
export type ChangeSink = (status: Standing, by: number) => void;

/** What was told together: listings that stand alike, and how many more there are of them. */
export type ChangedListings = readonly (readonly [Standing, number])[];

/** What is told, gathered: what comes and goes again is nothing. */
export function gathered(): { tell: ChangeSink; all(): ChangedListings } {
  const net = new Map<string, [Standing, number]>();
  return {
    tell: (status, by) => {
      const { category, state, causes } = status;
      const key = `${state}\n${category}\n${causes}`;
      const known = net.get(key);
      if (known) known[1] += by;
      else net.set(key, [{ category, state, causes }, by]);
    },
    all: () => [...net.values()].filter(([, by]) => by !== 0),
  };
}

/** Figures after what was told. */
export function figuresAfter(figures: FeedFigures, reported: ChangedListings): FeedFigures {
  const states = { ...figures.states };
  const categories = new Map(figures.categories.map(([name, counts]) => [name, { ...counts }]));
  const causes = new Map(figures.causes);
  for (const [{ category, state, causes: together }, by] of reported) {
    states[state] += by;
    const counts = categories.get(category) ?? { ready: 0, blocked: 0, leftOut: 0 };
    counts[state] += by;
    categories.set(category, counts);
    if (state === 'blocked') causes.set(together, (causes.get(together) ?? 0) + by);
  }
  return {
    states,
    categories: [...categories]
      .filter(([, { ready, blocked, leftOut }]) => ready + blocked + leftOut > 0)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
    causes: [...causes].filter(([, count]) => count > 0).sort(([a], [b]) => (a < b ? -1 : 1)),
  };
}

/**
 * Marks the listings of a feed that share what may stand on one alone, and blocks them: one item that changes touches those it is
 * compared with where that makes a difference to them, and nothing else. What else is shared blocks nothing, and is looked up when
 * somebody asks (`kept.ts`).
 * @param digests of values that came or went @param others listings that stood marked and were written anew: they are told again
 */
async function compareShared(
  tx: Transaction,
  code: string,
  digests: ReadonlySet<string>,
  others: readonly string[],
  tell: ChangeSink,
): Promise<void> {
  const affected = new Set(others);
  for (const part of inParts([...digests])) {
    const groups = await tx
      .select({
        digest: feedValue.digest,
        count: sql<number>`count(*)`,
        marked: sql<number>`sum(${feedValue.alike})`,
      })
      .from(feedValue)
      .where(and(eq(feedValue.feed, code), isOneOf(feedValue.digest, part)))
      .groupBy(feedValue.digest);
    // Nearly all stand as they should: one has it, unmarked.
    const wrongly = groups.filter(
      ({ count, marked }) => Number(marked) !== (Number(count) > 1 ? Number(count) : 0),
    );
    const alike = wrongly.flatMap(({ digest, count }) => (Number(count) > 1 ? [digest] : []));
    const alone = wrongly.flatMap(({ digest, count }) => (Number(count) > 1 ? [] : [digest]));
    for (const [which, marked] of [
      [alike, true],
      [alone, false],
    ] as const) {
      if (which.length === 0) continue;
      const wrong = and(
        eq(feedValue.feed, code),
        isOneOf(feedValue.digest, which),
        eq(feedValue.alike, !marked),
      );
      for (const { sku } of await tx.select({ sku: feedValue.sku }).from(feedValue).where(wrong))
        affected.add(sku);
      await tx.update(feedValue).set({ alike: marked }).where(wrong);
    }
  }
  for (const skus of inParts([...affected])) await blockAlike(tx, code, skus, tell);
}

/** The rows of some listings for what they share. */
const areShares = (code: string, shares: readonly { readonly digest: string; readonly sku: string }[]) =>
  and(
    eq(feedValue.feed, code),
    sql`(${feedValue.digest}, ${feedValue.sku}) in (${sql.param(shares.map(({ digest, sku }) => [digest, sku]))})`,
  );

/** Blocks those of some listings that are marked, and lets the others be as they are by themselves. */
async function blockAlike(
  tx: Transaction,
  code: string,
  skus: readonly string[],
  tell: ChangeSink,
): Promise<void> {
  const listings = await tx
    .select()
    .from(feedListing)
    .where(and(eq(feedListing.feed, code), isOneOf(feedListing.sku, skus)));
  const shares = listings.flatMap(({ sku, shared }) =>
    shared.flatMap((one) => (blocks(one) ? [{ sku, digest: one[2] }] : [])),
  );
  const marked = new Set<string>();
  for (const part of inParts(shares, 500)) {
    const alike = await tx
      .select({ sku: feedValue.sku, digest: feedValue.digest })
      .from(feedValue)
      .where(and(areShares(code, part), eq(feedValue.alike, true)));
    for (const { sku, digest } of alike) marked.add(`${sku}\n${digest}`);
  }
  const compared = listings.map((one) => {
    const found = one.shared.flatMap(([, field, digest]) =>
      marked.has(`${one.sku}\n${digest}`) ? [`duplicate:${field}`] : [],
    );
    const state: Listing['state'] = found.length > 0 && one.own === 'ready' ? 'blocked' : one.own;
    const own = one.ownCauses.split('\n').filter((cause) => cause !== '');
    const next = { ...one, state, causes: causesTogether([...own, ...found]) };
    tell(one, -1);
    tell(next, 1);
    return next;
  });
  await insertRows(tx, feedListing, compared, ['state', 'causes']);
}

/** What of a listing follows from its item alone; the rest from what it is compared with. */
const ownColumns = listingColumns.filter((name) => name !== 'state' && name !== 'causes');

/** A listing as it stands, its issues and what it shares as they are written down. */
type Stored = Omit<typeof feedListing.$inferSelect, 'issues' | 'shared' | 'feed'> & {
  issues: string;
  shared: string;
};
const { feed: _feed, issues: _issues, shared: _shared, ...plainColumns } = getTableColumns(feedListing);
const storedColumns = {
  ...plainColumns,
  issues: sql<string>`cast(${feedListing.issues} as char)`,
  shared: sql<string>`cast(${feedListing.shared} as char)`,
};

const standsAs = (created: EvaluatedListing, stored: Stored): boolean =>
  ownColumns.every((name) => created[name] === stored[name]);

/** What listings share that share nothing, as it is kept. */
const nothingShared = '[]';

/** Whether it is blocked, or held, by what it has in common with others. */
const standsMarked = ({ causes, ownCauses }: Stored): boolean => causes !== ownCauses;

/** Whether it blocks those that share it. */
const blocks = ([check]: ValueShared): boolean => check === 'duplicate';

/** How some listings stand, by item. */
async function status(tx: Transaction, code: string, skus: readonly string[]): Promise<Map<string, Stored>> {
  const stood = new Map<string, Stored>();
  for (const part of inParts(skus)) {
    const found = await tx
      .select(storedColumns)
      .from(feedListing)
      .where(and(eq(feedListing.feed, code), isOneOf(feedListing.sku, part)));
    for (const one of found) stood.set(one.sku, one);
  }
  return stood;
}

/**
 * Writes down what listings share, of those that share something else than they did.
 * @param changed how each stood, and what it shares now
 * @returns the digests of what came or went of what blocks
 */
async function writeShared(
  tx: Transaction,
  code: string,
  changed: Iterable<readonly [sku: string, stood: Stored | undefined, now: string]>,
): Promise<ReadonlySet<string>> {
  const digests = new Set<string>();
  const gone: { sku: string; digest: string }[] = [];
  const fresh: (typeof feedValue.$inferInsert)[] = [];
  for (const [sku, stood, shared] of changed) {
    if (stood?.shared === shared) continue;
    const was = stood ? (JSON.parse(stood.shared) as ValueShared[]) : [];
    const now = JSON.parse(shared) as ValueShared[];
    const isIn = (list: readonly ValueShared[], [, , digest, , part]: ValueShared) =>
      list.some((other) => other[2] === digest && other[4] === part);
    for (const one of was)
      if (!isIn(now, one)) {
        gone.push({ sku, digest: one[2] });
        if (blocks(one)) digests.add(one[2]);
      }
    for (const one of now)
      if (!isIn(was, one)) {
        fresh.push({ feed: code, digest: one[2], sku, part: one[4] });
        if (blocks(one)) digests.add(one[2]);
      }
  }
  for (const part of inParts(gone, 500)) await tx.delete(feedValue).where(areShares(code, part));
  for (const part of inParts(fresh)) await insertRows(tx, feedValue, part);
  return digests;
}

async function remove(tx: Transaction, code: string, skus: readonly string[]): Promise<void> {
  for (const part of inParts(skus))
    await tx.delete(feedListing).where(and(eq(feedListing.feed, code), isOneOf(feedListing.sku, part)));
}

/** Writes down what was made of items, and compares them with the others. */
export async function write(
  tx: Transaction,
  code: string,
  { archived, listings }: EvaluatedChunk,
  tell: ChangeSink,
): Promise<void> {
  const stood = await status(tx, code, [...archived, ...listings.map(({ sku }) => sku)]);
  const gone = archived.filter((sku) => stood.has(sku));
  // Most listings are as they were, whatever has changed: reading what stands takes a part of the time that writing does.
  const written = listings.filter((listing) => {
    const before = stood.get(listing.sku);
    return !before || !standsAs(listing, before);
  });
  await remove(tx, code, gone);
  for (const sku of [...gone, ...written.map((listing) => listing.sku)]) {
    const before = stood.get(sku);
    if (before) tell(before, -1);
  }
  for (const listing of written) tell(listing, 1);
  const rows = written.map((listing) => ({
    ...listing,
    feed: code,
    issues: new AsKept(listing.issues),
    shared: new AsKept(listing.shared),
  }));
  for (const part of inParts(rows, 500)) await insertRows(tx, feedListing, part, listingColumns);
  const digests = await writeShared(tx, code, [
    ...gone.map((sku) => [sku, stood.get(sku), nothingShared] as const),
    ...written.map(({ sku, shared }) => [sku, stood.get(sku), shared] as const),
  ]);
  const marked = written.flatMap(({ sku }) => {
    const before = stood.get(sku);
    return before && standsMarked(before) ? [sku] : [];
  });
  await compareShared(tx, code, digests, marked, tell);
}

/** Takes away what is kept of items that are no more, where any went away since. @param reload the revision at which some last did */
export async function removeGone(
  tx: Transaction,
  code: string,
  { since, reload }: { readonly since: number; readonly reload: number },
  tell: ChangeSink,
): Promise<void> {
  if (since >= reload) return;
  const gone = await tx
    .select({ sku: feedListing.sku })
    .from(feedListing)
    .leftJoin(item, eq(item.sku, feedListing.sku))
    .where(and(eq(feedListing.feed, code), sql`(${item.id} is null or ${item.archived})`));
  const skus = gone.map(({ sku }) => sku);
  const stood = await status(tx, code, skus);
  for (const before of stood.values()) tell(before, -1);
  await remove(tx, code, skus);
  const digests = await writeShared(
    tx,
    code,
    skus.map((sku) => [sku, stood.get(sku), nothingShared] as const),
  );
  await compareShared(tx, code, digests, [], tell);
}

export async function figuresOf(tx: Transaction, code: string): Promise<FeedFigures> {
  const mine = eq(feedListing.feed, code);
  const [states, causes] = await Promise.all([
    tx
      .select({ category: feedListing.category, state: feedListing.state, count: sql<number>`count(*)` })
      .from(feedListing)
      .where(mine)
      .groupBy(feedListing.category, feedListing.state),
    tx
      .select({ causes: feedListing.causes, count: sql<number>`count(*)` })
      .from(feedListing)
      .where(and(mine, eq(feedListing.state, 'blocked')))
      .groupBy(feedListing.causes),
  ]);
  const total = { ...noFigures.states };
  const categories = new Map<string, Record<Listing['state'], number>>();
  for (const { category, state, count } of states) {
    const one = categories.get(category) ?? { ready: 0, blocked: 0, leftOut: 0 };
    one[state] += Number(count);
    total[state] += Number(count);
    categories.set(category, one);
  }
  return {
    states: total,
    categories: [...categories].sort(([a], [b]) => (a < b ? -1 : 1)),
    causes: causes
      .map(({ causes: together, count }) => [together, Number(count)] as const)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  };
}
