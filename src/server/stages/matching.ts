import { and, eq } from 'drizzle-orm';
import { asText, ownEntry } from '../../core/catalog/value';
import type { CatalogProduct } from '../../core/matching/comparing';
import { pairKey } from '../../core/matching/familyMatching';
import {
  type CandidateMatch,
  type Matching,
  matchProducts,
  similarityOf,
} from '../../core/matching/matching';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { channelEntryNot } from '../db/schema';
import type { FeedContext } from '../evaluation/feedContext';
import { type CandidateMatchView, type ProductView, productOf, viewOf } from '../items/products';
import { ledgerOf } from '../ledger/ledger';
import { memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import { entriesOf, joinableSkus, searchedRecently } from '../submissions/channelSearch';

/** An item with the entry of the channel that it joins, or surely is. */
export interface MatchView {
  readonly item: ProductView;
  readonly entry: ProductView;
  readonly supports: readonly string[];
  /** How the channel took it, in a word or two; empty where it was not sent. */
  readonly sent: string;
}

/** What a channel has already that the feed's items might join. */
export interface MatchingStage {
  /** Whether the channel can be asked at all. */
  readonly can: boolean;
  readonly channel: string;
  /** Items that might join something and that the channel was not asked for yet. */
  readonly unasked: number;
  /** Items that are still being asked for. */
  readonly waiting: number;
  readonly asked: number;
  readonly trouble: string | undefined;
  readonly joined: readonly MatchView[];
  readonly sure: readonly MatchView[];
  readonly doubts: readonly CandidateMatchView[];
  /** Items for which it has nothing alike. */
  readonly none: readonly ProductView[];
  readonly noneCount: number;
  /** What is still asked of an item that joins. */
  readonly fields: readonly string[];
}

const MAX_SHOWN = 400;
const nothingFound: Matching = { sure: [], doubts: [], items: [], variants: [] };

/** The entries a channel has, beside the items that might join them: which surely are one, and which are in doubt. */
export async function matchingStage(work: FeedContext): Promise<MatchingStage> {
  const { plans, sheet, snapshot, labelOf } = work;
  const { code } = plans.head;
  const { joins } = sheet.delivery;
  const joined = plans.draft.joined ?? {};
  const [rows, nots, joinable, ledger] = await Promise.all([
    entriesOf(code),
    db.select().from(channelEntryNot).where(eq(channelEntryNot.feed, code)),
    joinableSkus(code),
    ledgerOf(code),
  ]);
  const found = new Map(rows.map((row) => [row.sku, row]));
  const lately = searchedRecently();
  const itemAt = (sku: string) => snapshot.items[snapshot.positionOf(sku) ?? -1];
  const wares = new Map<string, CatalogProduct>();
  for (const sku of [...joinable, ...Object.keys(joined)]) {
    const item = itemAt(sku);
    if (item) wares.set(sku, productOf(item, snapshot.families));
  }
  // What the feed's own listings stand on is nothing to join.
  const own = new Set([...ledger.values()].flatMap(({ number }) => number ?? []));
  const entries = new Map<string, CatalogProduct>();
  for (const { sku, entries: said } of rows)
    if (wares.has(sku))
      for (const { entry, values } of said)
        if (!own.has(entry) || ownEntry(joined, sku)?.entry === entry)
          entries.set(entry, { code: entry, values });
  const candidates = joinable.filter((sku) => found.get(sku)?.entries.length);
  const settled = {
    same: new Map(Object.entries(joined).map(([sku, { entry }]) => [sku, entry])),
    not: new Set(nots.map(({ sku, entry }) => pairKey(sku, entry))),
  };
  const key = JSON.stringify([candidates, [...entries], [...settled.same], [...settled.not]]);
  const pairs =
    candidates.length === 0
      ? nothingFound
      : await memoFor(
          snapshot,
          'matches',
          () =>
            inSlices(
              matchProducts(
                candidates.map((sku) => wares.get(sku) as CatalogProduct),
                [...entries.values()],
                settled,
              ),
            ),
          key,
        );
  // One number with another brand or size is a mistake on one side: a person looks which.
  const odd = pairs.items.flatMap((sku): CandidateMatch[] => {
    const ware = wares.get(sku);
    const gtin = asText(ware?.values.gtin);
    const stated = found
      .get(sku)
      ?.entries.filter(
        ({ entry, values }) =>
          entries.has(entry) &&
          gtin !== '' &&
          asText(values.gtin) === gtin &&
          !settled.not.has(pairKey(sku, entry)),
      );
    if (!ware || !stated?.length) return [];
    return [
      {
        sku,
        candidates: stated.map(({ entry, values }) => ({
          sku,
          variant: entry,
          ...similarityOf(ware, { code: entry, values }),
        })),
      },
    ];
  });
  const inDoubt = [...pairs.doubts, ...odd];
  const oddSkus = new Set(odd.map(({ sku }) => sku));
  const ours = (sku: string) => viewOf(wares.get(sku) ?? { code: sku, values: {} }, 'price');
  const theirs = (entry: string) => viewOf(entries.get(entry) ?? { code: entry, values: {} }, 'price');
  const done = rows.filter(({ askedAt }) => askedAt !== null);
  const without = [
    ...pairs.items.filter((sku) => !oddSkus.has(sku)),
    ...joinable.filter((sku) => found.get(sku)?.askedAt && found.get(sku)?.entries.length === 0),
  ];
  return {
    can: joins !== undefined,
    channel: sheet.name,
    unasked: joinable.filter((sku) => {
      const row = found.get(sku);
      return !row || row.trouble !== null || (row.askedAt !== null && row.askedAt <= lately);
    }).length,
    waiting: rows.length - done.length,
    asked: done.length,
    trouble: rows.find(({ trouble }) => trouble !== null)?.trouble ?? undefined,
    joined: Object.entries(joined).map(([sku, { entry, name }]) => {
      const stored = ledger.get(sku);
      return {
        item: ours(sku),
        entry: entries.has(entry) ? theirs(entry) : { ...theirs(entry), name: name || entry },
        supports: [],
        sent: stored?.held ? 'taken' : stored?.pending ? 'waiting' : stored?.refused ? 'refused' : '',
      };
    }),
    sure: pairs.sure.map(({ sku, variant, supports }) => ({
      item: ours(sku),
      entry: theirs(variant),
      supports,
      sent: '',
    })),
    doubts: inDoubt.slice(0, MAX_SHOWN).map(({ sku, candidates: may }) => ({
      item: ours(sku),
      candidates: may.map(({ variant, supports, objects }) => ({
        variant: theirs(variant),
        supports,
        objects,
      })),
    })),
    none: without.slice(0, MAX_SHOWN).map(ours),
    noneCount: without.length,
    fields: (joins?.asked ?? []).map(labelOf),
  };
}

/** Says that an item is not an entry of its feed's channel, or takes that back. */
export async function refuseEntry(code: string, sku: string, entry: string, not: boolean): Promise<void> {
  const person = await currentUser();
  if (not) await db.insert(channelEntryNot).ignore().values({ feed: code, sku, entry });
  else
    await db
      .delete(channelEntryNot)
      .where(
        and(eq(channelEntryNot.feed, code), eq(channelEntryNot.sku, sku), eq(channelEntryNot.entry, entry)),
      );
  await recordActivity(person, `${not ? 'said that' : 'reverted that'} ${sku} is not ${entry}`, code);
}
