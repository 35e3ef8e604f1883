import { asText } from '../../core/catalog/value';
import { type PlaceNeed, placeNeeds } from '../../core/categories/requirements';
import {
  type CategoryHit,
  type CategorySearch,
  searchTree,
  suggestPlaces,
} from '../../core/categories/search';
import { type CategoryTree, nameOf, pathName, pathOf } from '../../core/categories/tree';
import { applyEdit } from '../../core/listing/edit';
import { evaluationOf } from '../listings/evaluation';
import { type FeedWork, type MerchantCategoryView, merchantCategories } from './work';

const searches = new WeakMap<CategoryTree, CategorySearch>();

/** The search over a tree, built once. */
function searchOf(tree: CategoryTree): CategorySearch {
  const known = searches.get(tree);
  if (known) return known;
  const search = searchTree(tree);
  searches.set(tree, search);
  return search;
}

export interface PlaceOption {
  readonly code: string;
  readonly path: string;
  readonly score: number;
  readonly matched: readonly string[];
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
  readonly looked: { code: string; path: string; leaf: boolean } | undefined;
  readonly needs: readonly (PlaceNeed & { label: string; mapped: boolean; because: string | undefined })[];
  /** Placements sure enough to be reviewed together. */
  readonly likely: readonly { category: string; code: string; path: string; score: number; items: number }[];
}

/** From this score on a place is offered for review together with others. */
const likelyFrom = 60;

export interface CategoriesQuery {
  readonly category?: string | undefined;
  readonly at?: string | undefined;
  readonly find?: string | undefined;
  readonly [name: string]: string | undefined;
}

/** The Categories stage: where each merchant category goes, suggestions for the one at hand, and what a place asks for. */
export function categoriesStage(work: FeedWork, query: CategoriesQuery): CategoriesStage {
  const { draft, snapshot, plans, sheet } = work;
  const { tree } = draft.compiled;
  const { language } = plans.head;
  const search = searchOf(tree);
  const categories = merchantCategories(work);
  const current =
    categories.find(({ name }) => name !== '' && name === query.category) ??
    categories.find(({ name, state }) => name !== '' && state === 'toPlace') ??
    categories.find(({ name }) => name !== '');
  const slot = snapshot.index.slotOf('category') ?? -1;
  const nameSlot = snapshot.index.slotOf('name') ?? -1;
  const rowsOf = (category: string) => snapshot.rows.filter((row) => asText(row[slot]) === category);
  const option = (hit: Pick<CategoryHit, 'code' | 'score' | 'matched'>): PlaceOption => ({
    code: hit.code,
    path: pathName(tree, hit.code, language),
    score: hit.score,
    matched: hit.matched,
  });
  const suggestions = (category: string) =>
    suggestPlaces(search, tree, {
      name: category,
      itemNames: rowsOf(category).map((row) => asText(row[nameSlot])),
    }).map(option);
  const rows = current ? rowsOf(current.name) : [];
  const found = query.find ? search.find(query.find, 5).map(option) : undefined;
  const options = found ?? (current ? suggestions(current.name) : []);
  const placement = current ? draft.compiled.plan.placements[current.name] : undefined;
  const placed = placement && 'category' in placement ? placement.category : undefined;
  const looked = query.at && tree.byCode.has(query.at) ? query.at : (placed ?? options[0]?.code);
  const leaf = looked !== undefined && (tree.byCode.get(looked)?.children.length ?? 0) === 0;
  const needs =
    current && looked && leaf
      ? placeNeeds(
          evaluationOf(
            applyEdit(plans.draft, { edit: 'place', placements: { [current.name]: null } }),
            work.channel,
            snapshot,
          ).compiled,
          evaluationOf(
            applyEdit(plans.draft, { edit: 'place', placements: { [current.name]: { category: looked } } }),
            work.channel,
            snapshot,
          ).compiled,
          rows,
        ).filter(({ newly }) => newly)
      : [];
  return {
    categories,
    current: current?.name,
    currentItems: current?.items ?? 0,
    placed,
    options,
    searched: found !== undefined,
    columns: columnsOf(tree, looked, language),
    looked: looked ? { code: looked, path: pathName(tree, looked, language), leaf } : undefined,
    needs: needs.map((need) => {
      const field = sheet.fields.find(({ code }) => code === need.field);
      return {
        ...need,
        label: field?.label ?? need.field,
        mapped: plans.draft.fields[need.field] !== undefined,
        because: field?.because,
      };
    }),
    likely: categories.flatMap(({ name, state, items }) => {
      if (state !== 'toPlace' || name === '') return [];
      const [best] = suggestions(name);
      return best && best.score >= likelyFrom
        ? [{ category: name, code: best.code, path: best.path, score: best.score, items }]
        : [];
    }),
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
