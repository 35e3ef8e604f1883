import { createHash } from 'node:crypto';
import { and, asc, DrizzleQueryError, eq, gt, inArray, max, ne, sql } from 'drizzle-orm';
import { type AttributeIndex, asText, type Value } from '../../core/catalog/value';
import type { Issue } from '../../core/checks/issue';
import { EvaluationStopped } from '../../core/errors/evaluationStopped';
import { type CompiledPlan, compile } from '../../core/listing/compile';
import { evaluate, type Listing, watchEvery } from '../../core/listing/evaluate';
import { causesOf, type FeedFigures, noFigures } from '../../core/listing/figures';
import {
  brokenPictureLinks,
  catalogCurrency,
  catalogRow,
  indexOfAttributes,
  loadAttributes,
} from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import {
  draft,
  family,
  feedListing,
  feedSummary,
  feedValue,
  item,
  job,
  planVersion,
  workspace,
} from '../db/schema';
import { type FeedHead, feedPlans, listFeeds } from '../feeds/drafts';
import { enqueue, JobLost, unattended, type Work } from '../jobs/queue';

/**
 * What is kept of each listing (`feed_listing`, `feed_value`, `feed_summary`) and how it is brought up to date: the items that
 * changed since a feed was last counted, or all of them where plan, sheet or attributes did, a chunk a transaction. How far it is
 * stands in the summary, so that any worker goes on where another ended, and two at once never do the same chunk.
 */

/** Items a transaction. */
const chunk = 2000;
/** Feeds at once. */
const atOnce = 3;
/** A chunk may take this long, and this long for each row it has done, before its plan is given up. In ms. */
const patience = { atLeast: 4000, row: 0.5 };

const md5 = (text: string): string => createHash('md5').update(text).digest('hex');

interface Counted {
  readonly code: string;
  readonly compiled: CompiledPlan;
  readonly plan: string;
  /** By which it is known whether all of this is still so. */
  readonly key: string;
}

const compiledPlans = new Map<string, Counted>();
let begun = 0;

function watch(rows = 0): void {
  if (Date.now() - begun > patience.atLeast + rows * patience.row) throw new EvaluationStopped();
}

/** What the listings of all feeds are made of, besides items and plans; read once for all of them. */
interface Surroundings {
  readonly revision: number;
  readonly index: AttributeIndex;
  readonly broken: readonly string[];
  readonly digest: string;
}

async function surroundings(): Promise<Surroundings> {
  // First of all: what changes from here on asks for another count.
  const [space] = await db.select({ revision: workspace.catalogRevision }).from(workspace);
  const [attributes, currency, broken] = await Promise.all([
    loadAttributes(),
    catalogCurrency(),
    brokenPictureLinks(),
  ]);
  const index = indexOfAttributes(attributes, currency);
  return {
    revision: space?.revision ?? 0,
    index,
    broken,
    digest: md5(JSON.stringify([index.codes, currency, broken])),
  };
}

/** A feed's plan, compiled, and a digest of everything but the items that its listings are made of. */
async function planOf(head: FeedHead, around: Surroundings): Promise<Counted | undefined> {
  const { code } = head;
  const [channel, [latest], [own]] = await Promise.all([
    channelOf(head.channel),
    db
      .select({ version: max(planVersion.version) })
      .from(planVersion)
      .where(eq(planVersion.feed, code)),
    db.select({ revision: draft.revision }).from(draft).where(eq(draft.feed, code)),
  ]);
  const key = JSON.stringify([
    latest?.version ?? `draft ${own?.revision}`,
    channel.sheet.version,
    around.digest,
  ]);
  const known = compiledPlans.get(code);
  if (known?.key === key) return known;
  const plans = await feedPlans(code);
  if (!plans) return undefined;
  const plan = plans.published ?? plans.draft;
  begun = Date.now();
  const compiled = compile(plan, channel.sheet, channel.tree, around.index, {
    brokenPictures: new Set(around.broken),
    watch,
  });
  const digest = md5(JSON.stringify([plan, channel.sheet.version, around.digest]));
  const counted = { code, compiled, plan: digest, key };
  compiledPlans.set(code, counted);
  return counted;
}

type Summary = typeof feedSummary.$inferSelect;

async function summaryOf(
  tx: Transaction | typeof db,
  code: string,
  lock = false,
): Promise<Summary | undefined> {
  const query = tx.select().from(feedSummary).where(eq(feedSummary.feed, code));
  const [found] = lock ? await query.for('update') : await query;
  return found;
}

