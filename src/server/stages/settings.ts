import { changedCode } from '../../core/catalog/item';
import { asText, codeInLanguage } from '../../core/catalog/value';
import { isUnder } from '../../core/categories/tree';
import { merchantNeedsIn } from '../../core/channels/sheet';
import { attributesOfParts } from '../../core/compose/composition';
import type { Condition } from '../../core/conditions/conditions';
import { columnsOf } from '../../core/import/mapping/mapping';
import { type Proof, planOn } from '../../core/plans/plan';
import { waitingFor } from '../catalog/waiting';
import { listChannels } from '../channels/sheets';
import type { FeedContext } from '../evaluation/feedContext';
import { type FeedDependents, feedDependents } from '../plans/deleting';
import { listFeeds } from '../plans/drafts';
import { today } from '../runtime/calendarDay';
import { memoFor } from '../runtime/memo';

/** Something the merchant must have or do before the channel takes what is sent. */
export interface MerchantCondition {
  readonly code: string;
  readonly label: string;
  readonly words: string;
  readonly met: boolean;
  /** The number or file that shows it, and until when it holds. */
  readonly proof: Proof | undefined;
  /** Whether it held once and holds no more. */
  readonly ended: boolean;
  /** Listings that wait for it; undefined where all do. */
  readonly listings: number | undefined;
}

export interface SettingsStage {
  readonly scope: Condition | undefined;
  readonly taken: number;
  readonly total: number;
  /** What goes with the feed were it deleted. */
  readonly dependents: FeedDependents;
  /** New items that wait until somebody lets them join, by the source that brought them in. */
  readonly waiting: readonly { source: string; count: number }[];
  readonly conditions: readonly MerchantCondition[];
  readonly attributes: readonly { code: string; label: string }[];
  readonly language: string;
  /** What stands where a text has no translation. */
  readonly untranslated: 'main' | 'nothing';
  /** Attributes the feed uses that are written in its language as well, with how many items lack the translation. */
  readonly translated: readonly { code: string; label: string; lacking: number; items: number }[];
  /** Markets that have no feed yet, the channel's own first. */
  readonly free: readonly {
    channel: string;
    name: string;
    country: string;
    language: string;
    currency: string;
  }[];
}

/** How many listings stand in each place of the channel's tree, counted once for a draft. */
const placedIn = (draft: FeedContext['draft']): ReadonlyMap<string, number> =>
  memoFor(draft, 'category mappings', () => {
    const counts = new Map<string, number>();
    const { listings, compiled } = draft;
    for (let i = 0; i < listings.length; i++) {
      if (listings.isLeftOut(i)) continue;
      const place = asText(listings.valueAt(i, compiled.categoryAt));
      counts.set(place, (counts.get(place) ?? 0) + 1);
    }
    return counts;
  });

/** The conditions of the channel on the merchant in this market, and the documents of branches that listings are placed in. */
export function merchantConditions({ sheet, draft, plans }: FeedContext): MerchantCondition[] {
  const met = new Set(planOn(plans.draft, today()).met);
  const status = (code: string) => ({
    met: met.has(code),
    proof: plans.draft.proofs?.[code],
    ended: plans.draft.met.includes(code) && !met.has(code),
  });
  const conditions = merchantNeedsIn(sheet, plans.head.country).map(
    (one): MerchantCondition => ({ ...one, ...status(one.code), listings: undefined }),
  );
  const { tree } = draft.compiled;
  const documents = sheet.branches.flatMap(({ under, restricted }): MerchantCondition[] => {
    if (!restricted) return [];
    let listings = 0;
    for (const [place, count] of placedIn(draft)) if (isUnder(tree, place, under)) listings += count;
    return listings > 0
      ? [
          {
            code: restricted.document,
            label: restricted.document.charAt(0).toUpperCase() + restricted.document.slice(1),
            words: restricted.words,
            ...status(restricted.document),
            listings,
          },
        ]
      : [];
  });
  return [...conditions, ...documents];
}

/** How far the texts that a feed uses are translated into its language. */
function translations({ plans, snapshot }: FeedContext): SettingsStage['translated'] {
  const { index, attributes, rows } = snapshot;
  const used = new Set([
    ...Object.values(plans.draft.fields).flatMap(columnsOf),
    ...attributesOfParts(plans.draft.title?.parts ?? []),
  ]);
  return attributes.flatMap(({ code, label }) => {
    const [main, own] = [index.slotOf(code), index.slotOf(codeInLanguage(code, plans.head.language))];
    if (main === undefined || own === undefined || !used.has(code)) return [];
    const filled = rows.filter((row) => row[main] !== undefined || row[own] !== undefined);
    return [
      { code, label, lacking: filled.filter((row) => row[own] === undefined).length, items: filled.length },
    ];
  });
}

/** A feed's settings beside its stages: which items it takes, what the channel wants of the merchant, and copies of it. */
export async function settingsStage(work: FeedContext): Promise<SettingsStage> {
  const { plans, snapshot, draft } = work;
  const [channels, feeds] = await Promise.all([listChannels(), listFeeds()]);
  const known = new Set(feeds.map(({ channel, country, language }) => `${channel} ${country} ${language}`));
  return {
    scope: plans.draft.scope,
    taken: draft.listings.taken().length,
    total: snapshot.items.length,
    dependents: await feedDependents(plans.head.code),
    waiting: await waitingFor(plans.head.code),
    conditions: merchantConditions(work),
    language: plans.head.language,
    untranslated: plans.draft.untranslated ?? 'main',
    translated: translations(work),
    attributes: [
      { code: 'sku', label: 'SKU' },
      { code: 'family', label: 'Family' },
      { code: changedCode, label: 'Last changed' },
      ...snapshot.attributes.map(({ code, label }) => ({ code, label })),
    ],
    free: channels
      .filter(({ version }) => version !== undefined)
      .sort((a, b) => Number(b.code === plans.head.channel) - Number(a.code === plans.head.channel))
      .flatMap(({ code, name, markets }) =>
        markets.flatMap(({ country, languages, currency }) =>
          languages
            .filter((language) => !known.has(`${code} ${country} ${language}`))
            .map((language) => ({ channel: code, name, country, language, currency })),
        ),
      ),
  };
}
