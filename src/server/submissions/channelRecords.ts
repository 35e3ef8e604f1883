import { and, desc, eq, exists, inArray, isNotNull, isNull, lte, or, sql } from 'drizzle-orm';
import type { Sheet } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import {
  compareWithList,
  type ListDifference,
  type Listed,
  type Recorded,
  readList,
} from '../../core/ledger/comparison';
import { emptyEntry, type LedgerEntry } from '../../core/ledger/ledger';
import { currentUser, recordActivity } from '../auth/authorize';
import { channelOf } from '../channels/channels';
import { inParts } from '../db/bulk';
import { db } from '../db/connection';
import { batch, channelComparison, feed, job, ledger, submission, submissionEntry } from '../db/schema';
import { enqueue, type Work } from '../jobs/queue';
import { BATCH_ROWS, lockedLedger, writeLedger } from '../ledger/ledger';
import { notify } from '../notifications/notifications';
import { settings } from '../runtime/settings';
import { transportOf } from '../transports';
import { destinationOf } from '../transports/destinations';
import { isLive } from '../transports/environment';
import { searchFor } from '../transports/exchange';
import type { Destination } from '../transports/transport';
import { applyLater, recount } from './answers';

/**
 * What a channel says beside its first answers: later results of the last submission, and the list of what it has, which is
 * compared with our records.
 */

/** Milliseconds between two requests for later results, and between two comparisons. */
const ASK_INTERVAL = 3_600_000;
const COMPARE_INTERVAL = 86_400_000;
/** What is kept of the differences, to be shown and taken over. */
const MAX_KEPT = 2000;

const asksLater = ({ delivery }: Sheet) =>
  delivery.report?.later === 'yes' && delivery.report.path !== undefined;
/** Whether a channel can be asked for anything beside its first answers. */
const saysMore = (sheet: Sheet): boolean => asksLater(sheet) || sheet.delivery.list !== undefined;

/** Queues the feeds whose channels are due to be asked; each feed once, however many workers do so. */
export async function requestLaterReports(now: Date): Promise<void> {
  const before = new Date(now.getTime() - ASK_INTERVAL / settings.haste);
  const answered = db
    .select({ id: submission.id })
    .from(submission)
    .where(and(eq(submission.feed, feed.code), eq(submission.state, 'answered')));
  const due = await db
    .select({ code: feed.code, channel: feed.channel })
    .from(feed)
    .leftJoin(channelComparison, eq(channelComparison.feed, feed.code))
    .where(
      and(or(isNull(channelComparison.askedAt), lte(channelComparison.askedAt, before)), exists(answered)),
    );
  for (const { code, channel } of due)
    if (saysMore((await channelOf(channel)).sheet)) await requestChannelReport(code);
}

async function requestChannelReport(code: string): Promise<void> {
  await db.transaction(async (tx) => {
    // One feed is asked once at a time.
    await tx.select({ code: feed.code }).from(feed).where(eq(feed.code, code)).for('update');
    const [queued] = await tx
      .select({ id: job.id })
      .from(job)
      .where(
        and(
          eq(job.kind, 'askChannel'),
          inArray(job.state, ['queued', 'running']),
          sql`json_value(${job.payload}, '$.feed') = ${code}`,
        ),
      )
      .limit(1);
    if (!queued) await enqueue(tx, 'askChannel', { feed: code });
  });
}

/** Has a channel asked now. @throws InputError where there is nothing to ask it for */
export async function askChannelNow(code: string): Promise<void> {
  const person = await currentUser();
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  if (!head) throw new InputError('noFeed');
  if (!saysMore((await channelOf(head.channel)).sheet)) throw new InputError('channelSaysNoMore');
  await db.update(channelComparison).set({ comparedAt: null }).where(eq(channelComparison.feed, code));
  await requestChannelReport(code);
  await recordActivity(person, 'requested the channel’s list', code);
}

