import { sameValue, type Value } from '../../catalog/value';
import { type Comparison, partOf } from '../../checks/comparing';
import type { Issue } from '../../checks/issue';
import type { CompiledPlan } from '../compiling/compiledPlan';
import { type CatalogRows, sharedIssues } from '../evaluate';
import type { Listings, ListingsEdit } from '../listings';
import { BATCH_ROWS, type Steps } from '../steps';

/** Checks that compare listings with each other, after an edit of a plan or of items. */

/** Listings with the items they are of. */
interface Standing<L extends Listings> extends CatalogRows {
  readonly listings: L;
}

/**
 * Compares those of which one changed with the others they share something with, or shared.
 * @param after the changed ones evaluated alone; changed in place
 */
export function* comparingIncrementally(
  compiled: CompiledPlan,
  before: Standing<Listings>,
  after: Standing<ListingsEdit>,
  changed: readonly number[],
): Steps<void> {
  const familySlot = compiled.index.slotOf('family');
  const [was, is] = [before.listings, after.listings];
  const { lists } = is;
  for (const comparison of compiled.compared) {
    const { at } = comparison;
    /** Whether a changed listing has what is compared as it had it: then neither it nor any other is told anything else. */
    const sharesAsBefore = (i: number): boolean =>
      comparison.beside === undefined &&
      i < was.length &&
      before.skus[i] === after.skus[i] &&
      was.isLeftOut(i) === is.isLeftOut(i) &&
      sameValue(was.valueAt(i, at), is.valueAt(i, at)) &&
      partOf(comparison, was.skuAt(i), before.rows[i], familySlot) ===
        partOf(comparison, is.skuAt(i), after.rows[i], familySlot);
    const open = new Uint8Array(is.length);
    for (const [n, i] of changed.entries()) {
      if (n % BATCH_ROWS === 0) yield;
      if (sharesAsBefore(i)) is.share(i, at, lists.numberOf(was.sharedAt(i, at)));
      else {
        open[i] = 1;
        is.share(i, at, 0);
      }
    }
    for (const group of yield* meeting(comparison, was, is, open)) {
      yield;
      const issues = group.length < 2 ? undefined : sharedIssues(compiled, comparison, group, is, after.rows);
      let [last, number] = [undefined as Issue | undefined, 0];
      for (let n = 0; n < group.length; n++) {
        const issue = issues?.[n];
        if (issue !== last) number = issue ? lists.numberOf([issue]) : 0;
        last = issue;
        is.share(group[n] as number, at, number);
      }
    }
  }
}

/** What listings share, under numbers from 1 on; 0 where one takes no part. */
interface Keys {
  readonly of: Int32Array;
  readonly count: number;
  /** What they were found by beside the values, as it was then; undefined where that is not known. */
  readonly by: object | undefined;
}

const valueAlone = {};
const besideOf = ({ beside }: Comparison): object | undefined => (beside ? beside() : valueAlone);

/** Found once for a column, and as long as what they are found by is the same. */
const keysOf = new WeakMap<readonly (Value | undefined)[], Keys>();

function stored(comparison: Comparison, column: readonly (Value | undefined)[]): Keys | undefined {
  const known = keysOf.get(column);
  return known?.by !== undefined && known.by === besideOf(comparison) ? known : undefined;
}

function keep(column: readonly (Value | undefined)[], keys: Keys): Keys {
  keysOf.set(column, keys);
  return keys;
}

function* keysIn(comparison: Comparison, column: readonly (Value | undefined)[]): Steps<Keys> {
  const known = stored(comparison, column);
  if (known) return known;
  // It may change while this is under way: then nobody takes these for what it is by then.
  const by = besideOf(comparison);
  const numbers = new Map<string, number>();
  const of = new Int32Array(column.length);
  for (let i = 0; i < column.length; i++) {
    if (i % BATCH_ROWS === 0) yield;
    const key = comparison.keyOf(column[i]);
    if (key === undefined) continue;
    const number = numbers.get(key) ?? numbers.size + 1;
    if (number > numbers.size) numbers.set(key, number);
    of[i] = number;
  }
  return keep(column, { of, count: numbers.size, by });
}

/** The same after an edit: where few listings have another value, all others keep their numbers. @param then those before */
function* keysAfter(comparison: Comparison, then: Keys, is: Listings, open: Uint8Array): Steps<Keys> {
  const column = is.column(comparison.at);
  const known = stored(comparison, column);
  if (known) return known;
  const places: number[] = [];
  for (let i = 0; i < is.length; i++) if (open[i]) places.push(i);
  if (places.length > is.length / 8) return yield* keysIn(comparison, column);
  const of = new Int32Array(is.length);
  of.set(then.of.subarray(0, is.length));
  /** Numbers of what is shared at these places; 0 until one is met that shares it. */
  const numbers = new Map<string, number>();
  for (const i of places) {
    const key = comparison.keyOf(column[i]);
    if (key !== undefined) numbers.set(key, 0);
  }
  let { count } = then;
  for (let i = 0; numbers.size > 0 && i < is.length; i++) {
    if (i % BATCH_ROWS === 0) yield;
    const key = open[i] ? undefined : comparison.keyOf(column[i]);
    if (key !== undefined && numbers.get(key) === 0) numbers.set(key, of[i] as number);
  }
  for (const i of places) {
    const key = comparison.keyOf(column[i]);
    const number = key === undefined ? 0 : numbers.get(key) || ++count;
    if (key !== undefined) numbers.set(key, number);
    of[i] = number;
  }
  return keep(column, { of, count, by: then.by });
}

/**
 * Groups of listings that share something, of which one shares it now, or did, and is open: by position, in order.
 * @param open by position: 1 where a listing may share other things than it did
 */
function* meeting(
  comparison: Comparison,
  was: Listings,
  is: Listings,
  open: Uint8Array,
): Steps<Iterable<number[]>> {
  if (!open.includes(1) && was.length <= is.length) return [];
  const [before, after] = [was.column(comparison.at), is.column(comparison.at)];
  const then = yield* keysIn(comparison, before);
  const now = before === after ? then : yield* keysAfter(comparison, then, is, open);
  const [left, met] = [new Uint8Array(then.count + 1), new Uint8Array(now.count + 1)];
  for (let i = 0; i < Math.max(was.length, is.length); i++) {
    if (i < is.length && !open[i]) continue;
    if (i < was.length && !was.isLeftOut(i)) left[then.of[i] as number] = 1;
    if (i < is.length && !is.isLeftOut(i)) met[now.of[i] ?? 0] = 1;
  }
  // What one has left is known by those who stay: they share it still.
  for (let i = 0; i < Math.min(was.length, is.length); i++)
    if (!open[i] && left[then.of[i] as number]) met[now.of[i] ?? 0] = 1;
  const groups = new Map<number, number[]>();
  for (let i = 0; i < is.length; i++) {
    const key = now.of[i] ?? 0;
    if (key === 0 || !met[key] || is.isLeftOut(i)) continue;
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  }
  return groups.values();
}
