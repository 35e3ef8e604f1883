import { rm } from 'node:fs/promises';
import { and, count, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import {
  batch,
  feed,
  feedListing,
  feedValue,
  ledger,
  notification,
  planVersion,
  publication,
  submission,
  submissionEntry,
} from '../db/schema';
import { pathOfStored } from '../storage/files';
import { feedName } from './feedName';

/** What goes with a feed, named before it is deleted. */
export interface FeedDependents {
  readonly versions: number;
  readonly submissions: number;
  /** Listings that the channel has: they stay there unless they are taken back first. */
  readonly atChannel: number;
  /** Whether something is on its way, which has to end first. */
  readonly underWay: boolean;
}

const underWay = ['planning', 'held', 'queued', 'sending', 'paused', 'waiting'] as const;

export async function feedDependents(code: string): Promise<FeedDependents> {
  const [[versions], [submissions], [there], open] = await Promise.all([
    db.select({ count: count() }).from(planVersion).where(eq(planVersion.feed, code)),
    db.select({ count: count() }).from(submission).where(eq(submission.feed, code)),
    db
      .select({ count: count() })
      .from(ledger)
      .where(and(eq(ledger.feed, code), isNotNull(ledger.acceptedDigest), eq(ledger.withdrawn, false))),
    db
      .select({ id: submission.id })
      .from(submission)
      .where(and(eq(submission.feed, code), inArray(submission.state, [...underWay])))
      .limit(1),
  ]);
  return {
    versions: versions?.count ?? 0,
    submissions: submissions?.count ?? 0,
    atChannel: there?.count ?? 0,
    underWay: open.length > 0,
  };
}

/** Rows that are deleted in one statement: what holds a lock for long holds others up. */
const BATCH_ROWS = 5000;

/** Deletes what has a row for each listing, some at a time. */
async function emptyLarge(code: string): Promise<void> {
  const mine = sql`(select ${submission.id} from ${submission} where ${submission.feed} = ${code})`;
  for (const statement of [
    sql`delete from ${feedListing} where ${feedListing.feed} = ${code} limit ${BATCH_ROWS}`,
    sql`delete from ${feedValue} where ${feedValue.feed} = ${code} limit ${BATCH_ROWS}`,
    sql`delete from ${ledger} where ${ledger.feed} = ${code} limit ${BATCH_ROWS}`,
    sql`delete from ${submissionEntry} where ${submissionEntry.submissionId} in ${mine} limit ${BATCH_ROWS}`,
  ])
    for (;;) {
      const [done] = await db.execute(statement);
      if (done.affectedRows < BATCH_ROWS) break;
    }
}

/**
 * Deletes a feed with its settings, versions, submissions and records. What the channel has stays there. It cannot be undone.
 * @throws InputError where something of it is on its way
 */
export async function removeFeed(code: string): Promise<void> {
  const person = await currentUser();
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  if (!head) throw new InputError('noFeed');
  const name = await feedName(head);
  const { underWay: open, submissions, atChannel } = await feedDependents(code);
  if (open) throw new InputError('feedUnderWay');
  const files = await db
    .selectDistinct({ file: batch.file })
    .from(batch)
    .innerJoin(submission, eq(submission.id, batch.submissionId))
    .where(eq(submission.feed, code));
  await db.transaction(async (tx) => {
    // Locked, so that no submission of it begins meanwhile.
    await tx.select({ code: feed.code }).from(feed).where(eq(feed.code, code)).for('update');
    await tx.delete(notification).where(eq(notification.feed, code));
    await tx.delete(feed).where(eq(feed.code, code));
  });
  await emptyLarge(code);
  await db.delete(submission).where(eq(submission.feed, code));
  await dropFiles(files.map(({ file }) => file));
  await recordActivity(
    person,
    `deleted a feed with ${submissions} submissions; ${atChannel} listings stay at the channel`,
    `${name} (${code})`,
  );
}

/** Deletes kept files that nothing names any more. */
async function dropFiles(files: readonly string[]): Promise<void> {
  for (let at = 0; at < files.length; at += BATCH_ROWS) {
    const some = files.slice(at, at + BATCH_ROWS);
    const named = await db
      .select({ file: batch.file })
      .from(batch)
      .where(inArray(batch.file, some))
      .union(db.select({ file: publication.file }).from(publication).where(inArray(publication.file, some)));
    const stored = new Set(named.map(({ file }) => file));
    for (const file of some) if (!stored.has(file)) await rm(pathOfStored(file), { force: true });
  }
}
