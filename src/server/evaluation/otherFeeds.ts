import { notInArray, sql } from 'drizzle-orm';
import type { Channel } from '../../core/channels/bundle';
import type { Plan } from '../../core/plans/plan';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { draft, planVersion } from '../db/schema';
import { type FeedHead, type FeedPlans, feedPlans, listFeeds } from '../plans/drafts';
import { feedName } from '../plans/feedName';
import { memoPerRequest } from '../rpc/rpc';

export interface OtherFeed {
  readonly head: FeedHead;
  readonly name: string;
  readonly channel: Channel;
  readonly plans: FeedPlans;
  /** What is settled there: the published plan, the draft where nothing is published. */
  readonly settled: Plan;
}

/**
 * Another text wherever what is settled in any feed was changed since: a plan published, or the draft of a feed that never was; read
 * once a question. Whoever edits another draft settles nothing yet.
 */
export const settledStamp = memoPerRequest(async (_all: string): Promise<string> => {
  const published = db.select({ feed: planVersion.feed }).from(planVersion);
  const [[drafts], [versions]] = await Promise.all([
    db
      .select({ sum: sql<number>`coalesce(sum(${draft.revision}), 0)` })
      .from(draft)
      .where(notInArray(draft.feed, published)),
    db.select({ count: sql<number>`count(*)` }).from(planVersion),
  ]);
  return `${drafts?.sum} ${versions?.count}`;
});

/** Every feed but one, with what its plans say: what was decided there can help here. */
export async function otherFeeds(but: string): Promise<OtherFeed[]> {
  const heads = (await listFeeds()).filter(({ code }) => code !== but);
  const found = await Promise.all(
    heads.map(async (head): Promise<OtherFeed[]> => {
      const [plans, channel, name] = await Promise.all([
        feedPlans(head.code),
        channelOf(head.channel),
        feedName(head),
      ]);
      return plans ? [{ head, name, channel, plans, settled: plans.published ?? plans.draft }] : [];
    }),
  );
  return found.flat();
}
