import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Sheet } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import type { ChannelAnswer } from '../../core/ledger/report';
import { formats } from '../../files/formats';
import { channelOf, channelVersion } from '../channels/channels';
import { db, type Transaction } from '../db/connection';
import { batch, feed, type SubmissionState, submission, submissionEntry } from '../db/schema';
import { enqueue, unattended, type Work } from '../jobs/queue';
import { notify } from '../notifications/notifications';
import { settings } from '../runtime/settings';
import { transportOf } from '../transports';
import { destinationOf, rateKey } from '../transports/destinations';
import { environmentOf } from '../transports/environment';
import { exchangeSeconds } from '../transports/exchange';
import { acquire, release } from '../transports/rateLimiter';
import type { Destination, ReportAnswer, Transport } from '../transports/transport';
import { applyAnswers, type BatchRow, batchIs, endBatch, endEntries, settle } from './answers';
import { batchesOf, rebuildFile, takesBack, writeFiles } from './batches';
import { findSubmission } from './submissions';
import { type SubmissionRow, transition } from './transition';

/** A refusal that trying again will not change. */
export class FinalRefusal extends Error {}

async function loaded(id: number) {
  const found = await findSubmission(id);
  if (!found) throw new FinalRefusal(`There is no submission ${id}.`);
  const [head] = await db.select().from(feed).where(eq(feed.code, found.feed));
  if (!head) throw new FinalRefusal(`There is no feed ${found.feed}.`);
  const channel = (await channelVersion(head.channel, found.sheetVersion)) ?? (await channelOf(head.channel));
  return { found, head, sheet: channel.sheet };
}

/**
 * The format of a submission's files, and the files. `again` is the rebuilt file of a submission from before files were stored,
 * undefined for all others.
 */
export async function submissionFiles(id: number) {
  const { found, head, sheet } = await loaded(id);
  const files = await db.select().from(batch).where(eq(batch.submissionId, id)).orderBy(batch.position);
  return {
    format: formats[sheet.delivery.format],
    files,
    again: files.length === 0 && found.sentAt ? await rebuildFile(found, head, sheet) : undefined,
  };
}

/** States in which parts of a submission may still leave. */
const goingOut = ['queued', 'sending'] as const satisfies readonly SubmissionState[];

/** A wait in which something else can be done, in ms. */
const longWait = 1000;

const waitAfter = (tries: number): number =>
  (Math.min(60_000, 500 * 2 ** Math.min(tries, 8)) * (0.5 + Math.random() / 2)) /
  Math.min(settings.haste, 10);

const since = (at: Date | null): number => (at ? Date.now() - at.getTime() : 0);
const patienceOf = (sheet: Sheet): number => (sheet.delivery.patience * 1000) / settings.haste;

/**
 * Does the next thing that is to be done to get a submission out: its files are made and read back, then they leave one after
 * another at the channel's pace. May run twice: each file has a key by which the channel takes it once.
 * @returns in how many ms it goes on; undefined where all has left, or a person is wanted
 */
export async function sendSubmission(id: number, work: Work = unattended): Promise<number | undefined> {
  const { found, head, sheet } = await loaded(id);
  if (found.state !== 'queued' && found.state !== 'sending') return undefined;
  await writeFiles(found, head, sheet, work);
  const route = transportOf(sheet);
  if (!route) {
    // By hand: the file waits to be taken there, and its answer to be brought back.
    await db.transaction(async (tx) => {
      await work.hold(tx);
      if (!(await transition(tx, id, goingOut, { state: 'waiting', sentAt: new Date() }))) return;
      await tx.update(batch).set({ state: 'sent', sentAt: new Date() }).where(eq(batch.submissionId, id));
    });
    return undefined;
  }
  for (;;) {
    const batches = await batchesOf(id);
    const next = batches.find(({ state }) => state === 'checked');
    const [now] = await db.select({ state: submission.state }).from(submission).where(eq(submission.id, id));
    if (now?.state === 'paused' || now?.state === 'stopped') return undefined;
    if (!next) {
      await db.transaction(async (tx) => {
        await work.hold(tx);
        if (await transition(tx, id, goingOut, { state: 'waiting', error: null }))
          await enqueue(tx, 'collectReport', { submission: id }, 200);
      });
      return undefined;
    }
    await work.progress(0.5 + (batches.length === 0 ? 0 : next.position / batches.length / 2));
    const wait = await sendBatch(next, { found, head, sheet, way: route, work });
    if (wait === undefined) continue;
    // While it waits for its turn it asks what came of what has left.
    if (wait > longWait) await collectSent({ found, head, sheet, way: route, work });
    return wait;
  }
}

