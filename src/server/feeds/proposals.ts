import { randomUUID } from 'node:crypto';
import { count, eq, inArray } from 'drizzle-orm';
import { type Attribute, isList } from '../../core/catalog/attributes';
import { readValue, shownText } from '../../core/catalog/reading';
import { asText, listSeparator, type Row, type Value } from '../../core/catalog/value';
import { nameOf } from '../../core/categories/tree';
import { type Field, fieldLabels } from '../../core/channels/sheet';
import { takeAllFrom } from '../../core/channels/suggestions';
import { type Issue, issueKey } from '../../core/checks/issue';
import { checkTitles } from '../../core/checks/words';
import { attributesOf, type Composition } from '../../core/compose/composition';
import { InputError } from '../../core/errors/inputError';
import { applyEdit, editWords, type PlanEdit } from '../../core/listing/edit';
import type { Listings } from '../../core/listing/listings';
import type { Plan } from '../../core/listing/plan';
import { making } from '../../core/listing/steps';
import { candidatesFor } from '../../core/remedies/candidates';
import {
  type Changes,
  changesOf,
  itemOfCategory,
  itemPlaced,
  type Picks,
  type Proposal,
  type ProposedLine,
} from '../../core/remedies/proposal';
import { groundWords, type Learned, mendLinks, sitesIn } from '../../core/remedies/workingOut';
import { takeWordsFrom } from '../../core/values/suggestions';
import type { EditDone } from '../catalog/editing';
import { editCells } from '../catalog/itemEdits';
import { foreseenNumbers, giveNumbers, registerView } from '../catalog/register';
import type { Snapshot } from '../catalog/snapshot';
import { db } from '../db/connection';
import { catalogEdit, draftStep, item, source } from '../db/schema';
import { asked } from '../evaluating/asked';
import { keptFor } from '../evaluating/keptFor';
import { triedAll, triedOn } from '../listings/evaluation';
import { inSlices } from '../listings/patience';
import { categoriesStage } from './categoriesStage';
import { type EditResult, editDraft, plannedFeed } from './drafts';
import { suggestionsFor } from './fieldsStage';
import { holdingIn } from './holding';
import { learnedOf } from './learned';
import { otherFeeds, settledStamp } from './otherFeeds';
import { choicesFor, shareWords, sharingOf, wordsEdit } from './valuesStage';
import { type FeedWork, loadFeed } from './work';

/** From this confidence on a choice is put forward for a word. */
const offeredFrom = 60;
/** Words of an attribute that are offered while a value is typed. */
const mostOffered = 60;

/** What taking a proposal as it stands does, found by trying it over the whole catalog. */
export interface Effect {
  /** How many listings it changes the cause of. */
  readonly of: number;
  /** Listings whose cause is gone. */
  readonly clears: number;
  /** Listings of the feed that are ready by it, and those that are ready no more. */
  readonly frees: number;
  readonly blocks: number;
  /** What still blocks listings whose cause is gone, most listings first: a second change is needed for these. */
  readonly then: readonly { readonly key: string; readonly title: string; readonly listings: number }[];
  /** The field before and after, on a few of them. */
  readonly shown: readonly {
    readonly sku: string;
    readonly name: string;
    readonly before: string;
    readonly after: string;
    readonly ready: boolean;
  }[];
}

const parted = (cause: string): readonly [check: string, field: string] => {
  const at = cause.indexOf(':');
  return [cause.slice(0, at), cause.slice(at + 1)];
};

/** Places of the listings that a cause blocks; where it blocks none, of those that it is a risk or a tip for. */
async function heldBy(work: FeedWork, cause: string): Promise<readonly number[]> {
  const held = (await holdingIn(work)).causes.get(cause);
  return held ? (held.blocked.length > 0 ? held.blocked : held.told) : [];
}

const attributeOf = ({ snapshot }: FeedWork, code: string | undefined): Attribute | undefined =>
  snapshot.attributes.find((one) => one.code === code);

