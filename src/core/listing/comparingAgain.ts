import { sameValue, type Value } from '../catalog/value';
import { type Comparison, partOf } from '../checks/comparing';
import type { Issue } from '../checks/issue';
import type { CompiledPlan } from './compile';
import { type CatalogRows, sharedIssues } from './evaluate';
import type { Listings, ListingsEdit } from './listings';
import { rowsAStep, type Steps } from './steps';

/** Checks that compare listings with each other, after an edit of a plan or of items. */

/** Listings with the items they are of. */
interface Standing<L extends Listings> extends CatalogRows {
  readonly listings: L;
}

/**
 * Compares those of which one changed with the others they share something with, or shared.
 * @param after the changed ones evaluated alone; changed in place
 */
export function* comparingAgain(
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
      comparison.ofValueAlone &&
      i < was.length &&
      before.skus[i] === after.skus[i] &&
      was.isLeftOut(i) === is.isLeftOut(i) &&
      sameValue(was.valueAt(i, at), is.valueAt(i, at)) &&
      partOf(comparison, was.skuAt(i), before.rows[i], familySlot) ===
        partOf(comparison, is.skuAt(i), after.rows[i], familySlot);
    const open = new Uint8Array(is.length);
    for (const [n, i] of changed.entries()) {
      if (n % rowsAStep === 0) yield;
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
}

/** Found once for a column, and as long as what else it follows from is the same. */
const keysOf = new WeakMap<readonly (Value | undefined)[], Keys & { readonly asOf: object }>();

function* keysIn({ keyOf, at, asOf }: Comparison, listings: Listings): Steps<Keys> {
  const column = listings.column(at);
  const beside = asOf();
  const known = keysOf.get(column);
  if (known && known.asOf === beside) return known;
  const numbers = new Map<string, number>();
  const of = new Int32Array(column.length);
  for (let i = 0; i < column.length; i++) {
    if (i % rowsAStep === 0) yield;
    const key = keyOf(column[i]);
    if (key === undefined) continue;
    const number = numbers.get(key) ?? numbers.size + 1;
    if (number > numbers.size) numbers.set(key, number);
    of[i] = number;
  }
  const keys = { of, count: numbers.size };
  if (beside) keysOf.set(column, { ...keys, asOf: beside });
  return keys;
}

/** The same after an edit: where few listings have another value, all others keep their numbers. */
function* keysAfter(
  comparison: Comparison,
  was: Listings,
  then: Keys,
  is: Listings,
  open: Uint8Array,
): Steps<Keys> {
  const { keyOf, at, asOf } = comparison;
  const column = is.column(at);
  if (was.column(at) === column) return then;
  const known = keysOf.get(column);
  const beside = asOf();
  if (known && known.asOf === beside) return known;
  /** Places of those that may have another, by what they share now. */
  const wanted = new Map<string, number[]>();
  const of = new Int32Array(is.length);
  of.set(then.of.subarray(0, is.length));
  let few = 0;
  for (let i = 0; i < is.length; i++) {
    if (!open[i]) continue;
    if (++few > is.length / 8) return yield* keysIn(comparison, is);
    of[i] = 0;
    const key = keyOf(column[i]);
    if (key === undefined) continue;
    const places = wanted.get(key);
    if (places) places.push(i);
    else wanted.set(key, [i]);
  }
  for (let i = 0; wanted.size > 0 && i < is.length; i++) {
    if (i % rowsAStep === 0) yield;
    const key = open[i] ? undefined : keyOf(column[i]);
    const places = key === undefined ? undefined : wanted.get(key);
    if (!places || key === undefined) continue;
    for (const place of places) of[place] = of[i] as number;
    wanted.delete(key);
  }
  let { count } = then;
  for (const places of wanted.values()) {
    count++;
    for (const place of places) of[place] = count;
  }
  const keys = { of, count };
  if (beside) keysOf.set(column, { ...keys, asOf: beside });
  return keys;
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
  const then = yield* keysIn(comparison, was);
  const now = yield* keysAfter(comparison, was, then, is, open);
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
