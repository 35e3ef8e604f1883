import { and, asc, count, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import type { Sheet } from '../../../core/channels/sheet';
import { after } from '../../../core/ledger/ledger';
import { alarmText } from '../../../core/ledger/messages';
import { currentUser, recordActivity } from '../../auth/authorize';
import { inParts, insertRows } from '../../db/bulk';
import { db, type Transaction } from '../../db/connection';
import { feed, type SubmissionCause, sheetVersion, submission, submissionEntry } from '../../db/schema';
import { enqueue } from '../../jobs/queue';
import { BATCH_ROWS, lockedLedger, writeLedger } from '../../ledger/ledger';
import { log } from '../../monitoring/monitoring';
import { notify } from '../../notifications/notifications';
import { EvaluatorUnavailable } from '../../rpc/rpc';
import { settings } from '../../runtime/settings';
import { type SubmissionRow, transition } from '../transition';
import { forgetPlanned, type Planned, partOfPlanned } from './planned';
import { pauseSchedule, setOff } from './setOff';

/** States in which something is still to come. */
const underWay = ['planning', 'held', 'queued', 'sending', 'paused', 'waiting'] as const;
/** A submission whose planning gives no sign of life for so long was interrupted, in ms. */
const INTERRUPTED_MS = 60_000;

export type SendResult =
  | {
      ok: true;
      submission: number;
      count: number;
      held: boolean;
      /** Listings that are held for review while the rest is sent. */
      doubtful: number;
    }
  | { ok: false; reason: 'unpublished' | 'nothing' | 'underWay' | 'conditions' | 'testing' | 'doubtful' };

async function sheetVersionOf(tx: Transaction, sheet: Sheet): Promise<number> {
  const [row] = await tx
    .select({ version: sheetVersion.version })
    .from(sheetVersion)
    .where(and(eq(sheetVersion.channel, sheet.code), sql`${sheetVersion.takenOnAt} is not null`))
    .orderBy(desc(sheetVersion.version))
    .limit(1);
  return row?.version ?? sheet.version;
}

/** What somebody else has sent in the meantime is on its way already; nothing leaves. */
class UnderWay extends Error {}

/** Has a submission looked at again while it is being planned: whoever plans it may end in the middle. */
export const watchPlanning = (tx: Transaction, id: number): Promise<void> =>
  enqueue(tx, 'resumePlanning', { submission: id }, INTERRUPTED_MS / settings.haste);

/** Enters a submission that is being planned. @returns its number; undefined where another one is in the way */
async function beginPlanning(
  code: string,
  sheet: Sheet,
  { whole, version, alarms, total }: Planned,
  cause: SubmissionCause,
): Promise<number | undefined> {
  return db.transaction(async (tx) => {
    await tx.select({ code: feed.code }).from(feed).where(eq(feed.code, code)).for('update');
    const open = await tx
      .select({ id: submission.id, state: submission.state })
      .from(submission)
      .where(and(eq(submission.feed, code), inArray(submission.state, [...underWay])));
    if (open.some(({ state }) => state === 'held' || state === 'planning') || (whole && open.length > 0))
      return undefined;
    const [made] = await tx
      .insert(submission)
      .values({
        feed: code,
        version,
        sheetVersion: await sheetVersionOf(tx, sheet),
        state: 'planning',
        alarms: alarms.length > 0 ? [...alarms] : null,
        cause,
        total,
        accepted: 0,
        refused: 0,
        createdAt: new Date(),
        plannedAt: new Date(),
      })
      .$returningId();
    const id = made?.id ?? 0;
    await watchPlanning(tx, id);
    return id;
  });
}

/** Locks a submission that is being planned, and gives a sign of life. @throws UnderWay where it is not planned any more */
async function stillPlanning(tx: Transaction, id: number): Promise<SubmissionRow> {
  const row = await transition(tx, id, ['planning'], { state: 'planning', plannedAt: new Date() });
  if (!row) throw new UnderWay();
  return row;
}

/** Writes the entries down, a part in a transaction. */
async function writeEntries(code: string, id: number, { key, total }: Planned): Promise<void> {
  for (let from = 0; from < total; ) {
    const handed = await partOfPlanned(code, key, from);
    // The evaluator has been started again since.
    if (!handed) throw new EvaluatorUnavailable();
    await db.transaction(async (tx) => {
      await stillPlanning(tx, id);
      for (const chunk of inParts(handed, BATCH_ROWS))
        await insertRows(
          tx,
          submissionEntry,
          chunk.map((entry) => ({ ...entry, submissionId: id })),
        );
    });
    from += handed.length;
  }
}

/** The next entries of a submission, in the order in which they leave. */
const entriesFrom = (tx: Transaction, id: number, behind: number) =>
  tx
    .select({
      sku: submissionEntry.sku,
      digest: submissionEntry.digest,
      due: submissionEntry.due,
      position: submissionEntry.position,
    })
    .from(submissionEntry)
    .where(and(eq(submissionEntry.submissionId, id), gt(submissionEntry.position, behind)))
    .orderBy(asc(submissionEntry.position))
    .limit(BATCH_ROWS);

/**
 * Puts the listings of a planned submission on their way in the ledger, some hundred in a transaction, and queues it; one that looks
 * wrong is held instead. What was done before is not done again, so that it can be resumed anywhere.
 * @throws UnderWay where a listing is on its way with another submission
 */
export async function completePlanning(id: number): Promise<void> {
  let behind = -1;
  for (;;) {
    const isDone = await db.transaction(async (tx) => {
      const row = await stillPlanning(tx, id);
      const isHeld = row.alarms !== null && row.releasedBy === null;
      const entries = isHeld || row.cause === 'test' ? [] : await entriesFrom(tx, id, behind);
      const last = entries.at(-1);
      if (last === undefined) {
        // A schedule that goes on would undo what brings the channel back.
        if (row.cause === 'back') await pauseSchedule(tx, row.feed);
        await transition(tx, id, ['planning'], { state: isHeld ? 'held' : 'queued', plannedAt: null });
        const reasons = (row.alarms ?? []).map(alarmText);
        if (isHeld) await notify(tx, 'heldBack', row.feed, { submission: id, reasons, cause: row.cause });
        else await enqueue(tx, 'sendSubmission', { submission: id });
        return true;
      }
      const skus = entries.map(({ sku }) => sku);
      const known = await lockedLedger(tx, row.feed, skus);
      if ([...known.values()].some(({ pending }) => pending && pending.submission !== id))
        throw new UnderWay();
      await setOff(
        tx,
        row.feed,
        id,
        entries.filter(({ sku }) => known.get(sku)?.pending?.submission !== id),
      );
      behind = last.position;
      return false;
    });
    if (isDone) return;
  }
}

/** Gives up a submission that was being planned: nothing of it left, so the channel has what it had. */
export async function abandonPlanning(id: number, words: string): Promise<void> {
  for (;;) {
    const isDone = await db.transaction(async (tx) => {
      const row = await transition(tx, id, ['planning'], { state: 'planning', plannedAt: new Date() });
      if (!row) return true;
      const entries = await entriesFrom(tx, id, -1);
      if (entries.length === 0) {
        await transition(tx, id, ['planning'], {
          state: 'stopped',
          plannedAt: null,
          total: 0,
          error: words,
          answeredAt: new Date(),
        });
        return true;
      }
      const skus = entries.map(({ sku }) => sku);
      const known = await lockedLedger(tx, row.feed, skus);
      const mine = [...known].filter(([, { pending }]) => pending?.submission === id);
      await writeLedger(
        tx,
        row.feed,
        mine.map(([sku, entry]) => [sku, after(entry, { event: 'failed', submission: id })]),
      );
      await tx
        .delete(submissionEntry)
        .where(and(eq(submissionEntry.submissionId, id), inArray(submissionEntry.sku, skus)));
      return false;
    });
    if (isDone) return;
  }
}

/**
 * Goes on with a submission whose planning was interrupted: one that is written down is sent, any other is given up.
 * @returns in how many ms it is looked at again, where somebody is still at it
 */
export async function resumePlanning(id: number): Promise<number | undefined> {
  const [row] = await db.select().from(submission).where(eq(submission.id, id));
  if (row?.state !== 'planning') return undefined;
  const patience = INTERRUPTED_MS / settings.haste;
  const silentFor = Date.now() - (row.plannedAt?.getTime() ?? 0);
  if (silentFor < patience) return patience - silentFor;
  const [written] = await db
    .select({ count: count() })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, id));
  try {
    if (written?.count === row.total) await completePlanning(id);
    else
      await abandonPlanning(id, 'Preparing the submission was interrupted. Nothing was sent. Send it again.');
  } catch (error) {
    if (!(error instanceof UnderWay)) throw error;
    await abandonPlanning(id, 'Another submission sent some of its listings meanwhile.');
  }
  return undefined;
}

