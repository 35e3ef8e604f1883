import { and, asc, eq, gt, isNull, sql } from 'drizzle-orm';
import { ownEntry } from '../../core/catalog/value';
import type { Joins } from '../../core/channels/delivery';
import { InputError } from '../../core/errors/inputError';
import { type FoundEntry, readEntries } from '../../core/ledger/entries';
import { currentUser, recordActivity } from '../auth/authorize';
import { loadAttributes } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { channelEntry, feed, item } from '../db/schema';
import { loadFeedContext } from '../evaluation/feedContext';
import { enqueue, type Work } from '../jobs/queue';
import { ledgerOf } from '../ledger/ledger';
import { feedPlans } from '../plans/drafts';
import { procedure } from '../rpc/rpc';
import { settings } from '../runtime/settings';
import { destinationOf, rateKey } from '../transports/destinations';
import { exchangeSeconds, searchFor } from '../transports/exchange';
import { acquire, release } from '../transports/rateLimiter';
import type { Destination } from '../transports/transport';

/** Items asked for with one press. */
const MAX_ASKED = 5000;
/** Asked again after so many days: channels get new entries. */
const asksAgainAfter = 7;

/** Since when what was asked need not be asked again. */
export const searchedRecently = (): Date => new Date(Date.now() - asksAgainAfter * 86_400_000);

/** Items of a feed that might join what the channel has: it has nothing of them yet, and nobody said what they join. */
export const joinableSkus = procedure('joinableSkus', async (code: string): Promise<string[]> => {
  const work = await loadFeedContext(code);
  if (!work?.sheet.delivery.joins) return [];
  const [ledger, { joined = {} }] = [await ledgerOf(code), work.plans.draft];
  const { listings } = work.draft;
  return listings.taken().flatMap((i) => {
    const sku = listings.skuAt(i);
    const stored = ledger.get(sku);
    return stored?.held || stored?.pending || ownEntry(joined, sku) ? [] : [sku];
  });
});

/**
 * Has a channel asked for what it has of a feed's items, where it was not asked lately. @returns how many are asked for
 * @throws InputError where the channel cannot be asked
 */
export async function requestChannelSearch(code: string): Promise<number> {
  const person = await currentUser();
  const plans = await feedPlans(code);
  if (!plans) throw new InputError('noFeed');
  const { sheet } = await channelOf(plans.head.channel);
  if (!sheet.delivery.joins) throw new InputError('cannotJoin');
  const skus = await joinableSkus(code);
  const lately = searchedRecently();
  const known = await db
    .select({ sku: channelEntry.sku })
    .from(channelEntry)
    .where(and(eq(channelEntry.feed, code), isNull(channelEntry.trouble), gt(channelEntry.askedAt, lately)));
  const done = new Set(known.map(({ sku }) => sku));
  const wanted = skus.filter((sku) => !done.has(sku)).slice(0, MAX_ASKED);
  if (wanted.length === 0) return 0;
  await db.transaction(async (tx) => {
    for (let at = 0; at < wanted.length; at += 500)
      await insertRows(
        tx,
        channelEntry,
        wanted
          .slice(at, at + 500)
          .map((sku) => ({ feed: code, sku, entries: [], askedAt: null, trouble: null })),
        ['askedAt', 'trouble'],
      );
    await enqueue(tx, 'searchChannel', { feed: code });
  });
  await recordActivity(person, `searched the channel for ${wanted.length} items`, code);
  return wanted.length;
}

const entryIs = (code: string, sku: string) => and(eq(channelEntry.feed, code), eq(channelEntry.sku, sku));

/** Says of all that is still to be asked for that it could not be. */
export async function abandonSearch(code: string, words: string): Promise<void> {
  await db
    .update(channelEntry)
    .set({ askedAt: new Date(), trouble: words.slice(0, 300) })
    .where(and(eq(channelEntry.feed, code), isNull(channelEntry.askedAt)));
}

