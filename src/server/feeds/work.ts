import { asText, type Value } from '../../core/catalog/value';
import { type CategoryTree, nameOf, pathOf } from '../../core/categories/tree';
import type { Channel } from '../../core/channels/bundle';
import { type Field, fieldWithRole, type Sheet } from '../../core/channels/sheet';
import type { Issue } from '../../core/checks/issue';
import { issueWords } from '../../core/checks/words';
import type { Coverage } from '../../core/listing/coverage';
import { countChanges } from '../../core/listing/edit';
import { outOfScope } from '../../core/listing/evaluate';
import { type Difference, differences, type Impact, impactOf } from '../../core/listing/impact';
import { emptyPlan, placementFor } from '../../core/listing/plan';
import { currentSnapshot, type Snapshot } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { oncePerQuestion } from '../evaluating/asked';
import { keptFor } from '../evaluating/keptFor';
import { type Evaluation, EvaluationFailed, evaluationOf } from '../listings/evaluation';
import { dueOn, toSendCount } from '../submissions/due';
import { type FeedPlans, feedPlans } from './drafts';

/** A feed at work: its plans, the catalog seen through draft and published plan, and what lies between them. */
export interface FeedWork {
  readonly plans: FeedPlans;
  readonly channel: Channel;
  readonly sheet: Sheet;
  readonly snapshot: Snapshot;
  readonly draft: Evaluation;
  readonly published: Evaluation;
  readonly found: readonly Difference[];
  readonly impact: Impact;
  /** How many settings the draft changes. */
  readonly changes: number;
  readonly coverage: readonly Coverage[];
  labelOf(field: string): string;
  wordsOf(issue: Issue): string;
}

/** What lies between two evaluations, kept as long as both are: every part of a page asks for it. */
const between = new WeakMap<Evaluation, { published: Evaluation; found: readonly Difference[] }>();

function differencesBetween(published: Evaluation, draft: Evaluation): readonly Difference[] {
  const known = between.get(draft);
  if (known?.published === published) return known.found;
  const found = differences(published.listings, draft.listings);
  between.set(draft, { published, found });
  return found;
}

/** How many titles of an evaluation had to be shortened. */
function countShortened({ snapshot, draft }: FeedWork): number {
  const { title } = draft.compiled;
  return title
    ? snapshot.rows.filter(
        (row, i) => draft.listings[i]?.state !== 'leftOut' && title.make(row).shortened !== undefined,
      ).length
    : 0;
}

