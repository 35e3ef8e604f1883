import type { Issue } from '../checks/issue';
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
    fields,
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
  fields: readonly { code: string }[],
  touched: Iterable<number>,
): Coverage[] {
  const counts = known.map((one): Counts => ({ ...one }));
  const wanted = [...touched];
  const add = counter(counts, fields, wanted);
  const places = placesOf(fields, wanted);
  const [failedThen, failsNow] = [failures(fields, places), failures(fields, places)];
  const [then, now] = [wanted.map((at) => before.column(at)), wanted.map((at) => listings.column(at))];
  for (let i = 0; i < listings.length; i++) {
    if (listings.same(before, i)) continue;
    if (before.isLeftOut(i) || listings.isLeftOut(i)) {
      add(before, i, -1);
      add(listings, i, 1);
      continue;
    }
    const [said, says] = [before.issuesAt(i), listings.issuesAt(i)];
    // Most edits put one value in another's place, and what is said of it stays as it was.
    const saidAlike = said === says;
    if (!saidAlike) {
      failedThen.take(said);
      failsNow.take(says);
    }
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      const filled = then[n]?.[i] !== undefined;
      const fills = now[n]?.[i] !== undefined;
      if (filled === fills && (saidAlike || failedThen.on(at) === failsNow.on(at))) continue;
      if (saidAlike) {
        failedThen.take(said);
        failsNow.take(says);
      }
      const count = counts[at] as Counts;
      tally(count, filled, failedThen.on(at), -1);
      tally(count, fills, failsNow.on(at), 1);
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

const placesOf = (
  fields: readonly { code: string }[],
  wanted: readonly number[],
): ReadonlyMap<string, number> => new Map(wanted.map((at) => [fields[at]?.code ?? '', at]));

/** Which fields of the listing taken last have a blocker: cheaper than a set for each of a hundred thousand listings. */
function failures(fields: readonly unknown[], places: ReadonlyMap<string, number>) {
  const failed = new Int32Array(fields.length).fill(-1);
  let turn = 0;
  return {
    take(issues: readonly Issue[]): void {
      turn++;
      for (let n = 0; n < issues.length; n++) {
        const { field, severity } = issues[n] as Issue;
        const at = severity === 'blocker' ? places.get(field) : undefined;
        if (at !== undefined) failed[at] = turn;
      }
    },
    on: (at: number): boolean => failed[at] === turn,
  };
}

/** Counts a listing, or takes it away, in some of the fields. */
function counter(
  counts: readonly Counts[],
  fields: readonly { code: string }[],
  wanted: readonly number[],
): (listings: Listings, i: number, by: 1 | -1) => void {
  const failed = failures(fields, placesOf(fields, wanted));
  return (listings, i, by) => {
    if (listings.isLeftOut(i)) return;
    failed.take(listings.issuesAt(i));
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      tally(counts[at] as Counts, listings.valueAt(i, at) !== undefined, failed.on(at), by);
    }
  };
}
