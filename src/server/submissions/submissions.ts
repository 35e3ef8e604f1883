import { randomUUID } from 'node:crypto';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { merchantNeedsIn } from '../../core/channels/sheet';
import { currentSnapshot } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { listing, submission, submissionEntry } from '../db/schema';
import { feedPlans } from '../feeds/drafts';
import { enqueue } from '../jobs/queue';
import { digestOf, evaluationOf } from '../listings/evaluation';
import { record, whoAsks } from '../people/gate';

export type SentState = typeof listing.$inferSelect;
export type SubmissionRow = typeof submission.$inferSelect;

/** What the channel knows of each item of a feed, by SKU. */
export async function sentStates(feed: string): Promise<Map<string, SentState>> {
  const rows = await db.select().from(listing).where(eq(listing.feed, feed));
  return new Map(rows.map((row) => [row.sku, row]));
}

/** Ready listings whose values differ from what the channel was last sent; all ready ones where `everything` is set. */
export async function toSend(feed: string, everything = false) {
  const [plans, snapshot, sent] = await Promise.all([feedPlans(feed), currentSnapshot(), sentStates(feed)]);
  if (!plans?.published) return { plans, compiled: undefined, entries: [] };
  const { compiled, listings } = evaluationOf(plans.published, await channelOf(plans.head.channel), snapshot);
  const entries = listings.flatMap((one) => {
    if (one.state !== 'ready') return [];
    const digest = digestOf(one);
    return everything || sent.get(one.sku)?.sentDigest !== digest ? [{ listing: one, digest }] : [];
  });
  return { plans, compiled, entries };
}

/** Channels that take what is sent: only one has a stand-in so far. */
const taking: ReadonlySet<string> = new Set(['lanternry']);

/** Whether a channel takes what is sent by itself; else its file is uploaded by hand. */
export const hasWayOut = (channel: string): boolean => taking.has(channel);

export type SendResult =
  | { ok: true; submission: number; count: number }
  | { ok: false; reason: 'unpublished' | 'nothing' | 'underWay' | 'noStandIn' | 'conditions' };

/**
 * Writes a submission down and queues it. Nothing has left the process when this returns.
 * One submission of a feed at a time: a second one waits until the first is answered.
 */
export async function sendFeed(feed: string, everything: boolean): Promise<SendResult> {
  const person = await whoAsks();
  const { plans, compiled, entries } = await toSend(feed, everything);
  if (!plans || !compiled) return { ok: false, reason: 'unpublished' };
  if (entries.length === 0) return { ok: false, reason: 'nothing' };
  const { sheet } = compiled;
  const met = new Set(plans.published?.met);
  if (merchantNeedsIn(sheet, plans.head.country).some(({ code }) => !met.has(code)))
    return { ok: false, reason: 'conditions' };
  if (!hasWayOut(plans.head.channel)) return { ok: false, reason: 'noStandIn' };
  const result = await db.transaction(async (tx): Promise<SendResult> => {
    const open = await tx
      .select({ id: submission.id })
      .from(submission)
      .where(and(eq(submission.feed, feed), inArray(submission.state, ['queued', 'sending', 'waiting'])))
      .for('update');
    if (open.length > 0) return { ok: false, reason: 'underWay' };
    const [made] = await tx
      .insert(submission)
      .values({
        feed,
        version: plans.version,
        state: 'queued',
        key: randomUUID(),
        total: entries.length,
        accepted: 0,
        refused: 0,
        createdAt: new Date(),
      })
      .$returningId();
    const id = made?.id ?? 0;
    for (let i = 0; i < entries.length; i += 500) {
      const chunk = entries.slice(i, i + 500);
      await tx.insert(submissionEntry).values(
        chunk.map(({ listing: one, digest }) => {
          const values: Record<string, Values[string]> = {};
          compiled.sheet.fields.forEach((field, at) => {
            const value = one.values[at];
            if (value !== undefined) values[field.code] = value;
          });
          return { submissionId: id, sku: one.sku, digest, values, answer: 'waiting' as const, problems: [] };
        }),
      );
      await tx
        .insert(listing)
        .values(
          chunk.map(({ listing: one, digest }) => ({
            feed,
            sku: one.sku,
            sentDigest: digest,
            answer: 'waiting' as const,
            problems: [],
            submissionId: id,
          })),
        )
        .onDuplicateKeyUpdate({
          set: { sentDigest: sql`values(sent_digest)`, answer: 'waiting', problems: [], submissionId: id },
        });
    }
    await enqueue(tx, 'sendSubmission', { submission: id });
    return { ok: true, submission: id, count: entries.length };
  });
  if (result.ok) await record(person, `sent ${result.count} listings`, feed);
  return result;
}

export async function listSubmissions(feed?: string, most = 20): Promise<SubmissionRow[]> {
  const query = db.select().from(submission);
  return (feed ? query.where(eq(submission.feed, feed)) : query).orderBy(desc(submission.id)).limit(most);
}

export async function submissionEntries(id: number) {
  return db
    .select()
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, id))
    .orderBy(submissionEntry.sku);
}