/** Runs work where the feed still stands as `seen` says; does nothing where another worker was there first. */
const where = (seen: Summary, { hold }: Work, work: (tx: Transaction) => Promise<void>): Promise<void> =>
  db.transaction(
    async (tx) => {
      await hold(tx);
      const now = await summaryOf(tx, seen.feed, true);
      const same =
        now?.plan === seen.plan &&
        now.revision === seen.revision &&
        now.target === seen.target &&
        now.upTo === seen.upTo;
      if (same) await work(tx);
    },
    // The summary's row keeps others out; gaps between rows need not be locked, where feeds would stand in each other's way.
    { isolationLevel: 'read committed' },
  );

/** The rows of one item in one feed. */
function rowsOf({ code, compiled }: Counted, category: string, listing: Listing) {
  const { sku, state, reason, values, issues } = listing;
  const causes = causesOf(issues).slice(0, 1500);
  const place = compiled.categoryAt < 0 ? undefined : values[compiled.categoryAt];
  const unique =
    state === 'leftOut'
      ? []
      : compiled.uniqueFields.flatMap((at) => {
          const value = values[at];
          const field = compiled.sheet.fields[at]?.code ?? '';
          return typeof value === 'string'
            ? [
                {
                  feed: code,
                  sku,
                  field,
                  digest: md5(`${field}\0${value}`),
                  value: value.slice(0, 190),
                },
              ]
            : [];
        });
  return {
    listing: {
      feed: code,
      sku,
      state,
      own: state,
      reason: reason?.slice(0, 300) ?? null,
      digest: valuesDigest(values),
      category,
      place: place === undefined ? null : asText(place).slice(0, 190),
      ownCauses: causes,
      causes,
      issues: [...issues],
    },
    unique,
  };
}

/** A digest of values in the order of a sheet's fields. */
export const valuesDigest = (values: readonly (Value | undefined)[]): string => md5(JSON.stringify(values));

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
] as const;

const inParts = <T>(list: readonly T[], size = 1000): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

type Standing = Pick<typeof feedListing.$inferSelect, 'category' | 'state' | 'causes'>;

/** Counts a listing in, or out, of a feed's figures. */
type Tell = (standing: Standing, by: 1 | -1) => void;

/** Figures that follow what is told. */
function followed(figures: FeedFigures): { tell: Tell; figures(): FeedFigures } {
  const states = { ...figures.states };
  const categories = new Map(figures.categories.map(([name, counts]) => [name, { ...counts }]));
  const causes = new Map(figures.causes);
  return {
    tell: ({ category, state, causes: together }, by) => {
      states[state] += by;
      const counts = categories.get(category) ?? { ready: 0, blocked: 0, leftOut: 0 };
      counts[state] += by;
      categories.set(category, counts);
      if (state === 'blocked') causes.set(together, (causes.get(together) ?? 0) + by);
    },
    figures: () => ({
      states,
      categories: [...categories]
        .filter(([, { ready, blocked, leftOut }]) => ready + blocked + leftOut > 0)
        .sort(([a], [b]) => (a < b ? -1 : 1)),
      causes: [...causes].filter(([, count]) => count > 0).sort(([a], [b]) => (a < b ? -1 : 1)),
    }),
  };
}

/**
 * Tells every listing of a feed that has one of these values how many share it, and blocks those that do: one item that changes
 * touches those it is compared with, and nothing else.
 */
async function compareShared(
  tx: Transaction,
  code: string,
  digests: ReadonlySet<string>,
  tell: Tell,
): Promise<void> {
  for (const part of inParts([...digests])) {
    const mine = and(eq(feedValue.feed, code), inArray(feedValue.digest, part));
    const groups = await tx
      .select({
        digest: feedValue.digest,
        count: sql<number>`count(*)`,
        told: sql<number>`max(${feedValue.shared})`,
      })
      .from(feedValue)
      .where(mine)
      .groupBy(feedValue.digest)
      .having(sql`count(*) > 1 or max(${feedValue.shared}) > 1`);
    if (groups.length === 0) continue;
    const counts = new Map(groups.map(({ digest, count }) => [digest, Number(count)]));
    const touched = await tx
      .select()
      .from(feedValue)
      .where(and(eq(feedValue.feed, code), inArray(feedValue.digest, [...counts.keys()])));
    await insertRows(
      tx,
      feedValue,
      touched.map((one) => ({ ...one, shared: counts.get(one.digest) ?? 1 })),
      ['shared'],
    );
    for (const skus of inParts([...new Set(touched.map(({ sku }) => sku))])) {
      const [listings, shared] = await Promise.all([
        tx
          .select()
          .from(feedListing)
          .where(and(eq(feedListing.feed, code), inArray(feedListing.sku, skus))),
        tx
          .select({ sku: feedValue.sku, field: feedValue.field })
          .from(feedValue)
          .where(and(eq(feedValue.feed, code), inArray(feedValue.sku, skus), gt(feedValue.shared, 1))),
      ]);
      const fields = new Map<string, string[]>();
      for (const { sku, field } of shared) fields.set(sku, [...(fields.get(sku) ?? []), field]);
      const compared = listings.map((one) => {
        const found = (fields.get(one.sku) ?? []).map((field) => `duplicate:${field}`);
        const causes = [...one.ownCauses.split('\n').filter((cause) => cause !== ''), ...found].sort();
        const state: Listing['state'] = found.length > 0 && one.own === 'ready' ? 'blocked' : one.own;
        const next = { ...one, state, causes: causes.join('\n').slice(0, 1500) };
        tell(one, -1);
        tell(next, 1);
        return next;
      });
      await insertRows(tx, feedListing, compared, ['state', 'causes']);
    }
  }
}

