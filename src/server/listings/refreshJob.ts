import { DrizzleQueryError, eq } from 'drizzle-orm';
import { type FeedFigures, noFigures } from '../../core/listing/figures';
import { db, type Transaction } from '../db/connection';
import { feedSummary, workspace } from '../db/schema';
import { completeWaiting, enqueue, JobLost, unattended, type Work } from '../jobs/queue';
import { type EvaluationFailed, failureOf } from '../monitoring/failure';
import { type FeedHead, listFeeds } from '../plans/drafts';
import { today } from '../runtime/calendarDay';
import { type Counted, planOf, type Surroundings, surroundings } from './compiledPlans';
import { chunk, type EvaluatedChunk, endBehind, evaluateChunk, readingOnce } from './evaluateChunk';
import { type RefreshState, refreshStateOf } from './read';
import { type ChangeSink, figuresAfter, figuresOf, gathered, removeGone, write } from './write';

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
const where = (
  known: RefreshState,
  { hold }: Work,
  work: (tx: Transaction) => Promise<void>,
): Promise<void> =>
  db.transaction(
    async (tx) => {
      await hold(tx);
      const now = await refreshStateOf(tx, known.feed, true);
      const same =
        now?.plan === known.plan &&
        now.revision === known.revision &&
        now.target === known.target &&
        now.upTo === known.upTo;
      if (same) await work(tx);
    },
    // The summary's row keeps others out; gaps between rows need not be locked, where feeds would stand in each other's way.
    { isolationLevel: 'read committed' },
  );

const untold: ChangeSink = () => undefined;

/** The next chunk of a count; undefined where no item is left. */
async function nextChunk(
  counted: Counted,
  { since, upTo: behind, target, revision }: RefreshState,
  read: ReturnType<typeof readingOnce>,
): Promise<EvaluatedChunk | undefined> {
  const end = await endBehind({ behind, since });
  if (end.items === 0) return undefined;
  return evaluateChunk(counted, await read({ behind, since, to: end.last }, target ?? revision));
}

/** Writes the next chunk of a count of many items. */
const writeChunk = (known: RefreshState, created: EvaluatedChunk, work: Work): Promise<void> =>
  where(known, work, async (tx) => {
    await write(tx, known.feed, created, untold);
    await tx.update(feedSummary).set({ upTo: created.last }).where(eq(feedSummary.feed, known.feed));
  });

/** Counts the few items that changed, figures and all, in one transaction. @returns false where they are too many for that */
async function countFew(
  counted: Counted,
  known: RefreshState,
  { revision, reload }: Surroundings,
  read: ReturnType<typeof readingOnce>,
  work: Work,
): Promise<boolean> {
  const all = { behind: 0, to: Number.POSITIVE_INFINITY, since: known.revision };
  const few = await read(all, revision, chunk);
  if (few.last !== all.to) return false;
  const created = await evaluateChunk(counted, few);
  await where(known, work, async (tx) => {
    const { tell, all } = gathered();
    await write(tx, known.feed, created, tell);
    await removeGone(tx, known.feed, { since: known.revision, reload }, tell);
    const reported = all();
    await tx
      .update(feedSummary)
      .set({
        revision,
        at: new Date(),
        // Figures are long, and most changes leave them as they are.
        ...(reported.length > 0
          ? { figures: figuresAfter(await standingFigures(tx, known.feed), reported) }
          : {}),
      })
      .where(eq(feedSummary.feed, known.feed));
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

/** Every item is counted: what is gone goes, and the figures are of the new revision. */
const finish = (known: RefreshState, { reload }: Surroundings, work: Work): Promise<void> =>
  where(known, work, async (tx) => {
    await removeGone(tx, known.feed, { since: known.since, reload }, untold);
    await tx
      .update(feedSummary)
      .set({
        revision: known.target ?? known.revision,
        target: null,
        figures: await figuresOf(tx, known.feed),
        failed: null,
        at: new Date(),
      })
      .where(eq(feedSummary.feed, known.feed));
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

/** What feeds are counted with. */
interface Means {
  readonly around: Surroundings;
  readonly read: ReturnType<typeof readingOnce>;
  readonly work: Work;
}

/** @returns what nobody expected and is worth another try, where that happened */
async function evaluateFeed(head: FeedHead, means: Means): Promise<EvaluationFailed | undefined> {
  const { code } = head;
  const { around, read, work } = means;
  const { revision } = around;
  let plan = '';
  try {
    const counted = await planOf(head, around);
    if (!counted) return;
    plan = counted.plan;
    for (;;) {
      const known = await refreshStateOf(db, code);
      const begin = (since: number) =>
        known &&
        where(known, work, async (tx) => {
          await tx
            .update(feedSummary)
            .set(fromTheStart(plan, revision, since))
            .where(eq(feedSummary.feed, code));
        });
      if (!known) {
        const empty = { feed: code, revision: -1, figures: noFigures, at: new Date() };
        await db
          .insert(feedSummary)
          .ignore()
          .values({ ...empty, ...fromTheStart(plan, revision, -1) });
      } else if (known.plan !== plan) {
        // Another worker may know of a later plan: only one who has just looked begins anew.
        const later = await planOf(head, await surroundings());
        if (later?.plan !== plan) return later && evaluateAnew(head, means);
        await begin(-1);
      } else if (known.target !== null) {
        const created = await nextChunk(counted, known, read);
        await (created ? writeChunk(known, created, work) : finish(known, around, work));
      } else if (known.revision >= revision) return;
      // Where it failed, all of it is tried again.
      else if (known.failed !== null) await begin(-1);
      else if (!(await countFew(counted, known, around, read, work))) await begin(known.revision);
    }
  } catch (error) {
    // What the database or the queue says is about this try; all else is about the plan.
    if (error instanceof JobLost || error instanceof DrizzleQueryError) throw error;
    const failure = failureOf(error);
    await fail({ code, plan }, revision, failure.message);
    // The feed says so until the job is run again; other feeds are counted meanwhile.
    if (!failure.expected) return failure;
  }
}

/** Counts by what plan and surroundings are by now. */
async function evaluateAnew(head: FeedHead, means: Means): Promise<EvaluationFailed | undefined> {
  const around = await surroundings();
  return evaluateFeed(head, { ...means, around, read: readingOnce(around.index) });
}

/** Brings what is stored of every feed's listings up to date. Other requests for the same that are waiting are done by it. */
export async function evaluateFeeds(work: Work = unattended): Promise<void> {
  // What stands in the queue by now was put there by changes that have ended: they are seen from here on.
  await db.transaction((tx) => completeWaiting(tx, 'evaluateFeeds'));
  const [around, feeds] = await Promise.all([surroundings(), listFeeds()]);
  // While the database writes for one feed, the next is computed.
  const begun = Date.now();
  const waiting = [...feeds];
  const means: Means = { around, read: readingOnce(around.index), work };
  let unexpected: EvaluationFailed | undefined;
  const next = async (): Promise<void> => {
    for (let head = waiting.shift(); head; head = waiting.shift()) {
      unexpected ??= await evaluateFeed(head, means);
      // What is over at once tells nothing.
      if (Date.now() - begun > longToTell) await work.progress(1 - waiting.length / feeds.length);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, next));
  if (unexpected) throw unexpected;
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
