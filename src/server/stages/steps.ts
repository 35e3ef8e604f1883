import { formatNumber, plural } from '../../core/formatting/formatting';
import type { Steps } from '../../core/listing/steps';
import { feedStages, type StageKey } from '../../core/plans/stages';
import {
  type FeedContext,
  fieldsToFill,
  merchantCategories,
  roleField,
  type StageView,
} from '../evaluation/feedContext';
import { countingIncrementally, countWord } from '../evaluation/incrementalCount';
import { titleMaker } from '../evaluation/titles';
import { memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import { dueOn, toSendCount } from '../submissions/due';
import { familiesToShape } from './families';

const inThousands = (count: number): string => formatNumber(count);

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

const stageFigures = (work: FeedContext): Promise<StageFigures> =>
  memoFor(work.draft, 'stage figures', () => inSlices(countingStages(work)));

function* countingStages(work: FeedContext): Steps<StageFigures> {
  const { sheet, draft } = work;
  const titleField = roleField(sheet, 'title')?.code;
  const categoryField = sheet.fields.find(({ kind }) => kind === 'category')?.code;
  const { title, titleAt, plan } = draft.compiled;
  const maker = title && titleMaker(work, plan.title);
  const begin = () => ({
    total: 0,
    blocked: 0,
    cut: 0,
    fields: 0,
    categories: 0,
    titles: 0,
    words: new Map<string, number>(),
  });
  // What titles are made by; of those written by hand none is shortened.
  const by = JSON.stringify([maker?.by, plan.titlesByHand]);
  const found = yield* countingIncrementally(
    work,
    'stages',
    by,
    begin,
    (state, { state: stands, sku, values, issues }, row, times) => {
      if (stands !== 'leftOut') {
        state.total += times;
        if (stands === 'blocked') state.blocked += times;
        if (maker && !plan.titlesByHand?.[sku] && maker.madeOf(row, values[titleAt]).shortened !== undefined)
          state.cut += times;
      }
      const stages = new Set<'fields' | 'categories' | 'titles'>();
      for (const { check, field, severity, facts } of issues) {
        if (check === 'choice') countWord(state.words, `${field}\n${facts.found}`, times);
        if (severity === 'blocker')
          stages.add(field === titleField ? 'titles' : field === categoryField ? 'categories' : 'fields');
      }
      for (const stage of stages) state[stage] += times;
    },
  );
  const { total, blocked, cut, fields, categories, titles, words } = found;
  return {
    taken: total,
    total: Math.max(1, total),
    blocked,
    pass: { fields: total - fields, categories: total - categories, titles: total - titles },
    titleTrouble: titles,
    cut,
    openWords: words.size,
  };
}

/** How many words of choice fields the channel does not take as they stand; each counts once a field. */
export const openWords = async (work: FeedContext): Promise<number> => (await stageFigures(work)).openWords;

/** Each stage with what is left to do, in words, and the share of listings that pass it. */
export async function stageViews(work: FeedContext): Promise<StageView[]> {
  const { plans } = work;
  const { taken, total, blocked, pass, titleTrouble, cut, openWords: unknown } = await stageFigures(work);
  const toFill = fieldsToFill(work).length;
  const toPlace = merchantCategories(work).filter(({ state }) => state === 'toPlace').length;
  // A channel without categories asks for no mapping of them.
  const hasCategories = work.sheet.fields.some(({ kind }) => kind === 'category');
  const rulesDiffer = JSON.stringify(plans.published?.rules ?? []) !== JSON.stringify(plans.draft.rules);
  const ready = taken - blocked;
  const families = await familiesToShape(work);
  const due = await dueOn(plans.head.code);
  const leaving = due ? toSendCount(due) : 0;
  const views: Readonly<Record<StageKey, Omit<StageView, 'key' | 'label'>>> = {
    fields: {
      words:
        toFill > 0
          ? `${inThousands(toFill)} to fill`
          : unknown > 0
            ? `${inThousands(unknown)} ${plural(unknown, 'value')} to map`
            : 'all mapped',
      tone: toFill + unknown > 0 ? 'blocker' : 'ready',
      share: pass.fields / total,
    },
    categories: {
      words: !hasCategories ? 'not used here' : toPlace > 0 ? `${inThousands(toPlace)} to map` : 'all mapped',
      tone: hasCategories && toPlace > 0 ? 'blocker' : 'ready',
      share: hasCategories ? pass.categories / total : 1,
    },
    families: {
      words:
        families.toShape > 0
          ? `${inThousands(families.toShape)} to fix`
          : families.total > 0
            ? `${inThousands(families.total)} complete`
            : 'none here',
      tone: families.toShape > 0 ? 'draft' : 'ready',
      share: families.total === 0 ? 1 : 1 - families.toShape / families.total,
    },
    titles: {
      words:
        titleTrouble > 0
          ? `${inThousands(titleTrouble)} failing`
          : cut > 0
            ? `${inThousands(cut)} shortened`
            : 'all fit',
      tone: titleTrouble > 0 ? 'blocker' : 'ready',
      share: pass.titles / total,
    },
    rules: {
      words: rulesDiffer
        ? 'changed in draft'
        : plans.draft.rules.length > 0
          ? `${plans.draft.rules.filter(({ on }) => on).length} active`
          : 'none yet',
      tone: rulesDiffer ? 'draft' : 'ready',
      share: 1,
    },
    checks: {
      words: blocked > 0 ? `${inThousands(blocked)} blocked` : 'none blocked',
      tone: blocked > 0 ? 'blocker' : 'ready',
      share: ready / total,
    },
    send: {
      words:
        leaving > 0
          ? `${inThousands(leaving)} to send`
          : due && due.counts.waiting > 0
            ? `${inThousands(due.counts.waiting)} in progress`
            : work.published.listings.first((i) => work.published.listings.stateAt(i) === 'ready') >= 0
              ? 'all sent'
              : 'nothing ready',
      tone: leaving > 0 ? 'ready' : 'plain',
      share: ready / total,
    },
  };
  return feedStages.map(({ key, label }) => ({ key, label, ...views[key] }));
}
