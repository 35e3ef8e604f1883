import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm';
import { causesOf, type RejectionCause } from '../../core/ledger/causes';
import { after, emptyEntry, type LedgerEvent, type Problem } from '../../core/ledger/ledger';
import type { ChannelAnswer } from '../../core/ledger/report';
import { limitsSchema } from '../../core/ledger/review';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { batch, destination, type EntryAnswer, feedListing, submission, submissionEntry } from '../db/schema';
import type { Work } from '../jobs/queue';
import { BATCH_ROWS, lockedLedger, writeLedger } from '../ledger/ledger';
import { notify } from '../notifications/notifications';
import { requestQuickSend } from '../schedules/schedules';
import { environmentOf } from '../transports/environment';
import type { SubmissionRow } from './transition';
import { transition } from './transition';

/** What came of a submission's listings, written down on the submission and in the ledger in one transaction. */
type EntryRow = typeof submissionEntry.$inferSelect;
export type BatchRow = typeof batch.$inferSelect;

export const batchIs = (ours: { submission: number; position: number }) =>
  and(eq(batch.submissionId, ours.submission), eq(batch.position, ours.position));

/** Ends a batch that got no answer: it never left, or nobody will ever know. Its listings can be sent again. */
export async function endBatch(
  row: BatchRow,
  found: SubmissionRow,
  state: 'failed' | 'lost',
  words: string,
  work: Work,
): Promise<void> {
  await db.transaction(async (tx) => {
    await work.hold(tx);
    await tx
      .update(batch)
      .set({ state, error: words.slice(0, 500), answeredAt: new Date() })
      .where(batchIs({ submission: row.submissionId, position: row.position }));
    await endEntries(tx, found, row.position, state);
  });
}

/** Answers after which another one is waited for. */
const openAnswers = ['waiting', 'inReview'] as const satisfies readonly EntryAnswer[];

/** The entries of a batch with some answers, in chunks, locked until the transaction ends: a batch may be a whole catalog. */
async function* entriesWith(
  tx: Transaction,
  found: SubmissionRow,
  position: number,
  answers: readonly EntryAnswer[],
): AsyncGenerator<EntryRow[]> {
  for (let behind = -1; ; ) {
    const part = await tx
      .select()
      .from(submissionEntry)
      .where(
        and(
          eq(submissionEntry.submissionId, found.id),
          eq(submissionEntry.batch, position),
          gt(submissionEntry.position, behind),
          inArray(submissionEntry.answer, [...answers]),
        ),
      )
      .orderBy(asc(submissionEntry.position))
      .limit(BATCH_ROWS)
      .for('update');
    const last = part.at(-1);
    if (!last) return;
    yield part;
    behind = last.position;
  }
}

export async function endEntries(
  tx: Transaction,
  found: SubmissionRow,
  position: number,
  how: 'failed' | 'lost',
) {
  for await (const open of entriesWith(tx, found, position, openAnswers))
    await apply(
      tx,
      found,
      open.map((entry) => ({
        entry,
        answer: how === 'failed' ? 'failed' : 'silent',
        problems: [],
        event: { event: how, submission: found.id },
      })),
    );
}

interface Applied {
  readonly entry: EntryRow;
  readonly answer: EntryAnswer;
  readonly problems: readonly Problem[];
  readonly event: LedgerEvent;
}

/** Enters answers in the ledger. */
async function enter(tx: Transaction, found: SubmissionRow, answers: readonly Applied[]): Promise<void> {
  const known = await lockedLedger(
    tx,
    found.feed,
    answers.map(({ entry }) => entry.sku),
  );
  await writeLedger(
    tx,
    found.feed,
    answers.map(({ entry, event }) => {
      const stored = known.get(entry.sku);
      const next = after(stored ?? emptyEntry, event, { digest: entry.digest ?? undefined });
      const took = next.held !== stored?.held && next.held?.submission === found.id;
      return [entry.sku, next, took ? entry.values : undefined];
    }),
  );
}

/** Writes some answers down, on the submission and, of what is live, in the ledger. */
async function apply(tx: Transaction, found: SubmissionRow, answers: readonly Applied[]): Promise<void> {
  if (answers.length === 0) return;
  if (environmentOf(found) === 'live') await enter(tx, found, answers);
  await insertRows(
    tx,
    submissionEntry,
    answers.map(({ entry, answer, problems }) => ({ ...entry, answer, problems: [...problems] })),
    ['answer', 'problems'],
  );
}

