import type { Field } from '../../core/channels/sheet';
import { takeAllFrom } from '../../core/channels/suggestions';
import { attributesOf, type Composition } from '../../core/compose/composition';
import type { SuggestedFix, SuggestedLine } from '../../core/fixes/suggestion';
import type { Plan } from '../../core/plans/plan';
import type { FeedContext } from '../evaluation/feedContext';
import { settledStamp } from '../evaluation/otherFeeds';
import { registerView } from '../items/gtinRegister';
import { memoFor } from '../runtime/memo';
import { suggestionsFor } from './fieldSuggestions';
import {
  attributeFor,
  attributeOf,
  changeLine,
  itemLines,
  listingsBlockedBy,
  parted,
  placeLines,
  textLines,
  valueAt,
  wordLines,
  wordsOf,
} from './lines';
/** What fills a field, in any of the merchant's categories. */
export const filling = (plan: Plan, field: string): Composition[] => [
  ...(plan.fields[field] ? [plan.fields[field]] : []),
  ...(plan.perCategory[field] ?? []).map(({ composition }) => composition),
];
const choicesOf = (field: Field) =>
  (field.choices ?? []).map(({ code, labels }) => ({ code, label: labels.en ?? code }));

/** What would clear a cause, as far as it can be worked out. Undefined where the change is made elsewhere: titles, checks of one's own. */
async function suggestFix(work: FeedContext, cause: string, left: number): Promise<SuggestedFix | undefined> {
  const [check, code] = parted(cause);
  const field = work.sheet.fields.find((one) => one.code === code);
  const blocked = await listingsBlockedBy(work, cause);
  // What is held back to be looked at is cleared by a person who has looked.
  if (!field || blocked.length === 0 || check === 'review') return undefined;
  const make = (
    route: SuggestedFix['way'],
    lines: readonly SuggestedLine[],
    options: SuggestedFix['options'] = [],
  ) => ({
    cause,
    field: code,
    way: route,
    lines,
    options,
  });
  if (check === 'choice') return make({ by: 'words' }, await wordLines(work, field), choicesOf(field));
  const wanting = check === 'missing' || check === 'oneOfSets';
  if (field.kind === 'category')
    return wanting ? make({ by: 'places' }, await placeLines(work, blocked)) : undefined;
  const { draft } = work.plans;
  const change = await changeLine(work, field, cause, blocked);
  if (change) return make({ by: 'change', edits: change.edits }, [change.line]);
  if (field.role === 'title' && draft.title) return undefined;
  const attributes = filling(draft, code).flatMap(attributesOf);
  const attribute = attributeFor(work, attributes, blocked);
  if (attribute === 'gtin' && wanting && left > 0)
    return make(
      { by: 'numbers' },
      (await itemLines(work, blocked, attribute, check)).map((line, n) => ({
        ...line,
        to: n < left ? 'next' : '',
        shown: n < left ? 'the next free GTIN' : '',
        sure: n < left,
        why: `${left} free GTINs are left`,
      })),
    );
  if (attribute !== undefined)
    return make(
      { by: 'items', attribute },
      await itemLines(work, blocked, attribute, check),
      wordsOf(work, attribute).map((word) => ({ code: word, label: word })),
    );
  if (!wanting || attributes.length > 0) return undefined;
  const [best] = (await suggestionsFor(work, field)).filter(({ score }) => score >= takeAllFrom);
  if (best) {
    const has = blocked.filter((at) => valueAt(work, at, best.attribute) !== '').length;
    if (has > 0)
      return make({ by: 'field', composition: best.composition }, [
        {
          key: best.attribute,
          what: field.label,
          count: has,
          now: '',
          to: best.attribute,
          shown: attributeOf(work, best.attribute)?.label ?? best.attribute,
          sure: true,
          why: `${best.score} %, ${best.reasons.join('; ')}`,
        },
      ]);
  }
  const lines = textLines(work, blocked);
  return lines.length > 0
    ? make({ by: 'text', everywhere: field.need === 'must' }, lines, choicesOf(field))
    : undefined;
}

interface Kept {
  readonly stamp: string;
  readonly made: Promise<SuggestedFix | undefined>;
}

/** What would clear a cause, found once for a draft, as long as no other feed decides anything: what was said there helps here. */
export async function suggestedFixOf(work: FeedContext, cause: string): Promise<SuggestedFix | undefined> {
  const numbered = work.sheet.fields.find(({ code }) => code === parted(cause)[1])?.role === 'gtin';
  const left = numbered ? (await registerView()).left : 0;
  const stamp = `${await settledStamp('')} ${left}`;
  const stored = memoFor(work.draft, 'proposals', () => new Map<string, Kept>());
  const known = stored.get(cause);
  if (known?.stamp === stamp) return known.made;
  const created = suggestFix(work, cause, left);
  stored.set(cause, { stamp, made: created });
  created.catch(() => stored.delete(cause));
  return created;
}
