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
    listings,
    counts,
    fields.map((_, at) => at),
  );
  for (let i = 0; i < listings.length; i++) add(i, 1);
  return counts;
}

/**
 * Coverage after an edit: of the listings that differ, the fields that it touches are counted again.
 * @param known the coverage of those before
 * @param before in the same order, and as many
 * @param touched positions of fields whose values or issues may differ; every one where listings were left out or taken in
 */
export function coverageIncrementally(
  known: readonly Coverage[],
  before: Listings,
  listings: Listings,
  touched: Iterable<number>,
): Coverage[] {
  const counts = known.map((one): Counts => ({ ...one }));
  const wanted = [...touched];
  const [was, is] = [counter(before, counts, wanted), counter(listings, counts, wanted)];
  for (let i = 0; i < listings.length; i++) {
    if (listings.same(before, i)) continue;
    was(i, -1);
    is(i, 1);
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

/** Counts a listing, or takes it away, in some of the fields. */
function counter(
  listings: Listings,
  counts: readonly Counts[],
  wanted: readonly number[],
): (i: number, by: 1 | -1) => void {
  const { lists } = listings;
  const [own, shared] = [wanted.map((at) => listings.saidOf(at)), wanted.map((at) => listings.sharedOf(at))];
  return (i, by) => {
    if (listings.isLeftOut(i)) return;
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      const fails = lists.blocks(own[n]?.[i] ?? 0) || lists.blocks(shared[n]?.[i] ?? 0);
      tally(counts[at] as Counts, listings.valueAt(i, at) !== undefined, fails, by);
    }
  };
}
