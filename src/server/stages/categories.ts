import { asText } from '../../core/catalog/value';
import { type CategoryTree, nameOf, pathName, pathOf } from '../../core/categories/tree';
import { compile } from '../../core/listing/compile';
import { type CategoryRequirement, categoryRequirements } from '../../core/listing/requirements';
import { applyEdit } from '../../core/plans/edit';
import type { Plan } from '../../core/plans/plan';
import { searchOf } from '../catalog/dictionaries';
import { itemNameIn } from '../catalog/snapshot';
import { type FeedContext, type MerchantCategoryView, merchantCategories } from '../evaluation/feedContext';
import {
  type CategoryOption,
  categorySuggester,
  likelyFrom,
  type Restriction,
  singleFrom,
} from '../fixes/categorySuggestions';
import { memoFor } from '../runtime/memo';

export interface TreeColumn {
  readonly parent: string;
  readonly entries: readonly { code: string; name: string; leaf: boolean; chosen: boolean }[];
}

export interface CategoriesStage {
  readonly categories: readonly MerchantCategoryView[];
  readonly current: string | undefined;
  readonly currentItems: number;
  readonly placed: string | undefined;
  readonly options: readonly CategoryOption[];
  readonly searched: boolean;
  readonly columns: readonly TreeColumn[];
  readonly looked:
    | { code: string; path: string; leaf: boolean; restricted: Restriction | undefined }
    | undefined;
  /** Items of the category at hand that go elsewhere. */
  readonly exceptions: readonly { sku: string; name: string; words: string }[];
  /** The channel's fields, for tables of a place. */
  readonly fields: readonly { readonly code: string; readonly label: string; readonly must: boolean }[];
  readonly needs: readonly (CategoryRequirement & {
    label: string;
    mapped: boolean;
    because: string | undefined;
  })[];
  /** The best place of each category that has none yet, the surest first: to be looked over and placed together. */
  readonly likely: readonly (CategoryOption & { category: string; items: number })[];
  /** From this score on a place is chosen for review without being asked. */
  readonly likelyFrom: number;
  /** The same for a single item. */
  readonly singleFrom: number;
  /** Items that have no category and no place of their own, each with the best place for it; the first of them. */
  readonly single: readonly (CategoryOption & { sku: string; name: string })[];
  /** How many such items there are. */
  readonly singleCount: number;
}

/** What the items without a category are asked for as. */
const withoutCategory = '-';

export interface CategoriesQuery {
  readonly category?: string | undefined;
  readonly at?: string | undefined;
  readonly find?: string | undefined;
  readonly [name: string]: string | undefined;
}

/** The Categories stage: where each merchant category goes, suggestions for the one at hand, and what a place asks for. */
export async function categoriesStage(work: FeedContext, query: CategoriesQuery): Promise<CategoriesStage> {
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
  const nameOf = itemNameIn(snapshot);
  const skuSlot = snapshot.index.slotOf('sku') ?? -1;
  const suggester = await categorySuggester(work);
  const { option, restricted } = suggester;
  const rows = current ? suggester.rowsOf(current.name) : [];
  const found = query.find ? search.find(query.find, 5).map(option) : undefined;
  const options = found ?? (current ? suggester.suggestions(current.name) : []);
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
  const asks = (): readonly CategoryRequirement[] => {
    const [before, after] = [compiledWith(null), compiledWith({ category: looked ?? '' })];
    return before && after ? categoryRequirements(before, after, rows).filter(({ newly }) => newly) : [];
  };
  const needs =
    current && looked !== undefined && leaf
      ? memoFor(draft, 'category requirements', asks, `${looked} ${current.name}`)
      : [];
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
          name: nameOf(snapshot.positionOf(sku) ?? -1),
          words: 'category' in own ? pathName(tree, own.category, language) : `excluded: ${own.leaveOut}`,
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
    likely: suggester.likely(),
    likelyFrom,
    singleFrom,
    singleCount: suggester.singleCount,
    single: current ? [] : suggester.single(),
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
