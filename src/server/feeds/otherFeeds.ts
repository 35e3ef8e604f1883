import type { Channel } from '../../core/channels/bundle';
import type { Plan } from '../../core/listing/plan';
import { channelOf } from '../channels/channels';
import { type FeedHead, type FeedPlans, feedPlans, listFeeds } from './drafts';
import { feedName } from './feedName';

export interface OtherFeed {
  readonly head: FeedHead;
  readonly name: string;
  readonly channel: Channel;
  readonly plans: FeedPlans;
  /** What is settled there: the published plan, the draft where nothing is published. */
  readonly settled: Plan;
}

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
