import { eq, max, sql } from 'drizzle-orm';
import { cache } from 'react';
import { fieldLabels } from '../../core/channels/sheet';
import { issueTitle } from '../../core/checks/messages';
import { causesIn, type FeedFigures, noFigures } from '../../core/listing/figures';
import { readWorkspace } from '../catalog/workspace';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { family, feedSchedule, item, submission } from '../db/schema';
import { isRefreshing, readSummaries } from '../listings/read';
import { unreadCount } from '../notifications/notifications';
import { type FeedHead, listFeeds } from '../plans/drafts';
import { feedName } from '../plans/feedName';
import { isLive } from '../transports/environment';
import { type AttentionLine, attentionLines } from './attention';

export interface FeedEntry {
  readonly code: string;
  readonly name: string;
  readonly blocked: number;
  readonly lastSent: Date | undefined;
  /** When its schedule sends it next; undefined where a person does. */
  readonly next: Date | undefined;
  /** Why it cannot be computed; undefined where it can. */
  readonly failed: string | undefined;
}

export interface SidebarView {
  readonly merchant: string;
  readonly items: number;
  readonly families: number;
  readonly feeds: readonly FeedEntry[];
  /** Whether the figures are being counted anew. */
  readonly counting: boolean;
  /** Notices that nobody has seen yet. */
  readonly unseen: number;
}

/** When each feed was last sent. */
async function lastSent(): Promise<Map<string, Date>> {
  const rows = await db
    .select({ feed: submission.feed, at: max(submission.sentAt) })
    .from(submission)
    .where(isLive)
    .groupBy(submission.feed);
  return new Map(rows.flatMap(({ feed, at }) => (at ? [[feed, at] as const] : [])));
}

/** When the schedule of each feed sends it next. */
async function nextSendings(): Promise<Map<string, Date>> {
  const rows = await db
    .select({ feed: feedSchedule.feed, at: feedSchedule.nextAt })
    .from(feedSchedule)
    .where(eq(feedSchedule.paused, false));
  return new Map(rows.flatMap(({ feed, at }) => (at ? [[feed, at] as const] : [])));
}

interface CountedFeed {
  readonly head: FeedHead;
  readonly entry: FeedEntry;
  readonly figures: FeedFigures;
}

/** Every feed with its figures, as they are kept: nothing is computed for them. */
const countedFeeds = cache(async (): Promise<CountedFeed[]> => {
  const [heads, summaries, sent, next] = await Promise.all([
    listFeeds(),
    readSummaries(),
    lastSent(),
    nextSendings(),
  ]);
  return Promise.all(
    heads.map(async (head): Promise<CountedFeed> => {
      const stored = summaries.get(head.code);
      const figures = stored?.figures ?? noFigures;
      return {
        head,
        figures,
        entry: {
          code: head.code,
          name: await feedName(head),
          blocked: figures.states.blocked,
          lastSent: sent.get(head.code),
          next: next.get(head.code),
          failed: stored?.failed ?? undefined,
        },
      };
    }),
  );
});

/** How many items there are in each category: as they were counted for a feed; counted here where there is none yet. */
async function itemsByCategory(
  feeds: readonly CountedFeed[],
): Promise<{ category: string; items: number }[]> {
  const counted = feeds.find(({ figures }) => figures.categories.length > 0);
  if (counted)
    return counted.figures.categories.map(([category, { ready, blocked, leftOut }]) => ({
      category,
      items: ready + blocked + leftOut,
    }));
  const rows = await db
    .select({ category: item.category, count: sql<number>`count(*)` })
    .from(item)
    .where(eq(item.archived, false))
    .groupBy(item.category);
  return rows.map(({ category, count }) => ({ category: category ?? '', items: Number(count) }));
}

/** How many items are in the catalog, and families. */
const catalogCounts = cache(async () => {
  const [categories, families] = await Promise.all([
    countedFeeds().then(itemsByCategory),
    db.select({ count: sql<number>`count(*)` }).from(family),
  ]);
  return {
    categories,
    items: categories.reduce((sum, one) => sum + one.items, 0),
    families: Number(families[0]?.count ?? 0),
  };
});

export const sidebarView = cache(async (): Promise<SidebarView> => {
  const [space, counts, feeds, counting, unseen] = await Promise.all([
    readWorkspace(),
    catalogCounts(),
    countedFeeds(),
    isRefreshing(),
    unreadCount(),
  ]);
  return {
    merchant: space.name,
    items: counts.items,
    families: counts.families,
    feeds: feeds.map(({ entry }) => entry),
    counting,
    unseen,
  };
});

export interface OverviewCell {
  readonly ready: number;
  readonly blocked: number;
  readonly leftOut: number;
}

export interface OverviewView {
  readonly items: number;
  readonly families: number;
  readonly feeds: readonly FeedEntry[];
  readonly rows: readonly { category: string; items: number; cells: readonly OverviewCell[] }[];
  readonly blocked: number;
  readonly frees: number;
  readonly fixes: readonly { feed: string; name: string; title: string; frees: number; key: string }[];
  /** What needs a person, in the order it does. */
  readonly attention: readonly AttentionLine[];
}

/** Readiness of every merchant category in every feed, and the changes that would free most listings. */
export async function overviewView(): Promise<OverviewView> {
  const [counts, feeds] = await Promise.all([catalogCounts(), countedFeeds()]);
  const cells = feeds.map(({ figures }) => new Map(figures.categories));
  const rows = counts.categories
    .map(({ category, items }) => ({
      category,
      items,
      cells: cells.map((one) => one.get(category) ?? noFigures.states),
    }))
    .sort((a, b) => Number(a.category === '') - Number(b.category === '') || b.items - a.items);
  const labels = new Map(
    await Promise.all(
      feeds.map(async ({ head }) => [head.code, fieldLabels((await channelOf(head.channel)).sheet)] as const),
    ),
  );
  const fixes = feeds
    .flatMap(({ entry: { code, name }, figures }) =>
      causesIn(figures).map(({ check, field, frees }) => ({
        feed: code,
        name,
        title: issueTitle(check, labels.get(code)?.(field) ?? field),
        frees,
        key: `${check}:${field}`,
      })),
    )
    .filter(({ frees }) => frees > 0)
    .sort((a, b) => b.frees - a.frees)
    .slice(0, 3);
  return {
    items: counts.items,
    families: counts.families,
    feeds: feeds.map(({ entry }) => entry),
    rows,
    blocked: feeds.reduce((sum, { entry }) => sum + entry.blocked, 0),
    frees: fixes.reduce((sum, { frees }) => sum + frees, 0),
    fixes,
    attention: await attentionLines(feeds.map(({ head, entry }) => ({ head, name: entry.name }))),
  };
}