/** A feed at work, loaded once for a question. Undefined where there is none of that code. */
export const loadFeed = oncePerQuestion(async (code: string): Promise<FeedWork | undefined> => {
  const [plans, snapshot] = await Promise.all([feedPlans(code), currentSnapshot()]);
  if (!plans) return undefined;
  const { country, language, currency } = plans.head;
  const channel = await channelOf(plans.head.channel);
  const publishedPlan = plans.published ?? emptyPlan(plans.head.channel, { country, language, currency });
  const published = await evaluationOf(publishedPlan, channel, snapshot);
  const draft = await evaluationOf(plans.draft, channel, snapshot);
  const found = draft === published ? [] : differencesBetween(published, draft);
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
    found,
    impact: impactOf(found, snapshot.items.length),
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

/** Like {@link loadFeed}, for pages that go on without a feed that cannot be computed. */
export async function tryFeed(code: string): Promise<{ work?: FeedWork; failed?: FailedFeed }> {
  try {
    const work = await loadFeed(code);
    return work ? { work } : {};
  } catch (error) {
    if (!(error instanceof EvaluationFailed)) throw error;
    const plans = await feedPlans(code);
    return plans ? { failed: { plans, words: error.message } } : {};
  }
}

const stageKeys = ['fields', 'categories', 'titles', 'rules', 'checks', 'send'] as const;
export type StageKey = (typeof stageKeys)[number];

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
export function fieldsToFill({ sheet, plans, coverage }: FeedWork): Field[] {
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
export const merchantCategories = (work: FeedWork): MerchantCategoryView[] =>
  keptFor(work.draft, 'categories', () => findCategories(work));

function findCategories({ snapshot, draft, plans }: FeedWork): MerchantCategoryView[] {
  const slot = snapshot.index.slotOf('category') ?? -1;
  const { exceptions, placements } = draft.compiled.plan;
  const groups = new Map<string, { items: number; open: number; wanted: boolean }>();
  for (const [at, row] of snapshot.rows.entries()) {
    const name = asText(row[slot]);
    const wanted = draft.listings[at]?.reason !== outOfScope;
    const open = Number(wanted && exceptions[snapshot.skus[at] ?? ''] === undefined);
    const known = groups.get(name);
    if (known) {
      known.items++;
      known.open += open;
      known.wanted ||= wanted;
    } else groups.set(name, { items: 1, open, wanted });
  }
  return [...groups]
    .map(([name, { items, open, wanted }]): MerchantCategoryView => {
      if (!wanted) return { name, items, state: 'leftOut', words: `left out: ${outOfScope}` };
      const placed = name === '' ? undefined : placementFor(placements, name)?.placement;
      if (!placed && open === 0) return { name, items, state: 'placed', words: 'each item by itself' };
      if (!placed)
        return {
          name,
          items,
          state: 'toPlace',
          words: open < items ? `${open} of ${items} to place` : 'to place',
        };
      if ('leaveOut' in placed)
        return { name, items, state: 'leftOut', words: `left out: ${placed.leaveOut}` };
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
        b.items - a.items,
    );
}

/** What the line of stages says of the listings. */
interface StageFigures {
  /** Listings that are not left out; and the same, at least 1, to divide by. */
  readonly taken: number;
  readonly total: number;
  readonly blocked: number;
  /** Listings without a blocker in the stage's fields. */
  readonly pass: Readonly<Record<'fields' | 'categories' | 'titles', number>>;
  /** Listings with a blocker on the title, and titles that were shortened. */
  readonly titleTrouble: number;
  readonly cut: number;
  /** Words of choice fields that the channel does not take as they stand; each counts once a field. */
  readonly openWords: number;
}

const stageFigures = (work: FeedWork): StageFigures =>
  keptFor(work.draft, 'stage figures', () => countStages(work));

function countStages(work: FeedWork): StageFigures {
  const { sheet, draft } = work;
  const titleField = roleField(sheet, 'title')?.code;
  const categoryField = sheet.fields.find(({ kind }) => kind === 'category')?.code;
  const bad = { fields: 0, categories: 0, titles: 0 };
  const words = new Set<string>();
  let [total, blocked] = [0, 0];
  for (const { state, issues } of draft.listings) {
    if (state !== 'leftOut') {
      total++;
      if (state === 'blocked') blocked++;
    }
    const stages = new Set<keyof typeof bad>();
    for (const { check, field, severity, facts } of issues) {
      if (check === 'choice') words.add(`${field}\n${facts.found}`);
      if (severity === 'blocker')
        stages.add(field === titleField ? 'titles' : field === categoryField ? 'categories' : 'fields');
    }
    for (const stage of stages) bad[stage]++;
  }
  return {
    taken: total,
    total: Math.max(1, total),
    blocked,
    pass: {
      fields: total - bad.fields,
      categories: total - bad.categories,
      titles: total - bad.titles,
    },
    titleTrouble: bad.titles,
    cut: countShortened(work),
    openWords: words.size,
  };
}

/** How many words of choice fields the channel does not take as they stand; each counts once a field. */
export const openWords = (work: FeedWork): number => stageFigures(work).openWords;

/** Each stage with what is left to do, in words, and the share of listings that pass it. */
export async function stageViews(work: FeedWork): Promise<StageView[]> {
  const { plans } = work;
  const { taken, total, blocked, pass, titleTrouble, cut, openWords: unknown } = stageFigures(work);
  const toFill = fieldsToFill(work).length;
  const toPlace = merchantCategories(work).filter(({ state }) => state === 'toPlace').length;
  const rulesDiffer = JSON.stringify(plans.published?.rules ?? []) !== JSON.stringify(plans.draft.rules);
  const ready = taken - blocked;
  const due = await dueOn(plans.head.code);
  const leaving = due ? toSendCount(due) : 0;
  return [
    {
      key: 'fields',
      label: 'Fields',
      words: toFill > 0 ? `${toFill} to fill` : unknown > 0 ? `${unknown} words to do` : 'all mapped',
      tone: toFill + unknown > 0 ? 'blocker' : 'ready',
      share: pass.fields / total,
    },
    {
      key: 'categories',
      label: 'Categories',
      words: toPlace > 0 ? `${toPlace} to place` : 'all placed',
      tone: toPlace > 0 ? 'blocker' : 'ready',
      share: pass.categories / total,
    },
    {
      key: 'titles',
      label: 'Titles',
      words: titleTrouble > 0 ? `${titleTrouble} failing` : cut > 0 ? `${cut} shortened` : 'all fit',
      tone: titleTrouble > 0 ? 'blocker' : 'ready',
      share: pass.titles / total,
    },
    {
      key: 'rules',
      label: 'Rules',
      words: rulesDiffer
        ? 'changed in draft'
        : plans.draft.rules.length > 0
          ? `${plans.draft.rules.filter(({ on }) => on).length} at work`
          : 'none yet',
      tone: rulesDiffer ? 'draft' : 'ready',
      share: 1,
    },
    {
      key: 'checks',
      label: 'Checks',
      words: blocked > 0 ? `${blocked} blocked` : 'none blocked',
      tone: blocked > 0 ? 'blocker' : 'ready',
      share: ready / total,
    },
    {
      key: 'send',
      label: 'Send',
      words:
        leaving > 0
          ? `${leaving} to send`
          : due && due.counts.waiting > 0
            ? `${due.counts.waiting} on their way`
            : work.published.listings.some(({ state }) => state === 'ready')
              ? 'all sent'
              : 'nothing ready',
      tone: leaving > 0 ? 'ready' : 'plain',
      share: ready / total,
    },
  ];
}

/** A value as the pages show it: lists by their number where they are long. */
export function shownValue(value: Value | undefined): string {
  if (value === undefined) return '';
  if (typeof value === 'string') return value;
  return value.length === 1 ? (value[0] ?? '') : `${value.length} values`;
}