/** Takes what is kept of the values of some items away. @returns those that others may share */
async function forget(
  tx: Transaction,
  code: string,
  skus: readonly string[],
  tell: Tell,
): Promise<Set<string>> {
  const digests = new Set<string>();
  for (const part of inParts(skus)) {
    const [gone] = (await tx.execute(
      sql`delete from ${feedValue} where ${feedValue.feed} = ${code} and ${inArray(feedValue.sku, part)} returning digest`,
    )) as unknown as [{ digest: string }[]];
    for (const { digest } of gone) digests.add(digest);
    const standing = await tx
      .select({ category: feedListing.category, state: feedListing.state, causes: feedListing.causes })
      .from(feedListing)
      .where(and(eq(feedListing.feed, code), inArray(feedListing.sku, part)));
    for (const one of standing) tell(one, -1);
  }
  return digests;
}

async function remove(tx: Transaction, code: string, skus: readonly string[]): Promise<void> {
  for (const part of inParts(skus))
    await tx.delete(feedListing).where(and(eq(feedListing.feed, code), inArray(feedListing.sku, part)));
}

/** Items of the catalog in their order, behind one of them, that changed since a revision. */
const itemsBehind = (id: number, since: number) =>
  db
    .select({
      id: item.id,
      sku: item.sku,
      family: item.family,
      values: item.values,
      category: item.category,
      archived: item.archived,
    })
    .from(item)
    .where(and(gt(item.id, id), ...(since < 0 ? [] : [gt(item.revision, since)])))
    .orderBy(asc(item.id))
    .limit(chunk);
type ItemRow = Awaited<ReturnType<typeof itemsBehind>>[number];

/** What a feed makes of items. */
async function listingsOf(counted: Counted, rows: readonly ItemRow[]) {
  const codes = [...new Set(rows.flatMap((row) => row.family ?? []))];
  const families = new Map(
    (codes.length > 0 ? await db.select().from(family).where(inArray(family.code, codes)) : []).map((one) => [
      one.code,
      one,
    ]),
  );
  const { compiled } = counted;
  begun = Date.now();
  return rows
    .filter(({ archived }) => !archived)
    .map(({ sku, family: own, values, category }, i) => {
      if (i % watchEvery === 0) watch(i);
      const one = { sku, values, ...(own ? { family: own } : {}) };
      const row = catalogRow(one, own ? families.get(own) : undefined, compiled.index);
      return rowsOf(counted, category ?? '', evaluate(compiled, sku, row));
    });
}

/** Writes down what was made of items, and compares them with the others. */
async function write(
  tx: Transaction,
  code: string,
  rows: readonly ItemRow[],
  made: Awaited<ReturnType<typeof listingsOf>>,
  tell: Tell,
): Promise<void> {
  const touched = await forget(
    tx,
    code,
    rows.map(({ sku }) => sku),
    tell,
  );
  await remove(
    tx,
    code,
    rows.flatMap(({ sku, archived }) => (archived ? [sku] : [])),
  );
  const listings = made.map(({ listing }) => listing);
  for (const part of inParts(listings, 500)) await insertRows(tx, feedListing, part, listingColumns);
  for (const one of listings) tell(one, 1);
  const values = made.flatMap(({ unique }) => unique.map((one) => ({ ...one, shared: 1 })));
  for (const part of inParts(values)) await insertRows(tx, feedValue, part);
  for (const { digest } of values) touched.add(digest);
  await compareShared(tx, code, touched, tell);
}