/** What a channel is asked for an item by. */
interface Sought {
  readonly sku: string;
  readonly gtin: string;
  readonly name: string;
}

/** To be asked again after a while, and why where something is in the way. */
interface Waits {
  readonly wait: number;
  readonly words?: string | undefined;
}
type Answered = { readonly entries: FoundEntry[] } | Waits | { readonly stop: string };

/**
 * Asks a channel item by item, at its pace, for what it has under the number, and where that is nothing, under the name.
 * @returns in how many ms to go on, where not at once
 */
export async function searchChannel(code: string, work: Work): Promise<number | undefined> {
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  const { joins } = head ? (await channelOf(head.channel)).sheet.delivery : {};
  if (!head || !joins) return undefined;
  const to = await destinationOf(head, 'live');
  const attributes = await loadAttributes();
  for (let done = 0; ; done++) {
    const [next] = await db
      .select({
        sku: channelEntry.sku,
        gtin: item.gtin,
        name: item.name,
        left: sql<number>`count(*) over ()`,
      })
      .from(channelEntry)
      .leftJoin(item, eq(item.sku, channelEntry.sku))
      .where(and(eq(channelEntry.feed, code), isNull(channelEntry.askedAt)))
      .orderBy(asc(channelEntry.sku))
      .limit(1);
    if (!next) return undefined;
    await work.progress(done / (done + Number(next.left)));
    const sought = { sku: next.sku, gtin: next.gtin ?? '', name: next.name ?? '' };
    const answer = await askedFor(sought, joins, to, (body) => readEntries(body, joins, attributes));
    if ('stop' in answer) {
      await abandonSearch(code, answer.stop);
      return undefined;
    }
    if ('wait' in answer) {
      if (answer.words !== undefined)
        await db
          .update(channelEntry)
          .set({ trouble: answer.words.slice(0, 300) })
          .where(entryIs(code, next.sku));
      return answer.wait;
    }
    await db
      .update(channelEntry)
      .set({ entries: answer.entries, askedAt: new Date(), trouble: null })
      .where(entryIs(code, next.sku));
  }
}

async function askedFor(
  { gtin, name }: Sought,
  joins: Joins,
  to: Destination,
  read: (body: unknown) => FoundEntry[],
): Promise<Answered> {
  const questions = [
    ...(gtin !== '' ? [{ path: joins.byNumber, given: { number: gtin } }] : []),
    ...(joins.byName && name !== '' ? [{ path: joins.byName, given: { key: name } }] : []),
  ];
  for (const { path, given } of questions) {
    const answer = await inTurn(path, given, joins, to);
    if (!('found' in answer)) return answer;
    const entries = answer.found === undefined ? [] : read(answer.found);
    if (entries.length > 0) return { entries };
  }
  return { entries: [] };
}

/** One question, when it is its turn: searching has a pace of its own. */
async function inTurn(
  path: string,
  given: Parameters<typeof searchFor>[1],
  { rate }: Joins,
  to: Destination,
): Promise<{ readonly found: unknown } | Waits | { readonly stop: string }> {
  const key = `search ${rateKey(to)}`.slice(0, 190);
  const turn = await acquire(key, rate, (exchangeSeconds() + 5) * 1000);
  if ('wait' in turn) return turn;
  const answer = await searchFor(path, given, to);
  const failed = 'failed' in answer;
  await release(
    key,
    turn.holder,
    rate,
    !failed || answer.failed !== 'later'
      ? 'well'
      : answer.wait === undefined
        ? 'failed'
        : { wait: answer.wait },
  );
  if (!failed) return answer;
  return answer.failed === 'later'
    ? { wait: answer.wait ?? 5000 / settings.haste, words: answer.words }
    : { stop: answer.words };
}

/** What of a feed's items the channel was asked for, and what it has. */
export async function entriesOf(code: string) {
  return db.select().from(channelEntry).where(eq(channelEntry.feed, code)).orderBy(asc(channelEntry.sku));
}
