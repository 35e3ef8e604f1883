import type { Listings } from './listings';

/** How a field stands over the listings in scope. */
export interface Coverage {
  readonly filled: number;
  /** Filled, but with a blocker on the field. */
  readonly failing: number;
  /** Empty where it must not be. */
  readonly missing: number;
  readonly empty: number;
  readonly total: number;
}

/** Counts of one field while they are made. */
type Counts = { -readonly [K in keyof Coverage]: Coverage[K] };

/** Coverage of every field, by position. Left out listings do not count. */
export function coverageOf(listings: Listings, fields: readonly { code: string }[]): Coverage[] {
  const counts = fields.map((): Counts => ({ filled: 0, failing: 0, missing: 0, empty: 0, total: 0 }));
  const add = counter(
    counts,
    fields.map((_, at) => at),
  );
  for (let i = 0; i < listings.length; i++) add(listings, i, 1);
  return counts;
}

/**
 * Coverage after an edit: of the listings that differ, the fields that it touches are counted again.
 * @param known the coverage of those before
 * @param before in the same order
 * @param touched positions of fields whose values or issues may differ; every one where listings were left out or taken in
 */
export function coverageAgain(
  known: readonly Coverage[],
  before: Listings,
  listings: Listings,
  touched: Iterable<number>,
): Coverage[] {
  const counts = known.map((one): Counts => ({ ...one }));
  const wanted = [...touched];
  const [off, on] = [counter(counts, wanted), counter(counts, wanted)];
  const [failedThen, failsNow] = [failures(before, wanted), failures(listings, wanted)];
  for (let i = 0; i < listings.length; i++) {
    if (listings.same(before, i)) continue;
    if (before.isLeftOut(i) || listings.isLeftOut(i)) {
      off(before, i, -1);
      on(listings, i, 1);
      continue;
    }
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      const filled = before.valueAt(i, at) !== undefined;
      const fills = listings.valueAt(i, at) !== undefined;
      const [failed, fails] = [failedThen(i, n), failsNow(i, n)];
      if (filled === fills && failed === fails) continue;
      const count = counts[at] as Counts;
      tally(count, filled, failed, -1);
      tally(count, fills, fails, 1);
    }
  }
  return counts;
}

function tally(count: Counts, filled: boolean, fails: boolean, by: 1 | -1): void {
  count.total += by;
  if (filled) {
    if (fails) count.failing += by;
    else count.filled += by;
  } else if (fails) count.missing += by;
  else count.empty += by;
}

/** Tells whether something blocks at one of some fields of a listing. */
function failures(listings: Listings, wanted: readonly number[]): (i: number, n: number) => boolean {
  const { lists } = listings;
  const [own, shared] = [wanted.map((at) => listings.saidOf(at)), wanted.map((at) => listings.sharedOf(at))];
  return (i, n) => lists.blocks(own[n]?.[i] ?? 0) || lists.blocks(shared[n]?.[i] ?? 0);
}

/** Counts a listing, or takes it away, in some of the fields. */
function counter(
  counts: readonly Counts[],
  wanted: readonly number[],
): (listings: Listings, i: number, by: 1 | -1) => void {
  let of: Listings | undefined;
  let fails: ReturnType<typeof failures> = () => false;
  return (listings, i, by) => {
    if (listings.isLeftOut(i)) return;
    if (of !== listings) {
      of = listings;
      fails = failures(of, wanted);
    }
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      tally(counts[at] as Counts, listings.valueAt(i, at) !== undefined, fails(i, n), by);
    }
  };
}