/**
 * Plans a submission in many short transactions: its entries are written down, then its listings are on their way in the ledger, then
 * it is queued. Nothing has left the process when this returns.
 */
export async function writeSubmission(
  code: string,
  sheet: Sheet,
  planned: Planned,
  cause: SubmissionCause,
): Promise<SendResult> {
  const person = await currentUser();
  const id = await beginPlanning(code, sheet, planned, cause);
  if (id === undefined) return { ok: false, reason: 'underWay' };
  try {
    await writeEntries(code, id, planned);
    await completePlanning(id);
  } catch (error) {
    const isUnderWay = error instanceof UnderWay;
    await abandonPlanning(
      id,
      isUnderWay
        ? 'Another submission sent some of its listings meanwhile.'
        : 'The submission could not be prepared. Nothing was sent. Send it again.',
    ).catch((failure) => log.warn(failure));
    if (isUnderWay) return { ok: false, reason: 'underWay' };
    throw error;
  } finally {
    // The evaluator forgets by itself, too.
    await forgetPlanned(code, planned.key).catch(() => undefined);
  }
  const isHeld = planned.alarms.length > 0;
  const did =
    cause === 'test' ? 'tried' : cause === 'draft' ? 'saved as drafts' : isHeld ? 'prepared' : 'sent';
  await recordActivity(person, `${did} ${planned.moving} listings`, code);
  return { ok: true, submission: id, count: planned.moving, held: isHeld, doubtful: 0 };
}
