import type { Listing } from '../../core/listing/evaluate';
import { keptFor } from '../evaluating/keptFor';
import { dueOn, toSendCount } from '../submissions/due';
import { familiesToShape } from './familiesStage';
import { type FeedWork, fieldsToFill, merchantCategories, roleField, type StageView } from './work';

/** Whether a title was shortened, by the values of its listing, which stay the same as long as nothing of them changes. */
const shortened = new WeakMap<Listing['values'], { readonly by: string; readonly cut: boolean }>();

/** How many titles of an evaluation had to be shortened. */
function countShortened({ snapshot, draft }: FeedWork): number {
  const { title, plan, sheet } = draft.compiled;
  if (!title) return 0;
  const by = JSON.stringify([
    sheet.version,
    plan.title,
    plan.titlesByHand,
    plan.tables,
    // Where a listing is placed tells which pattern counts, if there are several.
    ...(Object.keys(plan.titlesIn ?? {}).length > 0 ? [plan.titlesIn, plan.placements, plan.exceptions] : []),
  ]);
  let count = 0;
  draft.listings.forEach(({ state, values }, at) => {
    const row = snapshot.rows[at];
    if (state === 'leftOut' || !row) return;
    let known = shortened.get(values);
    if (known?.by !== by) {
      known = { by, cut: title.make(row).shortened !== undefined };
      shortened.set(values, known);
    }
    if (known.cut) count++;
  });
  return count;
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
  const families = await familiesToShape(work);
  const due = await dueOn(plans.head.code);
  const leaving = due ? toSendCount(due) : 0;
  return [
    {
      key: 'fields',
      label: 'Fields',
      words:
        toFill > 0
          ? `${toFill} to fill`
          : unknown > 0
            ? `${unknown} ${unknown === 1 ? 'word' : 'words'} to do`
            : 'all mapped',
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
      key: 'families',
      label: 'Families',
      words:
        families.toShape > 0
          ? `${families.toShape} to shape`
          : families.total > 0
            ? `${families.total} stand well`
            : 'none here',
      tone: families.toShape > 0 ? 'draft' : 'ready',
      share: families.total === 0 ? 1 : 1 - families.toShape / families.total,
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
