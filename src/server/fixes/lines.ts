import { type Attribute, isList } from '../../core/catalog/attributes';
import { readValue, shownText } from '../../core/catalog/reading';
import { asText, listSeparator } from '../../core/catalog/value';
import type { Field } from '../../core/channels/sheet';
import type { Issue } from '../../core/checks/issue';
import { InputError } from '../../core/errors/inputError';
import { candidatesFor } from '../../core/fixes/candidates';
import { groundWords } from '../../core/fixes/groundWords';
import { itemOfCategory, itemPlaced, type SuggestedLine } from '../../core/fixes/suggestion';
import { mendLinks, sitesIn, type ValueInference } from '../../core/fixes/valueInference';
import { making } from '../../core/listing/steps';
import { applyEdit, type PlanEdit } from '../../core/plans/edit';
import { takeWordsFrom } from '../../core/values/suggestions';
import type { Snapshot } from '../catalog/snapshot';
import { blockerCounts } from '../evaluation/blockerCounts';
import { triedOn } from '../evaluation/evaluation';
import type { FeedContext } from '../evaluation/feedContext';
import { valueModelOf } from '../evaluation/valueModel';
import { memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import { categorySuggester, likelyFrom, singleFrom } from './categorySuggestions';
import { choicesFor } from './valueChoices';

/** From this confidence on a choice is put forward for a word. */
const offeredFrom = 60;
/** Words of an attribute that are offered while a value is typed. */
const MAX_OFFERED = 60;

export const parted = (cause: string): readonly [check: string, field: string] => {
  const at = cause.indexOf(':');
  return [cause.slice(0, at), cause.slice(at + 1)];
};

/** Places of the listings that a cause blocks; where it blocks none, of those that it is a risk or a tip for. */
export async function listingsBlockedBy(work: FeedContext, cause: string): Promise<readonly number[]> {
  const held = (await blockerCounts(work)).causes.get(cause);
  return held ? (held.blocked.length > 0 ? held.blocked : held.told) : [];
}

export const attributeOf = ({ snapshot }: FeedContext, code: string | undefined): Attribute | undefined =>
  snapshot.attributes.find((one) => one.code === code);

export const valueAt = ({ snapshot }: FeedContext, at: number, code: string): string =>
  asText(snapshot.rows[at]?.[snapshot.index.slotOf(code) ?? -1]);

const nothing: Omit<SuggestedLine, 'key' | 'what' | 'count'> = {
  now: '',
  to: '',
  shown: '',
  sure: false,
  why: '',
};

/** Words of a choice field that the channel does not take, with the choice each is likely to mean. */
export async function wordLines(work: FeedContext, field: Field): Promise<SuggestedLine[]> {
  const suggest = await choicesFor(work, field);
  const held = (await blockerCounts(work)).causes.get(`choice:${field.code}`);
  const counts = new Map<string, number>();
  for (const at of new Set([...(held?.blocked ?? []), ...(held?.told ?? [])]))
    for (const issue of work.draft.listings.issuesAt(at))
      if (issue.check === 'choice' && issue.field === field.code)
        counts.set(issue.facts.found, (counts.get(issue.facts.found) ?? 0) + 1);
  return [...counts]
    .map(([word, count]): SuggestedLine => {
      const [best] = suggest(word);
      return {
        ...nothing,
        key: word,
        what: word,
        count,
        ...(best &&
          best.score >= offeredFrom && {
            to: best.choice,
            shown: best.choice,
            sure: best.score >= takeWordsFrom,
            why: `${best.score} %, ${best.reasons.join('; ')}`,
          }),
      };
    })
    .sort((a, b) => b.count - a.count);
}

/** Where the categories go that are not placed, and items that have none: those of the category of their family as well. */
export async function placeLines(work: FeedContext, held: readonly number[]): Promise<SuggestedLine[]> {
  const { snapshot } = work;
  const suggester = await categorySuggester(work);
  const counts = new Map<string, number>();
  for (const at of held) {
    const category = valueAt(work, at, 'category');
    counts.set(category, (counts.get(category) ?? 0) + 1);
  }
  const best = new Map(suggester.likely().map((one) => [one.category, one]));
  const alone = new Map(suggester.single().map((one) => [one.sku, one]));
  const without = held.filter((at) => valueAt(work, at, 'category') === '');
  const worked = without.length > 0 ? await valueModelOf(snapshot, 'category') : () => undefined;
  counts.delete('');
  return [
    ...[...counts].map(([category, count]): SuggestedLine => {
      const place = best.get(category);
      return {
        ...nothing,
        key: category,
        what: category,
        count,
        ...(place && {
          to: place.code,
          shown: place.path,
          sure: place.score >= likelyFrom,
          why: place.learned
            ? `mapped the same way in ${place.learned}`
            : `${place.score} %, ${place.matched.join(', ')}`,
        }),
      };
    }),
    ...without.map((at): SuggestedLine => {
      const sku = snapshot.skus[at] ?? '';
      const own = worked(at);
      const place = alone.get(sku);
      const what = valueAt(work, at, 'name') || sku;
      if (own)
        return {
          key: `${itemOfCategory}${sku}`,
          what,
          count: 1,
          now: '',
          to: own.value,
          shown: own.value,
          sure: own.sure,
          why: groundWords(own),
        };
      return {
        ...nothing,
        key: `${itemPlaced}${sku}`,
        what,
        count: 1,
        ...(place && {
          to: place.code,
          shown: place.path,
          sure: place.score >= singleFrom,
          why: `${place.score} %, ${place.matched.join(', ')}`,
        }),
      };
    }),
  ];
}

/** How many items of each category have an attribute; counted once for a catalog. */
const filledByCategory = (snapshot: Snapshot, code: string): ReadonlyMap<string, number> =>
  memoFor(
    snapshot,
    'filled by category',
    () => {
      const counts = new Map<string, number>();
      const [slot, categorySlot] = [code, 'category'].map((one) => snapshot.index.slotOf(one) ?? -1);
      for (const row of snapshot.rows) {
        if (row[slot ?? -1] === undefined) continue;
        const category = asText(row[categorySlot ?? -1]);
        counts.set(category, (counts.get(category) ?? 0) + 1);
      }
      return counts;
    },
    code,
  );

/** The attribute in which these items' value belongs: of those that fill the field, the one most items of their categories have. */
export function attributeFor(
  work: FeedContext,
  codes: readonly string[],
  held: readonly number[],
): string | undefined {
  const { snapshot } = work;
  const own = codes.filter((code) => snapshot.attributes.some((one) => one.code === code));
  if (own.length < 2) return own[0];
  const categories = new Set(held.map((at) => valueAt(work, at, 'category')));
  const count = (code: string): number => {
    const filled = filledByCategory(snapshot, code);
    return [...categories].reduce((sum, category) => sum + (filled.get(category) ?? 0), 0);
  };
  return [...own].sort((a, b) => count(b) - count(a))[0];
}

/** A value that was worked out as it is typed; undefined where the attribute would not take it, as where a file said it badly. */
export function typedAs(attribute: Attribute | undefined, value: string): string | undefined {
  if (!attribute) return undefined;
  const text = shownText(attribute, isList(attribute) ? value.split(listSeparator) : value);
  try {
    return readValue(attribute, text) === undefined ? undefined : text;
  } catch (error) {
    if (error instanceof InputError) return undefined;
    throw error;
  }
}

/** The sites that an attribute's addresses lead to. */
const sitesOf = (snapshot: Snapshot, attribute: string) =>
  memoFor(snapshot, 'sites', () => sitesIn(attribute, snapshot), attribute);

/** Values of items that the field is filled from, one line each. */
export async function itemLines(
  work: FeedContext,
  held: readonly number[],
  attribute: string,
  check: string,
): Promise<SuggestedLine[]> {
  const { snapshot } = work;
  const slot = snapshot.index.slotOf(attribute) ?? -1;
  const definition = attributeOf(work, attribute);
  const links =
    check === 'link' ? mendLinks(attribute, held, snapshot, sitesOf(snapshot, attribute)) : undefined;
  const worked: ValueInference = links ? (at) => links.get(at) : await valueModelOf(snapshot, attribute);
  const lineOf = (at: number): SuggestedLine => {
    const sku = snapshot.skus[at] ?? '';
    const value = snapshot.rows[at]?.[slot];
    const now = definition ? shownText(definition, value) : asText(value);
    const own = worked(at);
    const text = own && typedAs(definition, own.value);
    return {
      ...nothing,
      key: sku,
      what: valueAt(work, at, 'name') || sku,
      count: 1,
      now,
      ...(own &&
        text !== undefined &&
        text !== now && { to: text, shown: text, sure: own.sure, why: groundWords(own) }),
    };
  };
  const lines = await inSlices(making(held, lineOf));
  // What is worked out comes first, to be looked over together.
  return lines.sort((a, b) => Number(b.to !== '') - Number(a.to !== ''));
}

/** The words that items have of an attribute, the commonest first; none where each has its own. */
export const wordsOf = ({ snapshot }: FeedContext, attribute: string): readonly string[] =>
  memoFor(
    snapshot,
    'words of attributes',
    () => {
      const slot = snapshot.index.slotOf(attribute) ?? -1;
      const definition = snapshot.attributes.find(({ code }) => code === attribute);
      const counts = new Map<string, number>();
      for (const row of snapshot.rows) {
        const value = row[slot];
        if (typeof value === 'string') counts.set(value, (counts.get(value) ?? 0) + 1);
        if (counts.size > MAX_OFFERED) return [];
      }
      return [...counts]
        .sort((a, b) => b[1] - a[1])
        .map(([word]) => (definition ? shownText(definition, word) : word));
    },
    attribute,
  );

/** A text that stands in the field for all items of a category, for the person to say: where all of them want it. */
export function textLines(work: FeedContext, held: readonly number[]): SuggestedLine[] {
  const counts = new Map<string, { of: number; want: number }>();
  const wanting = new Set(held);
  const { listings } = work.draft;
  for (let at = 0; at < listings.length; at++) {
    const category = listings.isLeftOut(at) ? '' : valueAt(work, at, 'category');
    if (category === '') continue;
    const known = counts.get(category) ?? { of: 0, want: 0 };
    counts.set(category, { of: known.of + 1, want: known.want + (wanting.has(at) ? 1 : 0) });
  }
  return [...counts].flatMap(([category, { of, want }]) =>
    want > 0 && want === of ? [{ ...nothing, key: category, what: category, count: want }] : [],
  );
}

/** Listings that a change is tried on to see whether it is worth putting forward. */
const triedFirst = 200;

/** It is put forward where it clears so much of what it was tried on. */
const worthIt = 0.8;

/** The change of the plan that clears most of a cause, of those that may; undefined where none clears enough. */
export async function changeLine(work: FeedContext, field: Field, cause: string, held: readonly number[]) {
  const [check] = parted(cause);
  const issuesOf = (issues: readonly Issue[]) =>
    issues.filter((issue) => issue.check === check && issue.field === field.code);
  const { draft, snapshot } = work;
  const candidates = candidatesFor(
    work.plans.draft,
    field,
    held.flatMap((at) => issuesOf(draft.listings.issuesAt(at))),
  );
  const some = held.slice(0, triedFirst);
  const items = {
    skus: some.map((at) => snapshot.skus[at] ?? ''),
    rows: some.map((at) => snapshot.rows[at] ?? []),
  };
  let best: { edits: readonly PlanEdit[]; line: SuggestedLine; cleared: number } | undefined;
  for (const { edits, words, keepsAll } of candidates) {
    if (edits.length === 0) continue;
    const tried = await triedOn(edits.reduce(applyEdit, work.plans.draft), work.channel, snapshot, items);
    // A listing that loses one blocker and gains another is not cleared.
    const cleared = tried.filter(({ issues }, n) => {
      const before = draft.listings.at(some[n] ?? -1)?.issues ?? [];
      const blockers = (list: readonly Issue[]) =>
        list.filter(({ severity }) => severity === 'blocker').length;
      return issuesOf(issues).length === 0 && blockers(issues) <= blockers(before);
    }).length;
    if (cleared < worthIt * some.length || cleared <= (best?.cleared ?? 0)) continue;
    const all = cleared === some.length && some.length === held.length;
    best = {
      edits,
      cleared,
      line: {
        key: 'change',
        what: words,
        count: held.length,
        now: '',
        to: 'take',
        shown: words,
        sure: keepsAll && all,
        why: keepsAll
          ? `no information lost; clears ${cleared} of ${some.length} it was tested on`
          : `check the changed texts; clears ${cleared} of ${some.length} it was tested on`,
      },
    };
  }
  return best;
}