/** Asks a feed's channel for later results, and once a day for the list of what it has. */
export async function askChannel(code: string, work: Work): Promise<void> {
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  if (!head) return;
  const { sheet } = await channelOf(head.channel);
  if (!saysMore(sheet)) return;
  const to = await destinationOf(head, 'live');
  const troubles: string[] = [];
  if (asksLater(sheet)) troubles.push(...(await askForLater(code, sheet, to, work)));
  const [known] = await db.select().from(channelComparison).where(eq(channelComparison.feed, code));
  const compared = known?.comparedAt?.getTime() ?? 0;
  let found = {};
  if (sheet.delivery.list && Date.now() - compared >= COMPARE_INTERVAL / settings.haste) {
    const list = await listOf(sheet, to);
    if ('words' in list) troubles.push(list.words);
    else {
      const ours = await recordsOf(code, sheet);
      const differences = compareWithList(ours, list.listed);
      found = {
        comparedAt: new Date(),
        ours: ours.filter(({ held }) => held).length,
        theirs: list.listed.length,
        differing: differences.length,
        differences: differences.slice(0, MAX_KEPT),
      };
      if (differences.length > 0 && differences.length !== known?.differing)
        await db.transaction((tx) =>
          notify(tx, 'recordsDiffer', code, { count: differences.length, channel: sheet.name }),
        );
    }
  }
  const row = { askedAt: new Date(), trouble: troubles.join(' ').slice(0, 300) || null, ...found };
  await db
    .insert(channelComparison)
    .values({ feed: code, ours: 0, theirs: 0, differing: 0, differences: [], ...row })
    .onDuplicateKeyUpdate({ set: row });
}

/** Asks for what the channel decided since it answered the last live submission. @returns what did not work */
async function askForLater(code: string, sheet: Sheet, to: Destination, work: Work): Promise<string[]> {
  const route = transportOf(sheet);
  const [last] = await db
    .select()
    .from(submission)
    .where(
      and(eq(submission.feed, code), isLive, inArray(submission.state, ['answered', 'waiting', 'sending'])),
    )
    .orderBy(desc(submission.id))
    .limit(1);
  if (!route || last?.state !== 'answered') return [];
  const parts = await db
    .select()
    .from(batch)
    .where(and(eq(batch.submissionId, last.id), eq(batch.state, 'answered'), isNotNull(batch.receipt)));
  const troubles: string[] = [];
  for (const { receipt, position } of parts) {
    const requested = await route.ask(receipt ?? '', sheet, to);
    if (requested.asked !== 'report') troubles.push(requested.words);
    if (requested.asked !== 'report' || !requested.report.ready) continue;
    const { answers } = requested.report;
    await db.transaction(async (tx) => {
      await work.hold(tx);
      const { accepted, refused } = await applyLater(tx, last, position, answers);
      if (accepted + refused === 0) return;
      await recount(tx, last.id);
      await notify(tx, 'laterResults', code, { submission: last.id, accepted, refused });
    });
  }
  return troubles;
}

async function listOf(sheet: Sheet, to: Destination): Promise<{ listed: Listed[] } | { words: string }> {
  const { list } = sheet.delivery;
  if (!list) return { words: 'The channel offers no list.' };
  const answer = await searchFor(list.path, {}, to);
  if ('failed' in answer) return { words: answer.words };
  try {
    return { listed: readList(answer.found, list) };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return { words: error.message };
  }
}

/** Our records of what a feed's channel has, with the keys that listings were sent under. */
async function recordsOf(code: string, sheet: Sheet): Promise<Recorded[]> {
  const rows = await db
    .select({
      sku: ledger.sku,
      held: ledger.acceptedDigest,
      withdrawn: ledger.withdrawn,
      pending: ledger.pendingSubmission,
      inReview: ledger.inReview,
      unsure: ledger.unsure,
      values: ledger.acceptedValues,
      ref: submissionEntry.ref,
    })
    .from(ledger)
    .leftJoin(
      submissionEntry,
      and(
        eq(
          submissionEntry.submissionId,
          sql`coalesce(${ledger.acceptedSubmission}, ${ledger.rejectedSubmission})`,
        ),
        eq(submissionEntry.sku, ledger.sku),
      ),
    )
    .where(eq(ledger.feed, code));
  const id = sheet.fields.find(({ role }) => role === 'id')?.code ?? '';
  return rows.map(({ sku, held, withdrawn, pending, inReview, unsure, values, ref }) => ({
    sku,
    key: ref || String(values?.[id] ?? sku),
    held: held !== null && !withdrawn,
    open: pending !== null || inReview || unsure,
    values: values ?? undefined,
  }));
}