/**
 * Takes a channel's answers in, whatever their order and however often they come: those of entries that have their answer
 * already, and of listings that nobody sent, change nothing.
 * @param whole a listing that is not named was taken back, where that was meant
 * @param last nothing more will come for what is not named
 * @returns how many entries of the batch have no answer yet
 */
export async function applyAnswers(
  tx: Transaction,
  found: SubmissionRow,
  position: number,
  answers: readonly ChannelAnswer[],
  { whole, last }: { whole: boolean; last: boolean },
): Promise<number> {
  const stated = new Map(answers.map((one) => [one.key, one]));
  const appliedTo = (entry: EntryRow): Applied[] => {
    const answer = stated.get(entry.ref);
    const ours = { submission: found.id, number: answer?.number };
    if (!answer)
      return whole && entry.digest === null
        ? [{ entry, answer: 'withdrawn', problems: [], event: { event: 'accepted', ...ours } }]
        : [];
    const { problems, result } = answer;
    if (entry.digest !== null && (result === 'draft' || (result === 'accepted' && found.cause === 'draft')))
      return [{ entry, answer: 'drafted', problems, event: { event: 'drafted', problems, ...ours } }];
    if (result === 'accepted' || result === 'draft') {
      const stated = entry.digest === null ? 'withdrawn' : 'accepted';
      return [{ entry, answer: stated, problems, event: { event: 'accepted', problems, ...ours } }];
    }
    if (result === 'refused')
      // Refused are some of its fields, not the listing: the next time all of it is sent.
      return entry.quick
        ? [{ entry, answer: 'refused', problems, event: { event: 'lost', ...ours } }]
        : [{ entry, answer: 'refused', problems, event: { event: 'refused', problems, ...ours } }];
    return entry.answer === 'inReview'
      ? []
      : [{ entry, answer: 'inReview', problems, event: { event: 'inReview', ...ours } }];
  };
  let rest = 0;
  for await (const open of entriesWith(tx, found, position, openAnswers)) {
    const applied = open.flatMap(appliedTo);
    await apply(tx, found, applied);
    rest += open.length - applied.filter(({ answer }) => answer !== 'inReview').length;
  }
  if (rest === 0 || last) {
    if (rest > 0) await endEntries(tx, found, position, 'lost');
    await tx
      .update(batch)
      .set({ state: 'answered', answeredAt: new Date() })
      .where(batchIs({ submission: found.id, position }));
    return 0;
  }
  return rest;
}

/**
 * Applies later results of a channel, to listings that were not sent again since and whose result changed.
 * @returns how many listings are accepted and how many rejected now
 */
export async function applyLater(
  tx: Transaction,
  found: SubmissionRow,
  position: number,
  answers: readonly ChannelAnswer[],
): Promise<{ accepted: number; refused: number }> {
  const counts = { accepted: 0, refused: 0 };
  const stated = new Map(answers.map((one) => [one.key, one]));
  for await (const part of entriesWith(tx, found, position, ['accepted', 'refused', 'silent'])) {
    const known = await lockedLedger(
      tx,
      found.feed,
      part.map(({ sku }) => sku),
    );
    const applied = part.flatMap((entry): Applied[] => {
      const answer = stated.get(entry.ref);
      const stored = known.get(entry.sku);
      const latest = Math.max(
        ...[stored?.held, stored?.refused, stored?.draft, stored?.pending].map((one) => one?.submission ?? 0),
      );
      if (!answer || entry.digest === null || entry.quick || latest > found.id || stored?.withdrawn)
        return [];
      const { result, problems, number } = answer;
      if (result === entry.answer || (result !== 'accepted' && result !== 'refused')) return [];
      counts[result]++;
      return [
        { entry, answer: result, problems, event: { event: result, submission: found.id, problems, number } },
      ];
    });
    await apply(tx, found, applied);
  }
  return counts;
}

/** Recounts a submission after some of its answers changed. */
export async function recount(tx: Transaction, id: number): Promise<void> {
  const [row] = await tx.select().from(submission).where(eq(submission.id, id)).for('update');
  if (!row) return;
  const count = await answersOf(tx, id);
  await tx
    .update(submission)
    .set({
      ...(await refusalsOf(tx, row)),
      accepted: count('accepted') + count('drafted'),
      refused: count('refused'),
      silent: count('silent') + count('failed'),
    })
    .where(eq(submission.id, id));
}