interface Sending {
  readonly found: SubmissionRow;
  readonly head: { readonly code: string; readonly channel: string; readonly country: string };
  readonly sheet: Sheet;
  readonly way: Transport;
  readonly work: Work;
}

/** Hands one batch over, in the destination's turn. @returns in how many ms to go on, where not at once */
async function sendBatch(
  row: BatchRow,
  { found, head, sheet, way, work }: Sending,
): Promise<number | undefined> {
  const to = await destinationOf(head, environmentOf(found));
  const { rate, repeatable } = sheet.delivery;
  const key = rateKey(to);
  const turn = await acquire(key, rate, (exchangeSeconds(row.bytes) + 5) * 1000);
  if ('wait' in turn) {
    await db
      .update(submission)
      .set({ error: turn.words ?? null })
      .where(and(eq(submission.id, found.id), inArray(submission.state, ['queued', 'sending'])));
    if (turn.words && (await isStuck(found, sheet))) {
      await endBatch(row, found, 'failed', turn.words, work);
      return undefined;
    }
    return turn.wait;
  }
  const ours = { submission: row.submissionId, position: row.position };
  const goes = await db.transaction(async (tx) => {
    await work.hold(tx);
    // Paused or stopped at the last moment: nothing leaves.
    if (!(await transition(tx, found.id, goingOut, { state: 'sending' }))) return false;
    if (repeatable === 'no' && row.tries > 0) return true;
    await tx
      .update(batch)
      .set({ tries: row.tries + 1 })
      .where(batchIs(ours));
    return true;
  });
  if (!goes) {
    await release(key, turn.holder, rate, 'well');
    return undefined;
  }
  // One that must not be sent twice, and whose last try may have arrived, is not sent again.
  const handed =
    repeatable === 'no' && row.tries > 0 && row.error === null
      ? ({ handed: 'unknown', words: 'The submission ended while it was being sent.' } as const)
      : await way.send(
          {
            key: row.key,
            file: row.file,
            bytes: row.bytes,
            count: row.count,
            submission: found.id,
            quick: row.quick,
            draft: found.cause === 'draft',
            removal: await takesBack(sheet, found.id, row.position),
          },
          sheet,
          to,
        );
  const well = handed.handed === 'taken' || handed.handed === 'refused' || handed.handed === 'credentials';
  await release(
    key,
    turn.holder,
    rate,
    well ? 'well' : handed.handed === 'later' && handed.wait !== undefined ? { wait: handed.wait } : 'failed',
  );
  switch (handed.handed) {
    case 'taken': {
      await db.transaction(async (tx) => {
        await work.hold(tx);
        await tx
          .update(batch)
          .set({ state: 'sent', receipt: handed.receipt ?? null, tries: 0, error: null, sentAt: new Date() })
          .where(and(batchIs(ours), eq(batch.state, 'checked')));
        await tx
          .update(submission)
          .set({ sentAt: sql`coalesce(${submission.sentAt}, utc_timestamp(3))`, error: null })
          .where(eq(submission.id, found.id));
        if (handed.report?.ready)
          await applyAnswers(tx, found, row.position, handed.report.answers, {
            whole: sheet.delivery.removal === 'absence',
            last: handed.receipt === undefined,
          });
      });
      return undefined;
    }
    case 'credentials':
      await db.transaction(async (tx) => {
        await work.hold(tx);
        const error = `${handed.words} Correct the credentials in the feed’s settings, then resume.`;
        if (await transition(tx, found.id, goingOut, { state: 'paused', error }))
          await notify(tx, 'failing', found.feed, { submission: found.id, words: handed.words });
      });
      return undefined;
    case 'refused':
      await endBatch(row, found, 'failed', handed.words, work);
      return undefined;
    case 'unknown':
      if (repeatable === 'no') {
        await endBatch(row, found, 'lost', handed.words, work);
        return undefined;
      }
      return sayTry(row, found, sheet, handed.words, undefined, work);
    case 'later':
      return sayTry(row, found, sheet, handed.words, handed.wait, work);
  }
}