/** How our records and the channel's list compare, as a page shows it; undefined where the channel has none. */
export interface ComparisonView {
  readonly comparedAt: Date | undefined;
  readonly askedAt: Date | undefined;
  readonly ours: number;
  readonly theirs: number;
  readonly differing: number;
  readonly differences: readonly ListDifference[];
  readonly trouble: string | undefined;
}

const MAX_SHOWN = 100;

export async function comparisonView(code: string, sheet: Sheet): Promise<ComparisonView | undefined> {
  if (!sheet.delivery.list) return undefined;
  const [row] = await db.select().from(channelComparison).where(eq(channelComparison.feed, code));
  return {
    comparedAt: row?.comparedAt ?? undefined,
    askedAt: row?.askedAt ?? undefined,
    ours: row?.ours ?? 0,
    theirs: row?.theirs ?? 0,
    differing: row?.differing ?? 0,
    differences: row?.differences.slice(0, MAX_SHOWN) ?? [],
    trouble: row?.trouble ?? undefined,
  };
}

/** Our records as the channel's list has it: what it lists as sent is accepted, of all else it is sent again. */
function asListed(entry: LedgerEntry | undefined, difference: ListDifference): LedgerEntry {
  const known = entry ?? emptyEntry;
  if (difference.what === 'missing') return { ...known, held: undefined, number: undefined };
  if (difference.what === 'extra' && known.refused?.digest !== undefined)
    return {
      ...known,
      held: { digest: known.refused.digest, submission: known.refused.submission },
      refused: undefined,
      problems: [],
      withdrawn: false,
    };
  // What exactly it has nobody knows: it is sent again, or taken back where the feed does not take it.
  return { ...known, unsure: true, withdrawn: false };
}

/**
 * Takes the channel's list over into our records, so that the next submission mends what differs. What has changed since the
 * comparison is left for the next one. @returns of how many listings
 * @throws InputError where nothing differs
 */
export async function takeListOver(code: string): Promise<number> {
  const person = await currentUser();
  const count = await db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(channelComparison)
      .where(eq(channelComparison.feed, code))
      .for('update');
    if (!row?.comparedAt || row.differences.length === 0) throw new InputError('nothingDiffers');
    const bySku = new Map(row.differences.map((one) => [one.sku, one]));
    let taken = 0;
    for (const part of inParts([...bySku.values()], BATCH_ROWS)) {
      const skus = part.map(({ sku }) => sku);
      const [entries, dated] = [
        await lockedLedger(tx, code, skus),
        await tx
          .select({ sku: ledger.sku, changedAt: ledger.changedAt })
          .from(ledger)
          .where(and(eq(ledger.feed, code), inArray(ledger.sku, skus))),
      ];
      const changed = new Map(dated.map(({ sku, changedAt }) => [sku, changedAt]));
      const still = part.filter(
        ({ sku }) => (changed.get(sku)?.getTime() ?? 0) <= (row.comparedAt?.getTime() ?? 0),
      );
      await writeLedger(
        tx,
        code,
        still.map((one) => [one.sku, asListed(entries.get(one.sku), one)]),
      );
      taken += still.length;
    }
    await tx
      .update(channelComparison)
      .set({ differences: [], differing: 0, comparedAt: null })
      .where(eq(channelComparison.feed, code));
    return taken;
  });
  await recordActivity(person, `accepted the channel’s list for ${count} listings`, code);
  await requestChannelReport(code);
  return count;
}
