import { and, DrizzleQueryError, eq, inArray } from 'drizzle-orm';
import type { AttributeIndex } from '../../core/catalog/value';
import { type FeedFigures, noFigures } from '../../core/listing/figures';
import { inParts } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { feedSummary, job, workspace } from '../db/schema';
import { type FeedHead, listFeeds } from '../feeds/drafts';
import { enqueue, JobLost, unattended, type Work } from '../jobs/queue';
import { type Counted, planOf, type Surroundings, surroundings } from './counted';
import { today } from './day';
import { type Stand, standOf } from './kept';
import {
  type Chunk,
  chunk,
  chunkBehind,
  figuresAfter,
  figuresOf,
  gathered,
  listingsOf,
  removeGone,
  type Tell,
  write,
} from './writing';

/**
 * What is kept of each listing (`feed_listing`, `feed_value`, `feed_summary`) and how it is brought up to date: the items that
 * changed since a feed was last counted, or all of them where plan, sheet or attributes did, a chunk a transaction. How far it is
 * stands in the summary, so that any worker goes on where another ended, and two at once never do the same chunk.
 */

/** How far it is is told from here on, in ms. */
const longToTell = 1000;
/** Feeds at once. */
const atOnce = 3;

/** Runs work where the feed still stands as `seen` says; does nothing where another worker was there first. */
const where = (seen: Stand, { hold }: Work, work: (tx: Transaction) => Promise<void>): Promise<void> =>
  db.transaction(
    async (tx) => {
      await hold(tx);
      const now = await standOf(tx, seen.feed, true);
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

const untold: Tell = () => undefined;

/** The next chunk of a count of many items. @returns whether there was one */
async function countChunk(counted: Counted, seen: Stand, read: ReadChunk, work: Work): Promise<boolean> {
  const next = await read(seen.upTo, seen.since, seen.target ?? seen.revision);
  const { rows } = next;
  if (rows.length === 0) return false;
  const made = await listingsOf(counted, next);
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
async function countFew(
  counted: Counted,
  seen: Stand,
  { revision, reload }: Surroundings,
  read: ReadChunk,
  work: Work,
): Promise<boolean> {
  const few = await read(0, seen.revision, revision);
  const { rows } = few;
  if (rows.length === chunk) return false;
  const made = await listingsOf(counted, few);
  await where(seen, work, async (tx) => {
    const { tell, all } = gathered();
    await write(tx, seen.feed, rows, made, tell);
    await removeGone(tx, seen.feed, { since: seen.revision, reload }, tell);
    const told = all();
    await tx
      .update(feedSummary)
      .set({
        revision,
        at: new Date(),
        // Figures are long, and most changes leave them as they are.
        ...(told.length > 0 ? { figures: figuresAfter(await standingFigures(tx, seen.feed), told) } : {}),
      })
      .where(eq(feedSummary.feed, seen.feed));
  });
  return true;
}

async function standingFigures(tx: Transaction, code: string): Promise<FeedFigures> {
  const [row] = await tx
    .select({ figures: feedSummary.figures })
    .from(feedSummary)
    .where(eq(feedSummary.feed, code));
  return row?.figures ?? noFigures;
}

/**
 * Reads the items behind one of them that changed since a revision.
 * @param target the revision that is counted to: what was read for an earlier one may be older than that
 */
type ReadChunk = (id: number, since: number, target: number) => Promise<Chunk>;

/** Feeds go through the catalog beside each other: what one of them has just read is there for the others. */
function chunksOnce(index: AttributeIndex): ReadChunk {
  const known = new Map<string, Promise<Chunk>>();
  return (id, since, target) => {
    const key = `${id} ${since} ${target}`;
    const found = known.get(key) ?? chunkBehind(id, since, index);
    known.delete(key);
    known.set(key, found);
    for (const [first] of known) {
      if (known.size <= atOnce) break;
      known.delete(first);
    }
    return found;
  };
}

/** Every item is counted: what is gone goes, and the figures are of the new revision. */
const finish = (seen: Stand, { reload }: Surroundings, work: Work): Promise<void> =>
  where(seen, work, async (tx) => {
    await removeGone(tx, seen.feed, { since: seen.since, reload }, untold);
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

async function evaluateFeed(
  head: FeedHead,
  around: Surroundings,
  read: ReadChunk,
  work: Work,
): Promise<void> {
  const { code } = head;
  const { revision } = around;
  let plan = '';
  try {
    const counted = await planOf(head, around);
    if (!counted) return;
    plan = counted.plan;
    for (;;) {
      const seen = await standOf(db, code);
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
        if (later?.plan !== plan) return later && evaluateAround(head, await surroundings(), work);
        await begin(-1);
      } else if (seen.target !== null) {
        if (!(await countChunk(counted, seen, read, work))) await finish(seen, around, work);
      } else if (seen.revision >= revision) return;
      // Where it failed, all of it is tried again.
      else if (seen.failed !== null) await begin(-1);
      else if (!(await countFew(counted, seen, around, read, work))) await begin(seen.revision);
    }
  } catch (error) {
    // What the database or the queue says is about this try; all else is about the plan.
    if (error instanceof JobLost || error instanceof DrizzleQueryError) throw error;
    await fail({ code, plan }, revision, error instanceof Error ? error.message : String(error));
  }
}

const evaluateAround = (head: FeedHead, around: Surroundings, work: Work): Promise<void> =>
  evaluateFeed(head, around, chunksOnce(around.index), work);

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
  const begun = Date.now();
  const waiting = [...feeds];
  const read = chunksOnce(around.index);
  const next = async (): Promise<void> => {
    for (let head = waiting.shift(); head; head = waiting.shift()) {
      await evaluateFeed(head, around, read, work);
      // What is over at once tells nothing.
      if (Date.now() - begun > longToTell) await work.progress(1 - waiting.length / feeds.length);
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

/**
 * On a new day waivers end, and what is compared with today is so or is not: all of it is counted again.
 * @param day the day by which it was counted last @returns the day by which it is counted from now on
 */
export async function countOnNewDay(day: string): Promise<string> {
  if (day !== today()) await db.transaction((tx) => enqueue(tx, 'evaluateFeeds', {}));
  return today();
}