/** Whether nothing of a submission has left for as long as the sheet has patience, however many parts it has. */
async function isStuck(found: SubmissionRow, sheet: Sheet): Promise<boolean> {
  const last = Math.max(...(await batchesOf(found.id)).map(({ sentAt }) => sentAt?.getTime() ?? 0));
  return since(new Date(last)) > patienceOf(sheet);
}

/** Writes down that a try came to nothing, and when the next is; past all patience the batch has failed. */
async function sayTry(
  row: BatchRow,
  found: SubmissionRow,
  sheet: Sheet,
  words: string,
  wait: number | undefined,
  work: Work,
): Promise<number | undefined> {
  if (await isStuck(found, sheet)) {
    await endBatch(row, found, 'failed', words, work);
    return undefined;
  }
  await db
    .update(batch)
    .set({ error: words.slice(0, 500) })
    .where(batchIs({ submission: row.submissionId, position: row.position }));
  await db
    .update(submission)
    .set({ error: `${words} It will be sent again.` })
    .where(and(eq(submission.id, found.id), eq(submission.state, 'sending')));
  return Math.max(wait ?? 0, waitAfter(row.tries + 1));
}

/** How often a report that lacks listings, or that is gone, is asked for again before that is taken for its last word. */
const MAX_ASKS = 3;

/**
 * Asks for the reports of a submission's files that have none yet. @returns in how many ms to ask again, while any is missing
 */
export async function collectReport(id: number, work: Work = unattended): Promise<number | undefined> {
  const { found, head, sheet } = await loaded(id);
  if (found.state !== 'waiting') return undefined;
  const route = transportOf(sheet);
  if (!route) return undefined;
  const wait = await collectSent({ found, head, sheet, way: route, work });
  if (wait === undefined) await settle(id, work);
  return wait;
}

/** Asks for the reports of all files that have left and have none. @returns in how many ms to ask again; undefined where all are in */
async function collectSent(sending: Sending): Promise<number | undefined> {
  const waiting = (await batchesOf(sending.found.id)).filter(({ state }) => state === 'sent');
  const to = await destinationOf(sending.head, environmentOf(sending.found));
  const waits: number[] = [];
  for (const row of waiting) {
    const wait = await collectBatch(row, sending, to);
    if (wait !== undefined) waits.push(wait);
    await sending.work.progress(0.5);
  }
  return waits.length > 0 ? Math.min(...waits) : undefined;
}

async function collectBatch(
  row: BatchRow,
  { found, sheet, way, work }: Sending,
  to: Destination,
): Promise<number | undefined> {
  const ours = { submission: row.submissionId, position: row.position };
  const requested: ReportAnswer =
    row.receipt === null
      ? { asked: 'gone', words: 'The channel’s receipt has no ID to ask for.' }
      : await way.ask(row.receipt, sheet, to);
  const late = since(row.sentAt) > patienceOf(sheet);
  const stated = async (words: string | null, tries = row.tries) => {
    await db
      .update(batch)
      .set({ tries, error: words?.slice(0, 500) ?? null })
      .where(batchIs(ours));
    await db
      .update(submission)
      .set({ error: words })
      .where(and(eq(submission.id, found.id), eq(submission.state, 'waiting')));
  };
  const giveUp = async (words: string) => {
    await endBatch(row, found, 'lost', words, work);
    return undefined;
  };
  if (requested.asked === 'gone' || requested.asked === 'later') {
    const again = requested.asked === 'later' ? !late : row.tries < MAX_ASKS && !late;
    if (!again) return giveUp(requested.words);
    await stated(requested.words, row.tries + 1);
    return Math.max(('wait' in requested ? requested.wait : undefined) ?? 0, waitAfter(row.tries + 1));
  }
  if (requested.asked === 'credentials') {
    if (late) return giveUp(requested.words);
    await stated(
      `${requested.words} Correct the credentials in the feed’s settings; the report will be requested again.`,
    );
    return 30_000 / settings.haste;
  }
  const { report } = requested;
  if (!report.ready) {
    if (late) return giveUp('The channel did not finish within the time in its requirement sheet.');
    return requested.wait ?? 1000;
  }
  const last = row.tries >= MAX_ASKS || late;
  const { rest, reviewing } = await db.transaction(async (tx) => {
    await work.hold(tx);
    const options = { whole: sheet.delivery.removal === 'absence' };
    let left = await applyAnswers(tx, found, row.position, report.answers, { ...options, last: false });
    const [inReview] = await tx
      .select({ count: sql<number>`count(*)` })
      .from(submissionEntry)
      .where(
        and(
          eq(submissionEntry.submissionId, found.id),
          eq(submissionEntry.batch, row.position),
          eq(submissionEntry.answer, 'inReview'),
        ),
      );
    const looked = Number(inReview?.count ?? 0);
    if (last && (late || looked === 0))
      left = await applyAnswers(tx, found, row.position, [], { ...options, last: true });
    return { rest: left, reviewing: looked };
  });
  if (rest === 0) return undefined;
  if (reviewing > 0 && rest === reviewing) {
    await stated(null, 0);
    return requested.wait ?? 2000;
  }
  await stated(
    `The channel’s answer does not name ${rest} of the listings; it will be requested again.`,
    row.tries + 1,
  );
  return waitAfter(row.tries + 1);
}

