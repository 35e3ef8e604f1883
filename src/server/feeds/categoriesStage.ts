import { asText, type Row } from '../../core/catalog/value';
import {
  type CatalogWords,
  type CategoryHit,
  type ConfirmedPlace,
  catalogWords,
  suggestPlaces,
} from '../../core/categories/search';
import { type CategoryTree, isUnder, nameOf, pathName, pathOf } from '../../core/categories/tree';
import { compile } from '../../core/listing/compile';
import { applyEdit } from '../../core/listing/edit';
import { type Plan, placementFor, planOn } from '../../core/listing/plan';
import { type PlaceNeed, placeNeeds } from '../../core/listing/requirements';
import { textOfMarkup } from '../../core/text/markup';
import type { Snapshot } from '../catalog/snapshot';
import { keptFor, numberOf } from '../evaluating/keptFor';
import { today } from '../listings/day';
import { searchOf } from '../words';
import { otherFeeds } from './otherFeeds';
import { type FeedWork, type MerchantCategoryView, merchantCategories } from './work';

export interface PlaceOption {
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

export interface TreeColumn {
  readonly parent: string;
  readonly entries: readonly { code: string; name: string; leaf: boolean; chosen: boolean }[];
}

export interface CategoriesStage {
  readonly categories: readonly MerchantCategoryView[];
  readonly current: string | undefined;
  readonly currentItems: number;
  readonly placed: string | undefined;
  readonly options: readonly PlaceOption[];
  readonly searched: boolean;
  readonly columns: readonly TreeColumn[];
  readonly looked:
    | { code: string; path: string; leaf: boolean; restricted: Restriction | undefined }
    | undefined;
  /** Items of the category at hand that go elsewhere. */
  readonly exceptions: readonly { sku: string; name: string; words: string }[];
  /** The channel's fields, for tables of a place. */
  readonly fields: readonly { readonly code: string; readonly label: string; readonly must: boolean }[];
  readonly needs: readonly (PlaceNeed & { label: string; mapped: boolean; because: string | undefined })[];
  /** The best place of each category that has none yet, the surest first: to be looked over and placed together. */
  readonly likely: readonly (PlaceOption & { category: string; items: number })[];
  /** From this score on a place is chosen for review without being asked. */
  readonly likelyFrom: number;
  /** The same for a single item. */
  readonly singleFrom: number;
  /** Items that have no category and no place of their own, each with the best place for it; the first of them. */
  readonly single: readonly (PlaceOption & { sku: string; name: string })[];
  /** How many such items there are. */
  readonly singleCount: number;
}

/**
 * Of those as sure as this, 98 in 100 are right: `npm run bench -- suggestions`. With the names of a category's items that is
 * so from 95 on, for a name alone from 98.
 */
const likelyFrom = 95;
const singleFrom = 98;

/** The rows of each merchant category, and a few of them to take words from; gathered once for each catalog. */
interface CategoryGroups {
  readonly rows: ReadonlyMap<string, readonly Row[]>;
  readonly words: CatalogWords;
  readonly names: readonly string[];
}

const mostSampled = 40;
/** Items without a category that are looked at together: a place is found in some 10 ms. */
const mostSingle = 40;
/** What the items without a category are asked for as. */
const withoutCategory = '-';

const groupsOf = (snapshot: Snapshot): CategoryGroups =>
  keptFor(snapshot, 'category groups', () => {
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
  rows.slice(0, mostSampled).map((row) => textOfMarkup(asText(row[index.slotOf('description') ?? -1])));

/** Where other feeds place each merchant category: what was published, or drafted where nothing was. */
async function confirmedElsewhere(work: FeedWork): Promise<(category: string) => ConfirmedPlace[]> {
  const { head } = work.plans;
  const others = await otherFeeds(head.code);
  return (category) =>
    others.flatMap(({ settled, channel, head: other, name }): ConfirmedPlace[] => {
      const placement = placementFor(settled.placements, category)?.placement;
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

export interface CategoriesQuery {
  readonly category?: string | undefined;
  readonly at?: string | undefined;
  readonly find?: string | undefined;
  readonly [name: string]: string | undefined;
}

/** The Categories stage: where each merchant category goes, suggestions for the one at hand, and what a place asks for. */
export async function categoriesStage(work: FeedWork, query: CategoriesQuery): Promise<CategoriesStage> {
  const { draft, snapshot, plans, sheet } = work;
  const { tree } = draft.compiled;
  const { language } = plans.head;
  const search = searchOf(tree);
  const categories = merchantCategories(work);
  const current =
    categories.find(({ name }) => name !== '' && name === query.category) ??
    (query.category === withoutCategory
      ? undefined
      : (categories.find(({ name, state }) => name !== '' && state === 'toPlace') ??
        categories.find(({ name }) => name !== '')));
  const nameSlot = snapshot.index.slotOf('name') ?? -1;
  const skuSlot = snapshot.index.slotOf('sku') ?? -1;
  const grouped = groupsOf(snapshot);
  const confirmed = await confirmedElsewhere(work);
  const restricted = (code: string): Restriction | undefined => {
    const found = sheet.branches.find(
      (branch) => branch.restricted && isUnder(tree, code, branch.under),
    )?.restricted;
    return found && { ...found, met: planOn(plans.draft, today()).met.includes(found.document) };
  };
  const option = (
    hit: Pick<CategoryHit, 'code' | 'score' | 'matched'> & { learned?: string | undefined },
  ): PlaceOption => ({
    code: hit.code,
    path: pathName(tree, hit.code, language),
    score: hit.score,
    matched: hit.matched,
    learned: hit.learned,
    restricted: restricted(hit.code),
  });
  const suggestions = (category: string): PlaceOption[] => {
    const rows = grouped.rows.get(category) ?? [];
    const known = confirmed(category);
    const found = keptFor(grouped, `${numberOf(search)} ${category} ${JSON.stringify(known)}`, () =>
      suggestPlaces(search, tree, {
        name: category,
        company: grouped.names,
        itemNames: rows.slice(0, mostSampled).map((row) => asText(row[nameSlot])),
        described: { texts: descriptionsOf(snapshot, rows), catalog: grouped.words },
        confirmed: known,
      }),
    );
    return found.map(option);
  };
  const alone = (grouped.rows.get('') ?? []).filter(
    (row) => plans.draft.exceptions[asText(row[skuSlot])] === undefined,
  );
  const placesOfItem = (row: Row): PlaceOption[] =>
    suggestPlaces(
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
  const rows = current ? (grouped.rows.get(current.name) ?? []) : [];
  const found = query.find ? search.find(query.find, 5).map(option) : undefined;
  const options = found ?? (current ? suggestions(current.name) : []);
  const placement = current ? draft.compiled.plan.placements[current.name] : undefined;
  const placed = placement && 'category' in placement ? placement.category : undefined;
  const looked = query.at && tree.byCode.has(query.at) ? query.at : (placed ?? options[0]?.code);
  const leaf = looked !== undefined && (tree.byCode.get(looked)?.children.length ?? 0) === 0;
  const compiledWith = (change: Plan['placements'][string] | null) =>
    current &&
    compile(
      applyEdit(plans.draft, { edit: 'place', placements: { [current.name]: change } }),
      sheet,
      tree,
      snapshot.index,
    );
  const asks = (): readonly PlaceNeed[] => {
    const [before, after] = [compiledWith(null), compiledWith({ category: looked ?? '' })];
    return before && after ? placeNeeds(before, after, rows).filter(({ newly }) => newly) : [];
  };
  const needs =
    current && looked !== undefined && leaf ? keptFor(draft, `asked ${looked} of ${current.name}`, asks) : [];
  return {
    categories,
    current: current?.name,
    currentItems: current?.items ?? 0,
    placed,
    options,
    searched: found !== undefined,
    columns: columnsOf(tree, looked, language),
    looked: looked
      ? { code: looked, path: pathName(tree, looked, language), leaf, restricted: restricted(looked) }
      : undefined,
    exceptions: rows.flatMap((row) => {
      const sku = asText(row[skuSlot]);
      const own = plans.draft.exceptions[sku];
      if (!own) return [];
      return [
        {
          sku,
          name: asText(row[nameSlot]),
          words: 'category' in own ? pathName(tree, own.category, language) : `left out: ${own.leaveOut}`,
        },
      ];
    }),
    fields: sheet.fields.flatMap(({ code, role, kind, need }) =>
      role === 'id' || kind === 'category'
        ? []
        : [
            {
              code,
              label: work.labelOf(code),
              must: need === 'must' || needs.some(({ field }) => field === code),
            },
          ],
    ),
    needs: needs.map((need) => {
      const field = sheet.fields.find(({ code }) => code === need.field);
      return {
        ...need,
        label: field?.label ?? need.field,
        mapped: plans.draft.fields[need.field] !== undefined,
        because: field?.because,
      };
    }),
    likely: categories
      .flatMap(({ name, state, items }) => {
        const [best] = state === 'toPlace' && name !== '' ? suggestions(name) : [];
        return best ? [{ ...best, category: name, items }] : [];
      })
      .sort((a, b) => b.score - a.score),
    likelyFrom,
    singleFrom,
    singleCount: alone.length,
    single: current
      ? []
      : alone
          .slice(0, mostSingle)
          .flatMap((row) =>
            placesOfItem(row).map((best) => ({
              ...best,
              sku: asText(row[skuSlot]),
              name: asText(row[nameSlot]),
            })),
          )
          .sort((a, b) => b.score - a.score),
  };
}

function columnsOf(tree: CategoryTree, code: string | undefined, language: string): TreeColumn[] {
  const path = code ? pathOf(tree, code) : [];
  const column = (parent: string, codes: readonly string[], chosen: string | undefined): TreeColumn => ({
    parent,
    entries: codes
      .map((one) => ({
        code: one,
        name: nameOf(tree, one, language),
        leaf: (tree.byCode.get(one)?.children.length ?? 0) === 0,
        chosen: one === chosen,
      }))
      .sort((a, b) => a.name.localeCompare(b.name, language)),
  });
  const columns = [column('', tree.roots, path[0])];
  path.forEach((step, depth) => {
    const children = tree.byCode.get(step)?.children ?? [];
    if (children.length > 0) columns.push(column(step, children, path[depth + 1]));
  });
  return columns;
}
