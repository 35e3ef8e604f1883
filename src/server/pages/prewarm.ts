import { max } from 'drizzle-orm';
import { feedStages } from '../../core/plans/stages';
import { db } from '../db/connection';
import { draftStep, planVersion } from '../db/schema';
import { hasRoom } from '../evaluation/evaluation';
import { listFeeds } from '../plans/drafts';
import { dispatch } from '../rpc/rpc';
import type { FeedPageName } from './stages';

/** What pages of feeds are made of, made before somebody asks: the first page after a start is not the one that waits. */

/** Each makes more of what the others are made of too. */
const pages: readonly FeedPageName[] = feedStages.filter(({ prewarmed }) => prewarmed).map(({ key }) => key);

/** The feeds, those first that were edited or published last. */
async function feedsByWork(): Promise<string[]> {
  const [heads, edited, published] = await Promise.all([
    listFeeds(),
    db
      .select({ feed: draftStep.feed, at: max(draftStep.at) })
      .from(draftStep)
      .groupBy(draftStep.feed),
    db
      .select({ feed: planVersion.feed, at: max(planVersion.publishedAt) })
      .from(planVersion)
      .groupBy(planVersion.feed),
  ]);
  const last = new Map<string, number>();
  for (const { feed, at } of [...edited, ...published])
    last.set(feed, Math.max(last.get(feed) ?? 0, at?.getTime() ?? 0));
  return heads.map(({ code }) => code).sort((a, b) => (last.get(b) ?? 0) - (last.get(a) ?? 0));
}

/**
 * Makes every page of feeds once, feed after feed as long as they take little of the room that evaluations have.
 * @param quiet resolves when nobody is at work: a page that is wanted goes before those that may be
 * @param isOurs whether it is this evaluator that is asked about a feed
 */
export async function prewarmPages(
  quiet: () => Promise<void>,
  isOurs: (feed: string) => boolean = () => true,
): Promise<void> {
  for (const code of (await feedsByWork()).filter(isOurs)) {
    for (const page of pages) {
      await quiet();
      await dispatch('feedPage', [code, page, {}]);
    }
    if (!hasRoom()) return;
  }
}
