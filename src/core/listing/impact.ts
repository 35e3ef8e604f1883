import { sameValue } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { type Issue, issueKey } from '../checks/issue';
import type { FamilyChoice } from '../families/shape';
import { entryOfEach, sheetAsShown } from '../ledger/families';
import type { Listing } from './evaluate';
import type { Listings } from './listings';
import { BATCH_ROWS, type Steps } from './steps';

/** What publishing a draft would change, over the whole catalog. */
export interface Impact {
  readonly changed: number;
  readonly total: number;
  readonly cleared: number;
  readonly appeared: number;
  readonly newlyReady: number;
  readonly newlyBlocked: number;
  /** How many entries the file has, where the draft shows families otherwise in it. */
  readonly entries?: { readonly before: number; readonly after: number };
}

export interface Difference {
  readonly sku: string;
  readonly before: Listing;
  readonly after: Listing;
  /** Positions of the fields whose values differ. */
  readonly fields: readonly number[];
  readonly cleared: readonly Issue[];
  readonly appeared: readonly Issue[];
  /** The entries of the file in which the listing leaves, where these differ: its own, or its family's. */
  readonly entry?: { readonly before: string; readonly after: string };
}

/** The listings that differ between two evaluations of the same catalog in the same order. */
export function differences(before: Listings, after: Listings): Difference[] {
  const found: Difference[] = [];
  for (let i = 0; i < Math.min(before.length, after.length); i++) {
    if (after.same(before, i)) continue;
    const a = before.at(i) as Listing;
    const b = after.at(i) as Listing;
    const fields: number[] = [];
    const count = Math.max(a.values.length, b.values.length);
    for (let at = 0; at < count; at++) if (!sameValue(a.values[at], b.values[at])) fields.push(at);
    const cleared = missingFrom(a.issues, b.issues);
    const appeared = missingFrom(b.issues, a.issues);
    if (fields.length > 0 || a.state !== b.state || cleared.length > 0 || appeared.length > 0)
      found.push({ sku: b.sku, before: a, after: b, fields, cleared, appeared });
  }
  return found;
}

/** Listings as a plan shows their families: what tells which entries a file has. */
export interface Shown {
  readonly sheet: Sheet;
  readonly families: FamilyChoice | undefined;
  readonly listings: Listings;
}

/** Adds to the differences those of the entries in which listings leave. */
export function withEntries(
  found: readonly Difference[],
  before: Shown,
  after: Shown,
): { readonly found: readonly Difference[]; readonly entries: Impact['entries'] } {
  const [sheetThen, sheetNow] = [before, after].map(({ sheet, families }) => sheetAsShown(sheet, families));
  // Where no family is one entry each listing is its own, and the differences of listings tell it all.
  if (sheetThen?.delivery.families !== 'oneEntry' && sheetNow?.delivery.families !== 'oneEntry')
    return { found, entries: undefined };
  const [then, now] = [before, after].map(({ sheet, families, listings }) =>
    entryOfEach(
      sheetAsShown(sheet, families),
      listings.whole((state) => state === 'ready'),
    ),
  ) as [ReadonlyMap<string, string>, ReadonlyMap<string, string>];
  const all = new Map(found.map((one) => [one.sku, one]));
  for (let i = 0; i < after.listings.length; i++) {
    const sku = after.listings.skuAt(i);
    const entry = { before: then.get(sku) ?? '', after: now.get(sku) ?? '' };
    if (entry.before === entry.after) continue;
    const known = all.get(sku);
    const [a, b] = [before.listings.at(i), after.listings.at(i)];
    if (known) all.set(sku, { ...known, entry });
    else if (a && b) all.set(sku, { sku, before: a, after: b, fields: [], cleared: [], appeared: [], entry });
  }
  const count = (entries: ReadonlyMap<string, string>) => new Set(entries.values()).size;
  return { found: [...all.values()], entries: { before: count(then), after: count(now) } };
}

const none: readonly Issue[] = [];
const blocks = ({ severity }: Issue) => severity === 'blocker';

/** Whether a blocker is one that others are not told: what is taken lighter now is a blocker no more. */
function isMissing(issue: Issue, others: readonly Issue[]): boolean {
  if (!blocks(issue) || others.includes(issue)) return false;
  const key = issueKey(issue);
  return !others.some((other) => blocks(other) && issueKey(other) === key);
}

// Most listings are held up by the same as before.
const missingFrom = (issues: readonly Issue[], others: readonly Issue[]): readonly Issue[] =>
  issues === others ? none : issues.filter((issue) => isMissing(issue, others));

/** The number of them, without a list. */
function countMissing(issues: readonly Issue[], others: readonly Issue[]): number {
  let count = 0;
  for (let n = 0; n < issues.length; n++) if (isMissing(issues[n] as Issue, others)) count++;
  return count;
}

/** Counts how many blockers listings lose and gain between two evaluations, slot by slot where these differ at all. */
function missingBetween(a: Listings, b: Listings) {
  const slots = a.slotsBetween(b);
  const columns = slots.map((slot) => [a.saidIn(slot), b.saidIn(slot)] as const);
  const [before, after] = [a.lists, b.lists];
  const found = { cleared: 0, appeared: 0 };
  return (i: number): Readonly<typeof found> => {
    found.cleared = 0;
    found.appeared = 0;
    for (let n = 0; n < columns.length; n++) {
      const [was, is] = columns[n] as (typeof columns)[number];
      const [said, says] = [was?.[i] ?? 0, is?.[i] ?? 0];
      if (before === after && said === says) continue;
      if (!before.blocks(said) && !after.blocks(says)) continue;
      found.cleared += countMissing(before.list(said), after.list(says));
      found.appeared += countMissing(after.list(says), before.list(said));
    }
    return found;
  };
}

