import { and, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Sheet } from '../../core/channels/sheet';
import type { FeedHead } from '../../core/formats/format';
import { feedPieces, formats } from '../../files/formats';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { feed, listing, submission, submissionEntry } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { retryAfter } from '../net/fetching';
import { settings } from '../settings';
import { merchantName } from '../workspace';

/** A refusal that trying again will not change. */
export class FinalRefusal extends Error {}

const timeout = () => AbortSignal.timeout(20_000);
const receiptSchema = z.object({ id: z.string() });
const reportSchema = z.object({
  entries: z.array(
    z.object({
      ref: z.string(),
      result: z.enum(['accepted', 'refused']),
      problems: z.array(z.object({ code: z.string(), field: z.string().nullable(), text: z.string() })),
    }),
  ),
});

async function loaded(id: number) {
  const found = await findSubmission(id);
  if (!found) throw new FinalRefusal(`There is no submission ${id}.`);
  const [head] = await db.select().from(feed).where(eq(feed.code, found.feed));
  if (!head) throw new FinalRefusal(`There is no feed ${found.feed}.`);
  return { found, head, sheet: (await channelOf(head.channel)).sheet };
}

/** A submission; undefined where there is none of that number. */
export async function findSubmission(id: number) {
  const [found] = await db.select().from(submission).where(eq(submission.id, id));
  return found;
}

/** The file of a submission, made from what was written down when it was sent. */
export async function submissionFile(id: number): Promise<Uint8Array<ArrayBuffer>> {
  const { found, head, sheet } = await loaded(id);
  const entries = await db
    .select()
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, id))
    .orderBy(submissionEntry.sku);
  const rows = entries.map(({ values }) => ({ values: sheet.fields.map(({ code }) => values[code]) }));
  const pieces: Uint8Array[] = [];
  for await (const piece of feedPieces(sheet, await fileHead(head, sheet, found.createdAt), rows))
    pieces.push(piece);
  return new Uint8Array(Buffer.concat(pieces));
}

/** The format a submission's file is in. */
export const submissionFormat = async (id: number) => formats[(await loaded(id)).sheet.delivery.format];

/** What a feed's file says of itself. */
export const fileHead = async (
  head: { readonly code: string; readonly country: string },
  sheet: Sheet,
  made: Date,
): Promise<FeedHead> => ({
  id: `urn:lively-cart:feed:${head.code}`,
  title: `${sheet.name} ${head.country}`,
  author: await merchantName(),
  updated: made.toISOString(),
});

/** Posts a submission's file. May run twice: the channel knows the idempotency key and takes the file once. */
export async function sendSubmission(id: number): Promise<void> {
  const { found, head, sheet } = await loaded(id);
  if (found.state !== 'queued' && found.state !== 'sending') return;
  await db.update(submission).set({ state: 'sending' }).where(eq(submission.id, id));
  const answer = await fetch(`${settings.standins}/${head.channel}/files?country=${head.country}`, {
    method: 'POST',
    headers: { 'content-type': formats[sheet.delivery.format].mediaType, 'idempotency-key': found.key },
    body: await submissionFile(id),
    signal: timeout(),
  });
  if (!answer.ok) {
    const said = (await answer.text()).slice(0, 300);
    if (answer.status >= 400 && answer.status < 500 && answer.status !== 429)
      throw new FinalRefusal(`The channel refused the file: ${said}`);
    throw new Error(`The channel answered ${answer.status}: ${said}`);
  }
  const receipt = receiptSchema.parse(await answer.json());
  await db.transaction(async (tx) => {
    await tx
      .update(submission)
      .set({ state: 'waiting', remoteId: receipt.id, sentAt: new Date(), error: null })
      .where(eq(submission.id, id));
    await enqueue(tx, 'collectReport', { submission: id }, 1000);
  });
}

/** Asks for the report. @returns in how many ms to ask again, while the channel is still at work */
export async function collectReport(id: number): Promise<number | undefined> {
  const { found, head } = await loaded(id);
  if (found.state !== 'waiting') return undefined;
  const answer = await fetch(`${settings.standins}/${head.channel}/files/${found.remoteId}/report`, {
    signal: timeout(),
  });
  if (answer.status === 202) return retryAfter(answer.headers.get('retry-after'));
  if (!answer.ok) throw new Error(`The channel answered ${answer.status} when asked for its report.`);
  const report = reportSchema.parse(await answer.json());
  await db.transaction(async (tx) => {
    for (const { ref, result, problems } of report.entries) {
      await tx
        .update(submissionEntry)
        .set({ answer: result, problems })
        .where(and(eq(submissionEntry.submissionId, id), eq(submissionEntry.sku, ref)));
      await tx
        .update(listing)
        .set({
          answer: result,
          problems,
          ...(result === 'accepted' ? { acceptedDigest: sql`${listing.sentDigest}` } : {}),
        })
        .where(and(eq(listing.feed, head.code), eq(listing.sku, ref), eq(listing.submissionId, id)));
    }
    // What the report does not name is unanswered, and what it names that was never sent counts for nothing.
    const entries = await tx
      .select({ answer: submissionEntry.answer, count: sql<number>`count(*)` })
      .from(submissionEntry)
      .where(eq(submissionEntry.submissionId, id))
      .groupBy(submissionEntry.answer);
    const count = (answer: string) => Number(entries.find((one) => one.answer === answer)?.count ?? 0);
    const silent = count('waiting');
    if (silent > 0)
      await tx.delete(listing).where(and(eq(listing.submissionId, id), eq(listing.answer, 'waiting')));
    await tx
      .update(submission)
      .set({
        state: 'answered',
        answeredAt: new Date(),
        accepted: count('accepted'),
        refused: count('refused'),
        error:
          silent === 0
            ? null
            : `The channel’s answer does not name ${silent} of the listings; they count as not sent and can be sent again.`,
      })
      .where(eq(submission.id, id));
  });
  return undefined;
}

/** Gives a submission up and says why; its listings can be sent again. */
export async function failSubmission(id: number, error: string): Promise<void> {
  await db.transaction(async (tx) => {
    await tx
      .update(submission)
      .set({ state: 'failed', error })
      .where(and(eq(submission.id, id), inArray(submission.state, ['queued', 'sending', 'waiting'])));
    await tx.delete(listing).where(and(eq(listing.submissionId, id), eq(listing.answer, 'waiting')));
  });
}
