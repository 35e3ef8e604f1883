import { asText, type Value } from '../../core/catalog/value';
import { type CategoryTree, nameOf, pathOf } from '../../core/categories/tree';
import type { Channel } from '../../core/channels/bundle';
import { type Field, fieldWithRole, type Sheet } from '../../core/channels/sheet';
import type { Issue } from '../../core/checks/issue';
import { issueWords } from '../../core/checks/messages';
import { counted } from '../../core/formatting/formatting';
import type { Coverage } from '../../core/listing/coverage';
import { isOutside, outOfScope } from '../../core/listing/evaluate';
import {
  type Between,
  countingBetween,
  type Difference,
  differences,
  type Impact,
  type Pair,
  withEntries,
} from '../../core/listing/impact';
import { touchedBy } from '../../core/listing/incremental/touched';
import { countChanges } from '../../core/plans/editWords';
import { categoryMappingFor, emptyPlan } from '../../core/plans/plan';
import type { StageKey } from '../../core/plans/stages';
import { currentSnapshot, type Snapshot } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { EvaluationFailed } from '../monitoring/failure';
import { type FeedPlans, feedPlans } from '../plans/drafts';
import { memoPerRequest } from '../rpc/rpc';
import { identityOf, Memo, memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import { type Evaluation, evaluationOf } from './evaluation';
import { countIncrementally } from './incrementalCount';

/** A feed at work: its plans, the catalog seen through draft and published plan, and what lies between them. */
export interface FeedContext {
  readonly plans: FeedPlans;
  readonly channel: Channel;
  readonly sheet: Sheet;
  readonly snapshot: Snapshot;
  readonly draft: Evaluation;
  readonly published: Evaluation;
  readonly impact: Impact;
  /** By field: how many listings the draft gives another value. */
  readonly changedFields: Between['fields'];
  /** Every listing that the draft changes. */
  found(): readonly Difference[];
  /** How many settings the draft changes. */
  readonly changes: number;
  readonly coverage: readonly Coverage[];
  labelOf(field: string): string;
  wordsOf(issue: Issue): string;
}

interface Found {
  readonly found: readonly Difference[];
  readonly entries: Impact['entries'];
}

/** What lies between two evaluations: every part of a page asks for it. */
export const differencesBetween = (published: Evaluation, draft: Evaluation): Found =>
  memoFor(draft, 'differences', () => findDifferences(published, draft), String(identityOf(published)));

function findDifferences(published: Evaluation, draft: Evaluation): Found {
  const shown = ({ compiled: { sheet, plan }, listings }: Evaluation) => ({
    sheet,
    families: plan.families,
    listings,
  });
  const all = differences(published.listings, draft.listings);
  return withEntries(all, shown(published), shown(draft));
}

/** Whether families are one entry of the file each in one of two evaluations alone, or other ones are. */
const entriesDiffer = (published: Evaluation, draft: Evaluation): boolean => {
  const [was, is] = [published, draft].map(({ compiled }) => compiled.plan.families);
  return (was?.asOne || is?.asOne) === true && JSON.stringify(was) !== JSON.stringify(is);
};

/** The last count between published and draft, by feed, from which the next one goes on. */
const lastBetween = new Memo<Between, readonly [published: Evaluation, draft: Evaluation]>({
  owner: 'last impact',
  maxEntries: 100,
});

const pairOf = (published: Evaluation, draft: Evaluation): Pair => ({
  before: published.listings,
  after: draft.listings,
  fields: touchedBy(published.compiled, draft.compiled)?.fields,
});

async function countBetween(feed: string, published: Evaluation, draft: Evaluation): Promise<Between> {
  const last = lastBetween.withDependencies(feed);
  const [before, after] = last?.dependencies ?? [];
  if (last && before === published && after === draft) return last.value;
  const known =
    last && before && after && before.compiled.sheet === draft.compiled.sheet
      ? { between: last.value, of: pairOf(before, after) }
      : undefined;
  const between = await inSlices(countingBetween(pairOf(published, draft), known));
  lastBetween.set(feed, between, published, draft);
  return between;
}

/** A feed at work, loaded once for a question. Undefined where there is none of that code. */
export const loadFeedContext = memoPerRequest(async (code: string): Promise<FeedContext | undefined> => {
  const [plans, snapshot] = await Promise.all([feedPlans(code), currentSnapshot()]);
  if (!plans) return undefined;
  const { country, language, currency } = plans.head;
  const channel = await channelOf(plans.head.channel);
  const publishedPlan = plans.published ?? emptyPlan(plans.head.channel, { country, language, currency });
  const published = await evaluationOf(publishedPlan, channel, snapshot);
  const draft = await evaluationOf(plans.draft, channel, snapshot);
  const between = await countBetween(code, published, draft);
  const { fields } = between;
  // A choice of how families are shown changes the file where it changes no listing.
  const shown = entriesDiffer(published, draft) ? differencesBetween(published, draft) : undefined;
  const impact = shown?.entries
    ? { ...between.impact, changed: shown.found.length, entries: shown.entries }
    : between.impact;
  const { sheet } = channel;
  const labels = new Map(sheet.fields.map((field) => [field.code, field.label]));
  const labelOf = (field: string) => labels.get(field) ?? field;
  return {
    plans,
    channel,
    sheet,
    snapshot,
    draft,
    published,
    impact,
    changedFields: fields,
    found: () => (draft === published ? [] : differencesBetween(published, draft).found),
    changes: countChanges(publishedPlan, plans.draft),
    coverage: draft.coverage,
    labelOf,
    wordsOf: (issue) => issueWords(issue, labelOf),
  };
});

/** A feed that could not be computed: what is known of it without. */
export interface FailedFeed {
  readonly plans: FeedPlans;
  readonly words: string;
}

/** Like {@link loadFeedContext}, for pages that go on without a feed that cannot be computed. */
export async function tryFeed(code: string): Promise<{ work?: FeedContext; failed?: FailedFeed }> {
  try {
    const work = await loadFeedContext(code);
    return work ? { work } : {};
  } catch (error) {
    if (!(error instanceof EvaluationFailed)) throw error;
    const plans = await feedPlans(code);
    return plans ? { failed: { plans, words: error.message } } : {};
  }
}

export interface StageView {
  readonly key: StageKey;
  readonly label: string;
  readonly words: string;
  readonly tone: 'ready' | 'blocker' | 'draft' | 'plain';
  /** Share of the listings that pass this stage, 0 to 1. */
  readonly share: number;
}

/** The field that holds the listing's category, title and the like. */
export const roleField = (sheet: Sheet, role: Parameters<typeof fieldWithRole>[1]): Field | undefined =>
  fieldWithRole(sheet, role);

/** Fields that must be filled somewhere and that nothing fills, and fields that lack values where they must not. */
export function fieldsToFill({ sheet, plans, coverage }: FeedContext): Field[] {
  return sheet.fields.filter(
    (field, at) =>
      field.role !== 'title' &&
      field.kind !== 'category' &&
      !plans.draft.fields[field.code] &&
      (field.need === 'must' || (coverage[at]?.missing ?? 0) > 0),
  );
}

export interface MerchantCategoryView {
  readonly name: string;
  readonly items: number;
  readonly state: 'toPlace' | 'placed' | 'leftOut';
  readonly words: string;
}

/** A place by its last two names: enough to know it again in a narrow list. */
const placeWords = (tree: CategoryTree, code: string, language: string): string =>
  pathOf(tree, code)
    .slice(-2)
    .map((step) => nameOf(tree, step, language))
    .join(', ');

/** The merchant's categories with their items and where they go. Items without a category stand last, as "". */
export const merchantCategories = (work: FeedContext): MerchantCategoryView[] =>
  memoFor(work.draft, 'categories', () => findCategories(work));

interface CategoryCount {
  items: number;
  /** Of the items those that the feed takes, and of these those without a place of their own. */
  wanted: number;
  open: number;
}

function findCategories(work: FeedContext): MerchantCategoryView[] {
  const { snapshot, draft, plans } = work;
  const slot = snapshot.index.slotOf('category') ?? -1;
  const { exceptions, placements } = draft.compiled.plan;
  const groups = countIncrementally(
    work,
    'categories',
    JSON.stringify(Object.keys(exceptions)),
    () => new Map<string, CategoryCount>(),
    (counts, { sku, reason }, row, times) => {
      const name = asText(row[slot]);
      const count = counts.get(name) ?? { items: 0, wanted: 0, open: 0 };
      counts.set(name, count);
      count.items += times;
      if (count.items === 0) counts.delete(name);
      if (isOutside(reason)) return;
      count.wanted += times;
      if (exceptions[sku] === undefined) count.open += times;
    },
  );
  return [...groups]
    .map(([name, { items, open, wanted }]): MerchantCategoryView => {
      if (wanted === 0) return { name, items, state: 'leftOut', words: `excluded: ${outOfScope}` };
      const placed = name === '' ? undefined : categoryMappingFor(placements, name)?.placement;
      if (!placed && open === 0) return { name, items, state: 'placed', words: 'each item mapped by itself' };
      if (!placed)
        return {
          name,
          items,
          state: 'toPlace',
          words: open < items ? `${open} of ${items} to map` : 'to map',
        };
      if ('leaveOut' in placed)
        return { name, items, state: 'leftOut', words: `excluded: ${placed.leaveOut}` };
      return {
        name,
        items,
        state: 'placed',
        words: placeWords(draft.compiled.tree, placed.category, plans.head.language),
      };
    })
    .sort(
      (a, b) =>
        Number(a.name === '') - Number(b.name === '') ||
        Number(b.state === 'toPlace') - Number(a.state === 'toPlace') ||
        b.items - a.items ||
        (a.name < b.name ? -1 : 1),
    );
}

/** A value as the pages show it: lists by their number where they are long. */
export function shownValue(value: Value | undefined): string {
  if (value === undefined) return '';
  if (typeof value === 'string') return value;
  return value.length === 1 ? (value[0] ?? '') : counted(value.length, 'value');
}