const valueAt = ({ snapshot }: FeedWork, at: number, code: string): string =>
  asText(snapshot.rows[at]?.[snapshot.index.slotOf(code) ?? -1]);

const nothing: Omit<ProposedLine, 'key' | 'what' | 'count'> = {
  now: '',
  to: '',
  shown: '',
  sure: false,
  why: '',
};

/** Words of a choice field that the channel does not take, with the choice each is likely to mean. */
async function wordLines(work: FeedWork, field: Field): Promise<ProposedLine[]> {
  const suggest = await choicesFor(work, field);
  const held = (await holdingIn(work)).causes.get(`choice:${field.code}`);
  const counts = new Map<string, number>();
  for (const at of new Set([...(held?.blocked ?? []), ...(held?.told ?? [])]))
    for (const issue of work.draft.listings.issuesAt(at))
      if (issue.check === 'choice' && issue.field === field.code)
        counts.set(issue.facts.found, (counts.get(issue.facts.found) ?? 0) + 1);
  return [...counts]
    .map(([word, count]): ProposedLine => {
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
async function placeLines(work: FeedWork, held: readonly number[]): Promise<ProposedLine[]> {
  const { snapshot } = work;
  const { likely, likelyFrom, single, singleFrom } = await categoriesStage(work, { category: '-' });
  const counts = new Map<string, number>();
  for (const at of held) {
    const category = valueAt(work, at, 'category');
    counts.set(category, (counts.get(category) ?? 0) + 1);
  }
  const best = new Map(likely.map((one) => [one.category, one]));
  const alone = new Map(single.map((one) => [one.sku, one]));
  const without = held.filter((at) => valueAt(work, at, 'category') === '');
  const worked = without.length > 0 ? await learnedOf(snapshot, 'category') : () => undefined;
  counts.delete('');
  return [
    ...[...counts].map(([category, count]): ProposedLine => {
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
            ? `placed alike in ${place.learned}`
            : `${place.score} %, ${place.matched.join(', ')}`,
        }),
      };
    }),
    ...without.map((at): ProposedLine => {
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

/** What fills a field, in any of the merchant's categories. */
export const filling = (plan: Plan, field: string): Composition[] => [
  ...(plan.fields[field] ? [plan.fields[field]] : []),
  ...(plan.perCategory[field] ?? []).map(({ composition }) => composition),
];

/** How many items of each category have an attribute; counted once for a catalog. */
const filledByCategory = (snapshot: Snapshot, code: string): ReadonlyMap<string, number> =>
  keptFor(snapshot, `filled by category: ${code}`, () => {
    const counts = new Map<string, number>();
    const [slot, categorySlot] = [code, 'category'].map((one) => snapshot.index.slotOf(one) ?? -1);
    for (const row of snapshot.rows) {
      if (row[slot ?? -1] === undefined) continue;
      const category = asText(row[categorySlot ?? -1]);
      counts.set(category, (counts.get(category) ?? 0) + 1);
    }
    return counts;
  });

/** The attribute in which these items' value belongs: of those that fill the field, the one most items of their categories have. */
export function attributeFor(
  work: FeedWork,
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
  keptFor(snapshot, `sites of ${attribute}`, () => sitesIn(attribute, snapshot));

/** Values of items that the field is filled from, one line each. */
async function itemLines(
  work: FeedWork,
  held: readonly number[],
  attribute: string,
  check: string,
): Promise<ProposedLine[]> {
  const { snapshot } = work;
  const slot = snapshot.index.slotOf(attribute) ?? -1;
  const definition = attributeOf(work, attribute);
  const links =
    check === 'link' ? mendLinks(attribute, held, snapshot, sitesOf(snapshot, attribute)) : undefined;
  const worked: Learned = links ? (at) => links.get(at) : await learnedOf(snapshot, attribute);
  const lineOf = (at: number): ProposedLine => {
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
export const wordsOf = ({ snapshot }: FeedWork, attribute: string): readonly string[] =>
  keptFor(snapshot, `words of ${attribute}`, () => {
    const slot = snapshot.index.slotOf(attribute) ?? -1;
    const definition = snapshot.attributes.find(({ code }) => code === attribute);
    const counts = new Map<string, number>();
    for (const row of snapshot.rows) {
      const value = row[slot];
      if (typeof value === 'string') counts.set(value, (counts.get(value) ?? 0) + 1);
      if (counts.size > mostOffered) return [];
    }
    return [...counts]
      .sort((a, b) => b[1] - a[1])
      .map(([word]) => (definition ? shownText(definition, word) : word));
  });

const choicesOf = (field: Field) =>
  (field.choices ?? []).map(({ code, labels }) => ({ code, label: labels.en ?? code }));

/** A text that stands in the field for all items of a category, for the person to say: where all of them want it. */
function textLines(work: FeedWork, held: readonly number[]): ProposedLine[] {
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
async function changeLine(work: FeedWork, field: Field, cause: string, held: readonly number[]) {
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
  let best: { edits: readonly PlanEdit[]; line: ProposedLine; cleared: number } | undefined;
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
          ? `nothing is lost; clears ${cleared} of ${some.length} it was tried on`
          : `look at what it does to the texts; clears ${cleared} of ${some.length} it was tried on`,
      },
    };
  }
  return best;
}

/** What would clear a cause, as far as it can be worked out. Undefined where the change is made elsewhere: titles, checks of one's own. */
async function proposalFor(work: FeedWork, cause: string, left: number): Promise<Proposal | undefined> {
  const [check, code] = parted(cause);
  const field = work.sheet.fields.find((one) => one.code === code);
  const held = await heldBy(work, cause);
  // What is held back to be looked at is cleared by a person who has looked.
  if (!field || held.length === 0 || check === 'review') return undefined;
  const make = (way: Proposal['way'], lines: readonly ProposedLine[], options: Proposal['options'] = []) => ({
    cause,
    field: code,
    way,
    lines,
    options,
  });
  if (check === 'choice') return make({ by: 'words' }, await wordLines(work, field), choicesOf(field));
  const wanting = check === 'missing' || check === 'oneOfSets';
  if (field.kind === 'category')
    return wanting ? make({ by: 'places' }, await placeLines(work, held)) : undefined;
  const { draft } = work.plans;
  const change = await changeLine(work, field, cause, held);
  if (change) return make({ by: 'change', edits: change.edits }, [change.line]);
  if (field.role === 'title' && draft.title) return undefined;
  const attributes = filling(draft, code).flatMap(attributesOf);
  const attribute = attributeFor(work, attributes, held);
  if (attribute === 'gtin' && wanting && left > 0)
    return make(
      { by: 'numbers' },
      (await itemLines(work, held, attribute, check)).map((line, n) => ({
        ...line,
        to: n < left ? 'next' : '',
        shown: n < left ? 'the next free number' : '',
        sure: n < left,
        why: `${left} bought numbers are left`,
      })),
    );
  if (attribute !== undefined)
    return make(
      { by: 'items', attribute },
      await itemLines(work, held, attribute, check),
      wordsOf(work, attribute).map((word) => ({ code: word, label: word })),
    );
  if (!wanting || attributes.length > 0) return undefined;
  const [best] = (await suggestionsFor(work, field)).filter(({ score }) => score >= takeAllFrom);
  if (best) {
    const has = held.filter((at) => valueAt(work, at, best.attribute) !== '').length;
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
  const lines = textLines(work, held);
  return lines.length > 0
    ? make({ by: 'text', everywhere: field.need === 'must' }, lines, choicesOf(field))
    : undefined;
}

interface Kept {
  readonly stamp: string;
  readonly made: Promise<Proposal | undefined>;
}

/** What would clear a cause, found once for a draft, as long as no other feed decides anything: what was said there helps here. */
export async function proposalOf(work: FeedWork, cause: string): Promise<Proposal | undefined> {
  const numbered = work.sheet.fields.find(({ code }) => code === parted(cause)[1])?.role === 'gtin';
  const left = numbered ? (await registerView()).left : 0;
  const stamp = `${await settledStamp('')} ${left}`;
  const kept = keptFor(work.draft, 'proposals', () => new Map<string, Kept>());
  const known = kept.get(cause);
  if (known?.stamp === stamp) return known.made;
  const made = proposalFor(work, cause, left);
  kept.set(cause, { stamp, made });
  made.catch(() => kept.delete(cause));
  return made;
}

/** Changes of a field, of a plan and of items. */
interface FieldChanges {
  readonly field: string;
  readonly changes: Changes;
}

/** A plan after changes, as edits. */
function editsOf(plan: Plan, all: readonly FieldChanges[]): { plan: Plan; edits: PlanEdit[] } {
  const edits: PlanEdit[] = [];
  let after = plan;
  for (const { field, changes } of all) {
    const own = [...changes.edits];
    if (Object.keys(changes.words).length > 0) own.push(wordsEdit(after, field, changes.words));
    after = own.reduce(applyEdit, after);
    edits.push(...own);
  }
  return { plan: after, edits };
}

/** The rows of items after changes, by their places. */
async function rowsAfter({ snapshot }: FeedWork, all: readonly FieldChanges[]): Promise<Map<number, Row>> {
  const cells = all.flatMap(({ changes }) => changes.cells);
  const numbers = await foreseenNumbers(all.flatMap(({ changes }) => changes.numbers));
  for (const [sku, text] of numbers) cells.push({ sku, attribute: 'gtin', text });
  const places = new Map(cells.map(({ sku }) => [sku, -1]));
  if (places.size > 0)
    snapshot.skus.forEach((sku, at) => {
      if (places.has(sku)) places.set(sku, at);
    });
  const rows = new Map<number, Row>();
  for (const { sku, attribute, text } of cells) {
    const at = places.get(sku) ?? -1;
    const definition = snapshot.attributes.find(({ code }) => code === attribute);
    const slot = snapshot.index.slotOf(attribute);
    if (at < 0 || !definition || slot === undefined) continue;
    const row = [...(rows.get(at) ?? snapshot.rows[at] ?? [])];
    row[slot] = readValue(definition, text);
    rows.set(at, row);
  }
  return rows;
}

/** The listings of a feed's draft after changes, tried over the whole catalog. */
export const listingsAfter = async (work: FeedWork, all: readonly FieldChanges[]): Promise<Listings> =>
  triedAll(work.draft, editsOf(work.plans.draft, all).plan, work.channel, await rowsAfter(work, all));

/** The changes that taking proposals makes. @param picks as a person set it; what is sure where left out */
export const changesIn = (work: FeedWork, proposal: Proposal, picks?: Picks): FieldChanges => ({
  field: proposal.field,
  changes: changesOf(proposal, work.plans.draft, picks),
});

const mostShown = 3;
/** Further causes that are named. */
const mostThen = 3;

const weights = { blocker: 3, risk: 2, tip: 1 } as const;
/** How serious the most serious of some issues is; 0 of none. */
const weightOf = (issues: readonly Issue[]): number =>
  Math.max(0, ...issues.map(({ severity }) => weights[severity]));

/**
 * What taking a proposal does, found by trying it.
 * @param picks as a person set it; what is sure where left out
 */
export async function effectOf(work: FeedWork, proposal: Proposal, picks?: Picks): Promise<Effect> {
  const place = work.sheet.fields.findIndex(({ code }) => code === proposal.field);
  const field = work.sheet.fields[place];
  const given = changesIn(work, proposal, picks);
  const { edits, words, cells, numbers } = given.changes;
  const inPlan = edits.length > 0 || Object.keys(words).length > 0;
  const items = new Set([...cells.map(({ sku }) => sku), ...numbers]);
  const none: Effect = { of: 0, clears: 0, frees: 0, blocks: 0, then: [], shown: [] };
  if (!field || (!inPlan && items.size === 0)) return none;
  const { draft, snapshot } = work;
  const before = draft.listings;
  const after = await listingsAfter(work, [given]);
  const [check, code] = parted(proposal.cause);
  const isCause = (issue: Issue) => issue.check === check && issue.field === code;
  const shownOf = (value: Value | undefined) =>
    field.kind === 'category' && value !== undefined
      ? nameOf(draft.compiled.tree, asText(value), work.plans.head.language)
      : asText(value);
  let [frees, blocks] = [0, 0];
  for (let at = 0; at < after.length; at++) {
    if (after.same(before, at)) continue;
    const [was, is] = [before.stateAt(at), after.stateAt(at)];
    if (was !== 'ready' && is === 'ready') frees++;
    if (was === 'ready' && is === 'blocked') blocks++;
  }
  const held = (await heldBy(work, proposal.cause)).filter(
    (at) => inPlan || items.has(snapshot.skus[at] ?? ''),
  );
  const rid: number[] = [];
  const shown: Effect['shown'][number][] = [];
  for (const at of held) {
    // What was a blocker and is only advised now has cleared.
    if (weightOf(after.issuesAt(at).filter(isCause)) >= weightOf(before.issuesAt(at).filter(isCause)))
      continue;
    const ready = after.stateAt(at) === 'ready';
    rid.push(at);
    if (shown.length < mostShown)
      shown.push({
        sku: before.skuAt(at),
        name: valueAt(work, at, 'name') || before.skuAt(at),
        before: shownOf(before.valueAt(at, place)),
        after: shownOf(after.valueAt(at, place)),
        ready,
      });
  }
  return {
    of: held.length,
    clears: rid.length,
    frees,
    blocks,
    then: blockersAt(work, after, rid),
    shown,
  };
}

/** What blocks listings, by cause with its title and how many it blocks, most first. @param positions of the listings */
export function blockersAt(work: FeedWork, listings: Listings, positions: Iterable<number>): Effect['then'] {
  const found = new Map<string, { title: string; listings: number }>();
  for (const at of positions) {
    const blockers = listings.issuesAt(at).filter(({ severity }) => severity === 'blocker');
    for (const key of new Set(blockers.map(issueKey))) {
      const [check, field] = parted(key);
      const title = checkTitles[check as Issue['check']](work.labelOf(field));
      found.set(key, { title, listings: 1 + (found.get(key)?.listings ?? 0) });
    }
  }
  return [...found]
    .map(([key, one]) => ({ key, ...one }))
    .sort((a, b) => b.listings - a.listings || a.key.localeCompare(b.key))
    .slice(0, mostThen);
}

/** {@link effectOf} of what is sure, found once for a proposal. */
export const sureEffect = (work: FeedWork, proposal: Proposal): Promise<Effect> =>
  keptFor(proposal, 'effect', () => effectOf(work, proposal));

/** The other feeds that a proposal is taken in as well, if wished: those that take the same choices, and those of the same channel. */
async function sharedWith(work: FeedWork, { field, way }: Proposal): Promise<{ name: string }[]> {
  const own = work.sheet.fields.find(({ code }) => code === field);
  if (way.by === 'words') return own ? sharingOf(work.plans.head.code, own) : [];
  if (way.by === 'items' || way.by === 'numbers') return [];
  return (await otherFeeds(work.plans.head.code)).filter(
    ({ head }) => head.channel === work.plans.head.channel,
  );
}

/** A draft of another feed that was changed as well, and how. */
export interface ChangedElsewhere {
  readonly feed: string;
  readonly name: string;
  readonly words: string;
}

/** Makes an edit in the feeds of the same channel, as far as they have not decided otherwise. */
async function editAlongside(feed: string, edit: PlanEdit, joint: string): Promise<ChangedElsewhere[]> {
  const { head } = await plannedFeed(feed).then(({ plans }) => plans);
  const changed: ChangedElsewhere[] = [];
  for (const { head: other, plans, name, channel } of await otherFeeds(feed)) {
    const open = other.channel === head.channel ? undecided(edit, plans.draft) : undefined;
    if (!open) continue;
    mustHold(await editDraft(other.code, plans.revision, open, joint));
    changed.push({ feed: other.code, name, words: editWords(open, plans.draft, fieldLabels(channel.sheet)) });
  }
  return changed;
}

/** Of an edit what another plan has not decided for itself; undefined where nothing is left. */
function undecided(edit: PlanEdit, plan: Plan): PlanEdit | undefined {
  const open = <T>(wanted: Readonly<Record<string, T>>, known: Readonly<Record<string, unknown>>) =>
    Object.fromEntries(Object.entries(wanted).filter(([key]) => !Object.hasOwn(known, key)));
  switch (edit.edit) {
    case 'fields': {
      const fields = open(edit.fields, plan.fields);
      return Object.keys(fields).length > 0 ? { ...edit, fields } : undefined;
    }
    case 'place': {
      const placements = open(edit.placements, plan.placements);
      return Object.keys(placements).length > 0 ? { ...edit, placements } : undefined;
    }
    case 'exceptions': {
      const exceptions = open(edit.exceptions, plan.exceptions);
      return Object.keys(exceptions).length > 0 ? { ...edit, exceptions } : undefined;
    }
    case 'perCategory':
      return plan.fields[edit.field] || plan.perCategory[edit.field] ? undefined : edit;
    default:
      return undefined;
  }
}

/** A proposal as a page shows it. */
export interface ProposalView {
  readonly proposal: Proposal;
  readonly effect: Effect;
  /** What the values are of, in words: the attribute's or the field's name. */
  readonly about: string;
  /** Lines beyond those that are shown; what is sure among them is taken with the others. */
  readonly more: number;
  readonly moreSure: number;
  readonly sharing: readonly { readonly name: string }[];
  /** Who may know what nobody here does: the sources of the items whose value is not found, the most of them first. */
  readonly askers: readonly { readonly id: number; readonly name: string; readonly items: number }[];
}

/** Items whose source is looked for. */
const mostAsked = 5000;

/** The sources of items whose value could not be worked out. */
async function sourcesOf({ way, lines }: Proposal): Promise<ProposalView['askers']> {
  const skus =
    way.by === 'items' ? lines.flatMap(({ key, sure }) => (sure ? [] : [key])).slice(0, mostAsked) : [];
  if (skus.length === 0) return [];
  const rows = await db
    .select({ id: source.id, name: source.name, items: count() })
    .from(item)
    .innerJoin(source, eq(source.id, item.sourceId))
    .where(inArray(item.sku, skus))
    .groupBy(source.id, source.name);
  return rows.sort((a, b) => b.items - a.items);
}

/** Lines a page shows. */
const mostLines = 60;

export async function proposalView(work: FeedWork, cause: string): Promise<ProposalView | undefined> {
  const proposal = await proposalOf(work, cause);
  if (!proposal) return undefined;
  const { way, lines } = proposal;
  const attribute = way.by === 'items' ? way.attribute : undefined;
  const rest = lines.slice(mostLines);
  return {
    proposal: { ...proposal, lines: lines.slice(0, mostLines) },
    effect: await sureEffect(work, proposal),
    about: attributeOf(work, attribute)?.label ?? work.labelOf(proposal.field),
    more: rest.length,
    moreSure: rest.filter(({ sure }) => sure).length,
    sharing: (await sharedWith(work, proposal)).map(({ name }) => ({ name })),
    askers: await keptFor(proposal, 'sources', () => sourcesOf(proposal)),
  };
}

/** What is to be taken: a cause, and what of its proposal; what is sure where left out. */
export interface Wanted {
  readonly cause: string;
  readonly picks?: Picks | undefined;
}

const changesFor = asked(
  'proposedChanges',
  async (feed: string, wanted: readonly Wanted[]): Promise<{ field: string; changes: Changes }[]> => {
    const work = await loadFeed(feed);
    if (!work) throw new InputError('noFeed');
    const found: { field: string; changes: Changes }[] = [];
    for (const { cause, picks } of wanted) {
      const proposal = await proposalOf(work, cause);
      if (proposal)
        found.push({ field: proposal.field, changes: changesOf(proposal, work.plans.draft, picks) });
    }
    return found;
  },
);

/** A draft that refused an edit: all that belongs to it is rolled back. */
class Refused extends Error {
  constructor(readonly result: Extract<EditResult, { ok: false }>) {
    super('a draft was changed meanwhile');
  }
}

/** @throws Refused */
function mustHold(result: EditResult): number {
  if (!result.ok) throw new Refused(result);
  return result.revision;
}

/** Whether a press has been carried out already: it comes again where its answer was lost. */
async function isDone(joint: string): Promise<boolean> {
  const [steps, edits] = await Promise.all([
    db.select({ id: draftStep.id }).from(draftStep).where(eq(draftStep.joint, joint)).limit(1),
    db.select({ id: catalogEdit.id }).from(catalogEdit).where(eq(catalogEdit.joint, joint)).limit(1),
  ]);
  return steps.length + edits.length > 0;
}

/**
 * Takes proposals, each as a person set it or as it stands: into the draft what belongs to the feed, into the catalog what belongs
 * to the items. All of it or nothing, and one undo takes all of it back.
 * @param share makes the same edits in the other feeds that have not decided otherwise
 * @param joint a number of the press, by which it is carried out once
 * @returns what was changed in other drafts and in the catalog; a conflict where a draft was changed meanwhile
 * @throws InputError where a value cannot be taken
 */
export async function takeProposals(
  feed: string,
  revision: number,
  wanted: readonly Wanted[],
  share: boolean,
  joint: string = randomUUID(),
): Promise<EditResult & { elsewhere?: ChangedElsewhere[]; done?: EditDone[] }> {
  const { plans, sheet } = await plannedFeed(feed);
  if (await isDone(joint)) return { ok: true, revision: plans.revision };
  const all = await changesFor(feed, wanted);
  const { edits } = editsOf(plans.draft, all);
  try {
    return await db.transaction(async (tx) => {
      let now = revision;
      const elsewhere: ChangedElsewhere[] = [];
      if (edits.length > 0) now = mustHold(await editDraft(feed, revision, edits, joint));
      if (share)
        for (const { field, changes } of all) {
          for (const edit of changes.edits) elsewhere.push(...(await editAlongside(feed, edit, joint)));
          const own = sheet.fields.find(({ code }) => code === field);
          if (own && Object.keys(changes.words).length > 0)
            elsewhere.push(...(await shareWords(feed, own, changes.words, joint)));
        }
      const cells = all.flatMap(({ changes }) => changes.cells);
      const numbers = all.flatMap(({ changes }) => changes.numbers);
      const done = [
        ...(cells.length > 0 ? [await editCells(cells)] : []),
        ...(numbers.length > 0 ? [await giveNumbers(numbers)] : []),
      ];
      for (const { id } of done) await tx.update(catalogEdit).set({ joint }).where(eq(catalogEdit.id, id));
      return { ok: true as const, revision: now, elsewhere, done };
    });
  } catch (error) {
    if (error instanceof Refused) return error.result;
    throw error;
  }
}