/**
 * Ends the batches of a submission that are in one of some states, and those that were never made: what was tried may have
 * arrived, the rest never left.
 */
async function endBatches(
  tx: Transaction,
  found: SubmissionRow,
  from: readonly SubmissionState[],
  states: readonly BatchRow['state'][],
  words: string,
): Promise<boolean> {
  if (!(await transition(tx, found.id, from, { state: 'waiting', error: null }))) return false;
  const batches = await tx.select().from(batch).where(eq(batch.submissionId, found.id)).for('update');
  const positions = await tx
    .selectDistinct({ batch: submissionEntry.batch })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, found.id));
  for (const { batch: position } of positions) {
    const row = batches.find((one) => one.position === position);
    if (row && !states.includes(row.state)) continue;
    const how = row && (row.state === 'sent' || row.tries > 0) ? 'lost' : 'failed';
    await tx
      .update(batch)
      .set({ state: how, error: words.slice(0, 500), answeredAt: new Date() })
      .where(batchIs({ submission: found.id, position }));
    await endEntries(tx, found, position, how);
  }
  return true;
}

/** Gives a submission up and says why; what has not left never will, of the rest nobody knows. */
export async function failSubmission(id: number, error: string): Promise<void> {
  const found = await findSubmission(id);
  if (!found) return;
  const open = [...goingOut, 'paused', 'waiting'] as const;
  const ended = await db.transaction((tx) => endBatches(tx, found, open, ['checked', 'sent'], error));
  if (!ended) return;
  await settle(id, unattended);
  await db
    .update(submission)
    .set({ error })
    .where(and(eq(submission.id, id), inArray(submission.state, ['failed', 'answered'])));
}

/** Stops a submission for good: what has left is still asked for, the rest stays here. */
export async function stopSubmission(id: number): Promise<void> {
  const found = await findSubmission(id);
  if (!found) throw new InputError('notSending');
  const any = await db.transaction(async (tx) => {
    if (!(await endBatches(tx, found, [...goingOut, 'paused'], ['checked'], 'Stopped.')))
      throw new InputError('notSending');
    const left = (await batchesOf(id)).some(({ state }) => state === 'sent');
    if (left) await enqueue(tx, 'collectReport', { submission: id }, 200);
    return left;
  });
  if (!any) await settle(id, unattended);
}

/** Takes in answers that a person entered or brought as a file, for a submission whose channel has no way out. */
export async function answerByHand(
  id: number,
  answers: readonly ChannelAnswer[],
  last: boolean,
): Promise<number> {
  const found = await findSubmission(id);
  if (found?.state !== 'waiting') throw new InputError('notWaiting');
  const batches = await batchesOf(id);
  let rest = 0;
  await db.transaction(async (tx) => {
    for (const { position, state } of batches)
      if (state === 'sent') rest += await applyAnswers(tx, found, position, answers, { whole: last, last });
  });
  if (rest === 0) await settle(id, unattended);
  return rest;
}