/** Takes away what is kept of items that are no more, where any went away since. */
async function removeGone(tx: Transaction, code: string, since: number, tell: Tell): Promise<void> {
  const [space] = await tx.select({ reload: workspace.reloadRevision }).from(workspace);
  if (since >= (space?.reload ?? 0)) return;
  const gone = await tx
    .select({ sku: feedListing.sku })
    .from(feedListing)
    .leftJoin(item, eq(item.sku, feedListing.sku))
    .where(and(eq(feedListing.feed, code), sql`(${item.id} is null or ${item.archived})`));
  const skus = gone.map(({ sku }) => sku);
  const touched = await forget(tx, code, skus, tell);
  await remove(tx, code, skus);
  await compareShared(tx, code, touched, tell);
}

const untold: Tell = () => undefined;

/** The next chunk of a count of many items. @returns whether there was one */
async function countChunk(counted: Counted, seen: Summary, work: Work): Promise<boolean> {
  const rows = await itemsBehind(seen.upTo, seen.since);
  if (rows.length === 0) return false;
  const made = await listingsOf(counted, rows);
  await where(seen, work, async (tx) => {
    await write(tx, seen.feed, rows, made, untold);
    await tx
      .update(feedSummary)
      .set({ upTo: rows.at(-1)?.id ?? seen.upTo })
      .where(eq(feedSummary.feed, seen.feed));
  });
  return true;
}

/** Counts the few items that changed, figures and all, in one transaction. @returns false where they are too many for that */
async function countFew(counted: Counted, seen: Summary, revision: number, work: Work): Promise<boolean> {
  const rows = await itemsBehind(0, seen.revision);
  if (rows.length === chunk) return false;
  const made = await listingsOf(counted, rows);
  await where(seen, work, async (tx) => {
    const { tell, figures } = followed(seen.figures);
    await write(tx, seen.feed, rows, made, tell);
    await removeGone(tx, seen.feed, seen.revision, tell);
    await tx
      .update(feedSummary)
      .set({ revision, figures: figures(), at: new Date() })
      .where(eq(feedSummary.feed, seen.feed));
  });
  return true;
}