/** What lies between two evaluations, counted without keeping what it is. */
export interface Between {
  readonly impact: Impact;
  /** By field: how many listings show another value. */
  readonly fields: Int32Array;
}

/** Two evaluations of the same catalog in the same order. */
export interface Pair {
  readonly before: Listings;
  readonly after: Listings;
  /** Positions of the fields whose values may differ at all, as the plans say; every one where left out. */
  readonly fields?: Iterable<number> | undefined;
}

/**
 * Counts what lies between two evaluations, step by step.
 * @param known an earlier count between two others of the same sheet, which it goes on from: only listings that are others since
 *   are looked at
 */
export function* countingBetween(
  pair: Pair,
  known?: { readonly between: Between; readonly of: Pair },
): Steps<Between> {
  const { before, after } = pair;
  const from: Pair = known?.of ?? { before, after: before, fields: [] };
  const { before: beforeThen, after: afterThen } = from;
  const { impact: start, fields: counted } = known?.between ?? {
    impact: { changed: 0, total: 0, cleared: 0, appeared: 0, newlyReady: 0, newlyBlocked: 0 },
    fields: new Int32Array(),
  };
  const width = Math.max(
    counted.length,
    ...[before, after, beforeThen, afterThen].map((listings) =>
      listings.length > 0 ? listings.valuesAt(0).length : 0,
    ),
  );
  const impact = { ...start, total: after.length };
  const fields = new Int32Array(width);
  fields.set(counted);
  const positionsOf = ({ fields }: Pair): readonly number[] => [...(fields ?? Array(width).keys())];
  const count = (
    a: Listings,
    b: Listings,
    i: number,
    positions: readonly number[],
    missing: ReturnType<typeof missingBetween>,
    by: 1 | -1,
  ) => {
    if (i >= a.length || i >= b.length || a.same(b, i)) return;
    const [stateThen, state] = [a.stateAt(i), b.stateAt(i)];
    let differs = stateThen !== state;
    for (let n = 0; n < positions.length; n++) {
      const at = positions[n] as number;
      if (!sameValue(a.valueAt(i, at), b.valueAt(i, at))) {
        fields[at] = (fields[at] ?? 0) + by;
        differs = true;
      }
    }
    const { cleared, appeared } = missing(i);
    if (!differs && cleared + appeared === 0) return;
    impact.changed += by;
    impact.cleared += by * cleared;
    impact.appeared += by * appeared;
    if (stateThen !== state && state === 'ready') impact.newlyReady += by;
    if (stateThen !== state && state === 'blocked') impact.newlyBlocked += by;
  };
  const [earlier, now] = [positionsOf(from), positionsOf(pair)];
  const either = [...new Set([...earlier, ...now])];
  // Of many listings values are read along columns, of few one by one; and so they are where any field may differ: columns stay.
  let others = 0;
  for (let i = 0; i < after.length; i++) if (i >= afterThen.length || !after.same(afterThen, i)) others++;
  const many = others > after.length / 8 && from.fields !== undefined && pair.fields !== undefined;
  /** Fields that stand as they did, whichever listing it is. */
  const status = either.filter((at) => many && after.column(at) === afterThen.column(at));
  const moving = either.filter((at) => !status.includes(at));
  if (many) for (const at of either) before.column(at);
  /**
   * Counts a listing of which an edit changed values alone, as most do: what is said of it clears and appears as it did. Here are
   * three of it: as published, in the draft before, and in the draft now.
   */
  const recount = (i: number) => {
    let [differed, differs] = [false, false];
    for (let n = 0; n < moving.length; n++) {
      const at = moving[n] as number;
      const published = before.valueAt(i, at);
      const was = !sameValue(published, afterThen.valueAt(i, at));
      const is = !sameValue(published, after.valueAt(i, at));
      differed ||= was;
      differs ||= is;
      if (was !== is) fields[at] = (fields[at] ?? 0) + (is ? 1 : -1);
    }
    if (differed === differs || !before.alike(afterThen, i)) return;
    for (let n = 0; n < status.length; n++) {
      const at = status[n] as number;
      if (!sameValue(before.valueAt(i, at), after.valueAt(i, at))) return;
    }
    const { cleared, appeared } = missingSince(i);
    if (cleared + appeared > 0) return;
    impact.changed += differs ? 1 : -1;
  };
  const [missingThen, missingNow] = [missingBetween(beforeThen, afterThen), missingBetween(before, after)];
  const missingSince = missingBetween(before, afterThen);
  const edited = after.slotsBetween(afterThen).map((slot) => [afterThen.saidIn(slot), after.saidIn(slot)]);
  const comparable = after.lists === afterThen.lists;
  const saysAlike = (i: number) => {
    for (let n = 0; n < edited.length; n++) {
      const [was, is] = edited[n] as (typeof edited)[number];
      if ((was?.[i] ?? 0) !== (is?.[i] ?? 0)) return false;
    }
    return comparable;
  };
  const least = Math.min(before.length, beforeThen.length, after.length, afterThen.length);
  const most = Math.max(after.length, afterThen.length);
  for (let i = 0; i < most; i++) {
    if (i % BATCH_ROWS === 0) yield;
    if (i < least && before.same(beforeThen, i)) {
      if (after.same(afterThen, i)) continue;
      const valuesAlone = afterThen.alike(after, i) && saysAlike(i);
      if (valuesAlone && !afterThen.same(before, i) && !after.same(before, i)) {
        recount(i);
        continue;
      }
    }
    count(beforeThen, afterThen, i, earlier, missingThen, -1);
    count(before, after, i, now, missingNow, 1);
  }
  return { impact, fields };
}
