import { readValue } from '../../core/catalog/reading';
import { asText, type Row, type Value } from '../../core/catalog/value';
import { nameOf } from '../../core/categories/tree';
import { type Issue, issueKey } from '../../core/checks/issue';
import { issueTitle } from '../../core/checks/messages';
import { type Changes, changesOf, type Picks, type SuggestedFix } from '../../core/fixes/suggestion';
import type { Listings } from '../../core/listing/listings';
import { applyEdit, type PlanEdit } from '../../core/plans/edit';
import type { Plan } from '../../core/plans/plan';
import { triedAll } from '../evaluation/evaluation';
import type { FeedContext } from '../evaluation/feedContext';
import { foreseenGtins } from '../items/gtinRegister';
import { memoFor } from '../runtime/memo';
import { listingsBlockedBy, parted, valueAt } from './lines';
import { wordsEdit } from './valueChoices';

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

/** Changes of a field, of a plan and of items. */
export interface FieldChanges {
  readonly field: string;
  readonly changes: Changes;
}

/** A plan after changes, as edits. */
export function editsOf(plan: Plan, all: readonly FieldChanges[]): { plan: Plan; edits: PlanEdit[] } {
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
async function rowsAfter({ snapshot }: FeedContext, all: readonly FieldChanges[]): Promise<Map<number, Row>> {
  const cells = all.flatMap(({ changes }) => changes.cells);
  const numbers = await foreseenGtins(all.flatMap(({ changes }) => changes.numbers));
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
export const listingsAfter = async (work: FeedContext, all: readonly FieldChanges[]): Promise<Listings> =>
  triedAll(work.draft, editsOf(work.plans.draft, all).plan, work.channel, await rowsAfter(work, all));

/** The changes that taking proposals makes. @param picks as a person set it; what is sure where left out */
export const changesIn = (work: FeedContext, proposal: SuggestedFix, picks?: Picks): FieldChanges => ({
  field: proposal.field,
  changes: changesOf(proposal, work.plans.draft, picks),
});

const MAX_SHOWN = 3;

/** Further causes that are named. */
const MAX_THEN = 3;

const weights = { blocker: 3, risk: 2, tip: 1 } as const;

/** How serious the most serious of some issues is; 0 of none. */
const weightOf = (issues: readonly Issue[]): number =>
  Math.max(0, ...issues.map(({ severity }) => weights[severity]));

/**
 * What taking a proposal does, found by trying it.
 * @param picks as a person set it; what is sure where left out
 */
export async function effectOf(work: FeedContext, proposal: SuggestedFix, picks?: Picks): Promise<Effect> {
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
  const blocked = (await listingsBlockedBy(work, proposal.cause)).filter(
    (at) => inPlan || items.has(snapshot.skus[at] ?? ''),
  );
  const rid: number[] = [];
  const shown: Effect['shown'][number][] = [];
  for (const at of blocked) {
    // What was a blocker and is only advised now has cleared.
    if (weightOf(after.issuesAt(at).filter(isCause)) >= weightOf(before.issuesAt(at).filter(isCause)))
      continue;
    const ready = after.stateAt(at) === 'ready';
    rid.push(at);
    if (shown.length < MAX_SHOWN)
      shown.push({
        sku: before.skuAt(at),
        name: valueAt(work, at, 'name') || before.skuAt(at),
        before: shownOf(before.valueAt(at, place)),
        after: shownOf(after.valueAt(at, place)),
        ready,
      });
  }
  return {
    of: blocked.length,
    clears: rid.length,
    frees,
    blocks,
    then: blockersAt(work, after, rid),
    shown,
  };
}

/** What blocks listings, by cause with its title and how many it blocks, most first. @param positions of the listings */
export function blockersAt(
  work: FeedContext,
  listings: Listings,
  positions: Iterable<number>,
): Effect['then'] {
  const found = new Map<string, { title: string; listings: number }>();
  for (const at of positions) {
    const blockers = listings.issuesAt(at).filter(({ severity }) => severity === 'blocker');
    for (const key of new Set(blockers.map(issueKey))) {
      const [check, field] = parted(key);
      const title = issueTitle(check as Issue['check'], work.labelOf(field));
      found.set(key, { title, listings: 1 + (found.get(key)?.listings ?? 0) });
    }
  }
  return [...found]
    .map(([key, one]) => ({ key, ...one }))
    .sort((a, b) => b.listings - a.listings || a.key.localeCompare(b.key))
    .slice(0, MAX_THEN);
}

/** {@link effectOf} of what is sure, found once for a proposal. */
export const sureEffect = (work: FeedContext, proposal: SuggestedFix): Promise<Effect> =>
  memoFor(proposal, 'effect', () => effectOf(work, proposal));
