import { channelOf } from '../channels/channels';
import type { FeedHead } from './drafts';

/** A feed's name: its channel, and its country where the channel has several. */
export async function feedName(head: Pick<FeedHead, 'channel' | 'country'>): Promise<string> {
  const { sheet } = await channelOf(head.channel);
  return sheet.markets.length > 1 ? `${sheet.name} ${head.country}` : sheet.name;
}
