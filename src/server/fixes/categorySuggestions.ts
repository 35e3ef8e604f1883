import { asText, type Row } from '../../core/catalog/value';
import {
  type CatalogWords,
  type CategoryHit,
  type ConfirmedCategory,
  catalogWords,
  suggestCategories,
} from '../../core/categories/search';
import { isUnder, pathName } from '../../core/categories/tree';
import { textOfMarkup } from '../../core/markup/markup';
import { categoryMappingFor, planOn } from '../../core/plans/plan';
import { searchOf } from '../catalog/dictionaries';
import { itemNameIn, type Snapshot } from '../catalog/snapshot';
import { type FeedContext, merchantCategories } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { today } from '../runtime/calendarDay';
import { identityOf, memoFor } from '../runtime/memo';

export interface CategoryOption {
  readonly code: string;
  readonly path: string;
  readonly score: number;
  readonly matched: readonly string[];
  /** Where the same category was placed alike before. */
  readonly learned: string | undefined;
  readonly restricted: Restriction | undefined;
}

/** A branch that takes listings only with a document. */
export interface Restriction {
  readonly document: string;
  readonly words: string;
  readonly met: boolean;
}

/**
 * Of those as sure as this, 98 in 100 are right: `npm run bench -- suggestions`. With the names of a category's items that is
 * so from 95 on, for a name alone from 98.
 */
export const likelyFrom = 95;

export const singleFrom = 98;

/** The rows of each merchant category, and a few of them to take words from; gathered once for each catalog. */
interface CategoryGroups {
  readonly rows: ReadonlyMap<string, readonly Row[]>;
  readonly words: CatalogWords;
  readonly names: readonly string[];
}

const MAX_SAMPLED = 40;

/** Items without a category that are looked at together: a place is found in some 10 ms. */
const MAX_SINGLE = 40;

const groupsOf = (snapshot: Snapshot): CategoryGroups =>
  memoFor(snapshot, 'category groups', () => {
    const slot = snapshot.index.slotOf('category') ?? -1;
    const rows = new Map<string, Row[]>();
    for (const row of snapshot.rows) {
      const name = asText(row[slot]);
      const group = rows.get(name);
      if (group) group.push(row);
      else rows.set(name, [row]);
    }
    const sampled = [...rows.values()].flatMap((group) => descriptionsOf(snapshot, group));
    return { rows, words: catalogWords(sampled), names: [...rows.keys()] };
  });

const descriptionsOf = ({ index }: Snapshot, rows: readonly Row[]): string[] =>
  rows.slice(0, MAX_SAMPLED).map((row) => textOfMarkup(asText(row[index.slotOf('description') ?? -1])));

/** Where other feeds place each merchant category: what was published, or drafted where nothing was. */
async function confirmedElsewhere(work: FeedContext): Promise<(category: string) => ConfirmedCategory[]> {
  const { head } = work.plans;
  const others = await otherFeeds(head.code);
  return (category) =>
    others.flatMap(({ settled, channel, head: other, name }): ConfirmedCategory[] => {
      const placement = categoryMappingFor(settled.placements, category)?.placement;
      if (!placement || !('category' in placement)) return [];
      const names = channel.tree.byCode.get(placement.category)?.names ?? {};
      return [
        {
          words: Object.values(names).join(' '),
          where: name,
          ...(other.channel === head.channel ? { code: placement.category } : {}),
        },
      ];
    });
}

/** What is suggested for the merchant's categories, and for items that have none. */
export interface CategorySuggester {
  /** A hit of a search as a page shows it. */
  option(
    hit: Pick<CategoryHit, 'code' | 'score' | 'matched'> & { learned?: string | undefined },
  ): CategoryOption;
  /** The document that a category of the channel asks for, where it does. */
  restricted(code: string): Restriction | undefined;
  /** The channel's categories for one of the merchant's, the likeliest first. */
  suggestions(category: string): readonly CategoryOption[];
  /** The rows of one of the merchant's categories. */
  rowsOf(category: string): readonly Row[];
  /** The best suggestion for each category that has none yet, the surest first. */
  likely(): readonly (CategoryOption & { readonly category: string; readonly items: number })[];
  /** How many items have neither a category nor an exception of their own. */
  readonly singleCount: number;
  /** The best suggestion for each of the first such items, the surest first. */
  single(): readonly (CategoryOption & { readonly sku: string; readonly name: string })[];
}

export async function categorySuggester(work: FeedContext): Promise<CategorySuggester> {
  const { draft, snapshot, plans, sheet } = work;
  const { tree } = draft.compiled;
  const { language } = plans.head;
  const search = searchOf(tree);
  const nameSlot = snapshot.index.slotOf('name') ?? -1;
  const nameOf = itemNameIn(snapshot);
  const skuSlot = snapshot.index.slotOf('sku') ?? -1;
  const grouped = groupsOf(snapshot);
  const confirmed = await confirmedElsewhere(work);
  const rowsOf = (category: string) => grouped.rows.get(category) ?? [];
  const restricted: CategorySuggester['restricted'] = (code) => {
    const found = sheet.branches.find(
      (branch) => branch.restricted && isUnder(tree, code, branch.under),
    )?.restricted;
    return found && { ...found, met: planOn(plans.draft, today()).met.includes(found.document) };
  };
  const option: CategorySuggester['option'] = (hit) => ({
    code: hit.code,
    path: pathName(tree, hit.code, language),
    score: hit.score,
    matched: hit.matched,
    learned: hit.learned,
    restricted: restricted(hit.code),
  });
  const suggestions = (category: string): CategoryOption[] => {
    const rows = rowsOf(category);
    const known = confirmed(category);
    const found = memoFor(
      grouped,
      'category suggestions',
      () =>
        suggestCategories(search, tree, {
          name: category,
          company: grouped.names,
          itemNames: rows.slice(0, MAX_SAMPLED).map((row) => asText(row[nameSlot])),
          described: { texts: descriptionsOf(snapshot, rows), catalog: grouped.words },
          confirmed: known,
        }),
      `${identityOf(search)} ${category} ${JSON.stringify(known)}`,
    );
    return found.map(option);
  };
  const alone = rowsOf('').filter((row) => plans.draft.exceptions[asText(row[skuSlot])] === undefined);
  const bestOfItem = (row: Row): CategoryOption[] =>
    suggestCategories(
      search,
      tree,
      {
        name: asText(row[nameSlot]),
        company: grouped.names.filter((name) => name !== ''),
        itemNames: [],
        described: { texts: descriptionsOf(snapshot, [row]), catalog: grouped.words },
      },
      1,
    ).map(option);
  return {
    option,
    restricted,
    suggestions,
    rowsOf,
    likely: () =>
      merchantCategories(work)
        .flatMap(({ name, state, items }) => {
          const [best] = state === 'toPlace' && name !== '' ? suggestions(name) : [];
          return best ? [{ ...best, category: name, items }] : [];
        })
        .sort((a, b) => b.score - a.score),
    singleCount: alone.length,
    single: () =>
      alone
        .slice(0, MAX_SINGLE)
        .flatMap((row) =>
          bestOfItem(row).map((best) => ({
            ...best,
            sku: asText(row[skuSlot]),
            name: nameOf(snapshot.positionOf(asText(row[skuSlot])) ?? -1),
          })),
        )
        .sort((a, b) => b.score - a.score),
  };
}
