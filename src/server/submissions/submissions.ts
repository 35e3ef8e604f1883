import { and, desc, eq } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import type { RejectedOnce } from '../../core/ledger/rejectedBefore';
import { currentUser, recordActivity } from '../auth/authorize';
import { channelOf } from '../channels/channels';
import { db, type Transaction } from '../db/connection';
import { batch, notification, type SubmissionCause, submission, submissionEntry } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { notify } from '../notifications/notifications';
import { md5 } from '../runtime/md5';
import { isTesting } from '../transports/destinations';
import { isLive } from '../transports/environment';
import type { SendWhat } from './planning/choosing';
import { planSubmission } from './planning/planned';
import { completePlanning, type SendResult, watchPlanning, writeSubmission } from './planning/writing';
import { type SubmissionRow, transition } from './transition';

/**
 * Writes a submission down and queues it; where it looks wrong it is held back until a person says that it is right. Nothing
 * has left the process when this returns. A feed that is set to the test account is tried there by persons alone.
 */
export async function sendFeed(
  code: string,
  what: SendWhat = 'due',
  cause: SubmissionCause = 'hand',
): Promise<SendResult> {
  const testing = await isTesting(code);
  if (testing && (cause !== 'hand' || what === 'asDrafts')) return { ok: false, reason: 'testing' };
  const planned = await planSubmission(code, what, testing);
  if (typeof planned === 'string') return { ok: false, reason: planned };
  if (!('key' in planned)) {
    await notifyHeld(code, planned.held, cause);
    return { ok: false, reason: 'doubtful' };
  }
  const { sheet } = await channelOf(planned.channel);
  const result = await writeSubmission(
    code,
    sheet,
    planned,
    testing ? 'test' : what === 'asDrafts' ? 'draft' : cause,
  );
  if (result.ok) await notifyHeld(code, planned.held, cause);
  return result.ok ? { ...result, doubtful: planned.held.count } : result;
}

/** Listings that are held for review while the rest is sent. */
interface ListingsForReview {
  readonly count: number;
  readonly reasons: readonly string[];
  readonly skus: readonly string[];
}

/** Tells of listings that are held for review, once for the same ones. */
async function notifyHeld(
  code: string,
  { count, reasons, skus }: ListingsForReview,
  cause: string,
): Promise<void> {
  if (count === 0) return;
  const facts = { count, reasons, cause, which: md5([...skus].sort().join('\n')) };
  await db.transaction(async (tx) => {
    const [last] = await tx
      .select({ facts: notification.facts })
      .from(notification)
      .where(and(eq(notification.feed, code), eq(notification.kind, 'listingsHeld')))
      .orderBy(desc(notification.id))
      .limit(1);
    if (last && 'which' in last.facts && last.facts.which === facts.which) return;
    await notify(tx, 'listingsHeld', code, facts);
  });
}

/**
 * Sends the listings that are held for review, with the word of the person who looked at them.
 * @throws InputError where none is held any more
 */
export async function sendHeldListings(code: string, words: string): Promise<SendResult> {
  const planned = await planSubmission(code, 'due', false);
  const forReview = typeof planned === 'string' ? undefined : planned.held;
  if (!forReview || forReview.count === 0) throw new InputError('notHeld');
  const result = await sendFeed(code, { only: forReview.skus });
  if (result.ok)
    await recordActivity(
      await currentUser(),
      `released ${forReview.count} listings held for review: ${words}`,
      code,
    );
  return result;
}

/** A submission; undefined where there is none of that number. */
export async function findSubmission(id: number): Promise<SubmissionRow | undefined> {
  const [found] = await db.select().from(submission).where(eq(submission.id, id));
  return found;
}

async function locked(tx: Transaction, id: number): Promise<SubmissionRow> {
  const [found] = await tx.select().from(submission).where(eq(submission.id, id)).for('update');
  if (!found) throw new InputError('noSubmission');
  return found;
}

/** Lets a submission go that was held back, with the word of the person who looked at it. */
export async function releaseSubmission(id: number, words: string): Promise<void> {
  const person = await currentUser();
  const row = await db.transaction(async (tx) => {
    await locked(tx, id);
    const released = await transition(tx, id, ['held'], {
      state: 'planning',
      plannedAt: new Date(),
      releasedBy: person.name,
      releaseWords: words.slice(0, 300),
    });
    if (!released) throw new InputError('notHeld');
    await watchPlanning(tx, id);
    return released;
  });
  await completePlanning(id);
  await recordActivity(person, `released a submission held for review: ${words}`, row.feed);
}

/** Drops a submission that was held back: nothing of it left. */
export async function dropSubmission(id: number): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'held') throw new InputError('notHeld');
    await tx.delete(submissionEntry).where(eq(submissionEntry.submissionId, id));
    await transition(tx, id, ['held'], { state: 'stopped', answeredAt: new Date() });
    return row;
  });
  await recordActivity(person, 'discarded a submission held for review', found.feed);
}

/** Stops sending for now; what came of what has left is asked for when it goes on. */
export async function pauseSubmission(id: number): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'queued' && row.state !== 'sending') throw new InputError('notSending');
    await transition(tx, id, ['queued', 'sending'], { state: 'paused', error: null });
    return row;
  });
  await recordActivity(person, 'paused a submission', found.feed);
}

/** Goes on with a submission that was paused, by a person or because the channel did not let it in. */
export async function resumeSubmission(id: number): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'paused') throw new InputError('notPaused');
    await tx
      .update(batch)
      .set({ sentAt: new Date() })
      .where(and(eq(batch.submissionId, id), eq(batch.state, 'checked')));
    await transition(tx, id, ['paused'], { state: 'queued', error: null });
    await enqueue(tx, 'sendSubmission', { submission: id });
    return row;
  });
  await recordActivity(person, 'resumed a submission', found.feed);
}

export async function listSubmissions(code?: string, most = 20): Promise<SubmissionRow[]> {
  const query = db.select().from(submission);
  return (code ? query.where(eq(submission.feed, code)) : query).orderBy(desc(submission.id)).limit(most);
}

export async function submissionEntries(id: number) {
  return db
    .select()
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, id))
    .orderBy(submissionEntry.position);
}

/** Rejected listings of a feed's last live submissions, the latest first; so many at most. */
export async function rejectedLately(code: string, most = 500): Promise<RejectedOnce[]> {
  return db
    .select({
      sku: submissionEntry.sku,
      values: submissionEntry.values,
      problems: submissionEntry.problems,
    })
    .from(submissionEntry)
    .innerJoin(submission, eq(submission.id, submissionEntry.submissionId))
    .where(and(eq(submission.feed, code), isLive, eq(submissionEntry.answer, 'refused')))
    .orderBy(desc(submissionEntry.submissionId))
    .limit(most);
}