/** How many entries of a submission have which answer. */
async function answersOf(tx: Transaction, id: number): Promise<(answer: EntryAnswer) => number> {
  const rows = await tx
    .select({ answer: submissionEntry.answer, count: sql<number>`count(*)` })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, id))
    .groupBy(submissionEntry.answer);
  const counts = new Map(rows.map((row) => [row.answer, Number(row.count)]));
  return (answer) => counts.get(answer) ?? 0;
}

/** Why listings of a submission were refused, and on how many of them our own checks had said something of the very field. */
async function refusalsOf(
  tx: Transaction,
  { id, feed: code }: SubmissionRow,
): Promise<{ causes: RejectionCause[]; foreseen: number }> {
  const refused = await tx
    .select({ sku: submissionEntry.sku, problems: submissionEntry.problems })
    .from(submissionEntry)
    .where(and(eq(submissionEntry.submissionId, id), eq(submissionEntry.answer, 'refused')));
  let foreseen = 0;
  for (let at = 0; at < refused.length; at += BATCH_ROWS) {
    const chunk = refused.slice(at, at + BATCH_ROWS);
    const skus = chunk.map(({ sku }) => sku);
    const rows = await tx
      .select({ sku: feedListing.sku, issues: feedListing.issues })
      .from(feedListing)
      .where(and(eq(feedListing.feed, code), inArray(feedListing.sku, skus)));
    const fields = new Map(rows.map(({ sku, issues }) => [sku, new Set(issues.map(({ field }) => field))]));
    foreseen += chunk.filter(({ sku, problems }) =>
      problems.some(({ field }) => field != null && fields.get(sku)?.has(field)),
    ).length;
  }
  return { causes: causesOf(refused.map(({ problems }) => problems)), foreseen };
}

/** Tells a person what came of a submission. */
async function tellOf(
  tx: Transaction,
  { id, feed: code, cause }: SubmissionRow,
  came: { accepted: number; refused: number; withdrawn: number; failed: boolean; words: string },
): Promise<void> {
  const [to] = await tx
    .select({ limits: destination.limits })
    .from(destination)
    .where(eq(destination.feed, code));
  const { accepted, refused, withdrawn } = came;
  const of = accepted + refused;
  if (came.failed) await notify(tx, 'failing', code, { submission: id, words: came.words });
  else if (refused > 0 && (100 * refused) / of > (to?.limits ?? limitsSchema.parse({})).refused)
    await notify(tx, 'refusedMany', code, { submission: id, refused, of });
  // Prices and stock go out all day long, and whoever tries something or saves drafts looks on: that they were taken is no news.
  else if (cause !== 'quick' && cause !== 'test' && cause !== 'draft')
    await notify(tx, 'finished', code, { submission: id, accepted, refused, withdrawn });
}

/** Counts what came of a submission, once nothing more is to come, and tells of it the first time. */
export async function settle(id: number, work: Work): Promise<void> {
  const code = await db.transaction(async (tx) => {
    await work.hold(tx);
    const [before] = await tx.select().from(submission).where(eq(submission.id, id)).for('update');
    const count = await answersOf(tx, id);
    const batches = await tx.select().from(batch).where(eq(batch.submissionId, id));
    const [silent, failed] = [count('silent'), count('failed')];
    // The last error of the channel is part of the result, also where it never answered.
    const broken = batches.filter(({ state }) => state === 'failed' || state === 'lost');
    const words = [
      ...new Set(broken.flatMap(({ error }) => (error ? [error] : []))),
      ...(silent > 0
        ? [
            `The channel sent no result for ${silent} of the listings. Their state is unknown, so they can be sent again.`,
          ]
        : []),
    ];
    const nothingLeft = failed > 0 && failed === before?.total;
    if (before && before.state !== 'answered' && before.state !== 'failed')
      await tellOf(tx, before, {
        accepted: count('accepted') + count('drafted'),
        refused: count('refused'),
        withdrawn: count('withdrawn'),
        failed: failed + silent > 0,
        words: words.join(' ').slice(0, 300),
      });
    await transition(tx, id, ['queued', 'sending', 'paused', 'waiting', 'answered', 'failed'], {
      state: nothingLeft ? 'failed' : 'answered',
      ...(before ? await refusalsOf(tx, before) : {}),
      answeredAt: new Date(),
      accepted: count('accepted') + count('drafted'),
      refused: count('refused'),
      withdrawn: count('withdrawn'),
      silent: silent + failed,
      error: words.length > 0 ? words.join(' ') : null,
    });
    return before?.feed;
  });
  // What changed meanwhile waited for this answer.
  if (code) await requestQuickSend([code]);
}
