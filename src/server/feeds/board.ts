import { cache } from 'react';
import { asText } from '../../core/catalog/value';
import { type Remedy, remediesFor } from '../../core/remedies/remedies';
import { currentSnapshot } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { workspace } from '../db/schema';
import { listSubmissions } from '../submissions/submissions';
import { type FeedHead, listFeeds } from './drafts';
import { type FeedWork, tryFeed } from './work';

export interface FeedEntry {
  readonly code: string;
  readonly name: string;
  readonly blocked: number;
  readonly lastSent: Date | undefined;
  /** Why it cannot be computed; undefined where it can. */
  readonly failed: string | undefined;
}

export interface SpineView {
  readonly merchant: string;
  readonly items: number;
  readonly families: number;
  readonly feeds: readonly FeedEntry[];
}

/** A feed's name: its channel, and its country where the channel has several. */
export async function feedName(head: Pick<FeedHead, 'channel' | 'country'>): Promise<string> {
  const { sheet } = await channelOf(head.channel);
  return sheet.markets.length > 1 ? `${sheet.name} ${head.country}` : sheet.name;
}

async function feedEntry(head: FeedHead): Promise<{ entry: FeedEntry; work: FeedWork | undefined }> {
  const [{ work, failed }, [last]] = await Promise.all([tryFeed(head.code), listSubmissions(head.code, 1)]);
  const blocked = work?.draft.listings.filter(({ state }) => state === 'blocked').length ?? 0;
  return {
    entry: {
      code: head.code,
      name: await feedName(head),
      blocked,
      lastSent: last?.sentAt ?? undefined,
      failed: failed?.words,
    },
    work,
  };
}

const feedEntries = cache(async () => Promise.all((await listFeeds()).map(feedEntry)));

export const spineView = cache(async (): Promise<SpineView> => {
  const [[space], snapshot, feeds] = await Promise.all([
    db.select().from(workspace),
    currentSnapshot(),
    feedEntries(),
  ]);
  return {
    merchant: space?.name ?? '',
    items: snapshot.items.length,
    families: snapshot.families.size,
    feeds: feeds.map(({ entry }) => entry),
  };
});

export interface BoardCell {
  readonly ready: number;
  readonly blocked: number;
  readonly leftOut: number;
}

export interface BoardView {
  readonly items: number;
  readonly families: number;
  readonly feeds: readonly FeedEntry[];
  readonly rows: readonly { category: string; items: number; cells: readonly BoardCell[] }[];
  readonly blocked: number;
  readonly frees: number;
  readonly remedies: readonly { feed: string; title: string; frees: number; key: string }[];
}

/** Readiness of every merchant category in every feed, and the changes that would free most listings. */
export async function boardView(): Promise<BoardView> {
  const [snapshot, feeds] = await Promise.all([currentSnapshot(), feedEntries()]);
  const slot = snapshot.index.slotOf('category') ?? -1;
  const groups = new Map<string, number[]>();
  snapshot.rows.forEach((row, at) => {
    const category = asText(row[slot]);
    const known = groups.get(category);
    if (known) known.push(at);
    else groups.set(category, [at]);
  });
  const rows = [...groups]
    .map(([category, positions]) => ({
      category,
      items: positions.length,
      cells: feeds.map(({ work }): BoardCell => {
        const cell = { ready: 0, blocked: 0, leftOut: 0 };
        for (const at of positions) {
          const state = work?.draft.listings[at]?.state;
          if (state) cell[state]++;
        }
        return cell;
      }),
    }))
    .sort((a, b) => Number(a.category === '') - Number(b.category === '') || b.items - a.items);
  const remedies = feeds
    .flatMap(({ entry, work }) =>
      work
        ? feedRemedies(work).map((remedy) => ({
            feed: entry.code,
            title: remedy.title,
            frees: remedy.frees,
            key: remedy.key,
          }))
        : [],
    )
    .filter(({ frees }) => frees > 0)
    .sort((a, b) => b.frees - a.frees)
    .slice(0, 3);
  return {
    items: snapshot.items.length,
    families: snapshot.families.size,
    feeds: feeds.map(({ entry }) => entry),
    rows,
    blocked: feeds.reduce((sum, { entry }) => sum + entry.blocked, 0),
    frees: remedies.reduce((sum, { frees }) => sum + frees, 0),
    remedies,
  };
}

/** The remedies for a feed's draft, cheapest first. */
export function feedRemedies(work: FeedWork): Remedy[] {
  const title = work.sheet.fields.find(({ role }) => role === 'title')?.code;
  return remediesFor(work.draft.listings, work.labelOf, (issue) => {
    if (work.sheet.fields.find(({ code }) => code === issue.field)?.kind === 'category') return 'categories';
    if (issue.field === title) return 'titles';
    if (issue.check === 'missing' && work.plans.draft.fields[issue.field] === undefined) return 'fields';
    return issue.check === 'choice' ? 'fields' : 'items';
  });
}