async function figuresOf(tx: Transaction, code: string): Promise<FeedFigures> {
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

/** Every item is counted: what is gone goes, and the figures are of the new revision. */
const finish = (seen: Summary, work: Work): Promise<void> =>
  where(seen, work, async (tx) => {
    await removeGone(tx, seen.feed, seen.since, untold);
    await tx
      .update(feedSummary)
      .set({
        revision: seen.target ?? seen.revision,
        target: null,
        figures: await figuresOf(tx, seen.feed),
        failed: null,
        at: new Date(),
      })
      .where(eq(feedSummary.feed, seen.feed));
  });

/** What is said of a feed that cannot be computed, until its plan or the catalog changes. */
async function fail(counted: { code: string; plan: string }, revision: number, words: string): Promise<void> {
  const failed = {
    plan: counted.plan,
    revision,
    target: null,
    since: -1,
    upTo: 0,
    figures: noFigures,
    failed: words.slice(0, 500),
    at: new Date(),
  };
  await db
    .insert(feedSummary)
    .values({ feed: counted.code, ...failed })
    .onDuplicateKeyUpdate({ set: failed });
}

/** Where a count stands before its first item. */
const fromTheStart = (plan: string, revision: number, since: number) => ({
  plan,
  target: revision,
  since,
  upTo: 0,
});

async function evaluateFeed(head: FeedHead, around: Surroundings, work: Work): Promise<void> {
  const { code } = head;
  const { revision } = around;
  let plan = '';
  try {
    const counted = await planOf(head, around);
    if (!counted) return;
    plan = counted.plan;
    for (;;) {
      const seen = await summaryOf(db, code);
      const begin = (since: number) =>
        seen &&
        where(seen, work, async (tx) => {
          await tx
            .update(feedSummary)
            .set(fromTheStart(plan, revision, since))
            .where(eq(feedSummary.feed, code));
        });
      if (!seen) {
        const empty = { feed: code, revision: -1, figures: noFigures, at: new Date() };
        await db
          .insert(feedSummary)
          .ignore()
          .values({ ...empty, ...fromTheStart(plan, revision, -1) });
      } else if (seen.plan !== plan) {
        // Another worker may know of a later plan: only one who has just looked begins anew.
        const later = await planOf(head, await surroundings());
        if (later?.plan !== plan) return later && evaluateFeed(head, await surroundings(), work);
        await begin(-1);
      } else if (seen.target !== null) {
        if (!(await countChunk(counted, seen, work))) await finish(seen, work);
      } else if (seen.revision >= revision) return;
      // Where it failed, all of it is tried again.
      else if (seen.failed !== null) await begin(-1);
      else if (!(await countFew(counted, seen, revision, work))) await begin(seen.revision);
    }
  } catch (error) {
    // What the database or the queue says is about this try; all else is about the plan.
    if (error instanceof JobLost || error instanceof DrizzleQueryError) throw error;
    await fail({ code, plan }, revision, error instanceof Error ? error.message : String(error));
  }
}

/** Brings what is kept of every feed's listings up to date. Other requests for the same that are waiting are done by it. */
export async function evaluateFeeds(work: Work = unattended): Promise<void> {
  // What stands in the queue by now was put there by changes that have ended: they are seen from here on.
  await db.transaction(async (tx) => {
    const waiting = await tx
      .select({ id: job.id })
      .from(job)
      .where(and(eq(job.state, 'queued'), eq(job.kind, 'evaluateFeeds')))
      .for('update', { skipLocked: true });
    for (const part of inParts(waiting.map(({ id }) => id)))
      await tx
        .update(job)
        .set({ state: 'done', finishedAt: new Date(), progress: 1 })
        .where(inArray(job.id, part));
  });
  const [around, feeds] = await Promise.all([surroundings(), listFeeds()]);
  // While the database writes for one feed, the next is computed.
  const waiting = [...feeds];
  const next = async (): Promise<void> => {
    for (let head = waiting.shift(); head; head = waiting.shift()) {
      await evaluateFeed(head, around, work);
      await work.progress(1 - waiting.length / feeds.length);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, next));
}

/**
 * Asked at every start: whatever was left is counted; and all of it anew where other programs counted it, which may have come
 * to other results.
 * @param programs a digest of those that count from now on
 */
export const countFrom = (programs: string): Promise<void> =>
  db.transaction(async (tx) => {
    const [space] = await tx.select({ by: workspace.countedBy }).from(workspace).for('update');
    if (!space) return;
    if (space.by !== programs) {
      await tx.update(feedSummary).set({ plan: '' });
      await tx.update(workspace).set({ countedBy: programs });
    }
    await enqueue(tx, 'evaluateFeeds', {});
  });

/** What is kept of each feed, by its code. */
export async function keptSummaries(): Promise<Map<string, Summary>> {
  return new Map((await db.select().from(feedSummary)).map((one) => [one.feed, one]));
}

/** Whether listings are being counted anew, or are about to be. */
export async function isCounting(): Promise<boolean> {
  const [found] = await db
    .select({ id: job.id })
    .from(job)
    .where(and(inArray(job.state, ['queued', 'running']), eq(job.kind, 'evaluateFeeds')))
    .limit(1);
  return found !== undefined;
}

/** What is kept of one item in a feed, as an evaluation would tell it. */
export interface KeptListing {
  readonly state: Listing['state'];
  readonly reason: string | undefined;
  readonly issues: readonly Issue[];
}

/** How many of the others an issue names. */
const mostNamed = 3;

/** What is kept of one item, by feed. */
export async function keptOfItem(sku: string, feeds: readonly string[]): Promise<Map<string, KeptListing>> {
  if (feeds.length === 0) return new Map();
  const [rows, shared] = await Promise.all([
    db
      .select()
      .from(feedListing)
      .where(and(inArray(feedListing.feed, [...feeds]), eq(feedListing.sku, sku))),
    db
      .select()
      .from(feedValue)
      .where(and(inArray(feedValue.feed, [...feeds]), eq(feedValue.sku, sku), gt(feedValue.shared, 1))),
  ]);
  const compared = await Promise.all(
    shared.map(async ({ feed, field, digest, value, shared: count }) => {
      const others = await db
        .select({ sku: feedValue.sku })
        .from(feedValue)
        .where(and(eq(feedValue.feed, feed), eq(feedValue.digest, digest), ne(feedValue.sku, sku)))
        .orderBy(asc(feedValue.sku))
        .limit(mostNamed);
      const facts = { found: value, others: others.map((one) => one.sku), count: count - 1 };
      return [feed, { check: 'duplicate', severity: 'blocker', field, facts } satisfies Issue] as const;
    }),
  );
  return new Map(
    rows.map(({ feed, state, reason, issues }) => [
      feed,
      {
        state,
        reason: reason ?? undefined,
        issues: [...issues, ...compared.flatMap(([of, issue]) => (of === feed ? [issue] : []))],
      },
    ]),
  );
}
