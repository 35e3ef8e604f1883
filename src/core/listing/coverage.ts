import type { Issue } from '../checks/issue';
import type { Listing } from './evaluate';

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
export function coverageOf(listings: readonly Listing[], fields: readonly { code: string }[]): Coverage[] {
  const counts = fields.map((): Counts => ({ filled: 0, failing: 0, missing: 0, empty: 0, total: 0 }));
  const add = counter(
    counts,
    fields,
    fields.map((_, at) => at),
  );
  for (const listing of listings) add(listing, 1);
  return counts;
}

/**
 * Coverage after an edit: of the listings that differ, the fields that it touches are counted again.
 * @param known the coverage of those before
 * @param before in the same order; one that stayed as it was is the same object
 * @param touched positions of fields whose values or issues may differ; every one where listings were left out or taken in
 */
export function coverageAgain(
  known: readonly Coverage[],
  before: readonly Listing[],
  listings: readonly Listing[],
  fields: readonly { code: string }[],
  touched: Iterable<number>,
): Coverage[] {
  const counts = known.map((one): Counts => ({ ...one }));
  const wanted = [...touched];
  const add = counter(counts, fields, wanted);
  const places = placesOf(fields, wanted);
  const [failedThen, failsNow] = [failures(fields, places), failures(fields, places)];
  for (let i = 0; i < listings.length; i++) {
    const was = before[i] as Listing;
    const is = listings[i] as Listing;
    if (was === is) continue;
    if (was.state === 'leftOut' || is.state === 'leftOut') {
      add(was, -1);
      add(is, 1);
      continue;
    }
    // Most edits put one value in another's place, and what is said of it stays as it was.
    const saidAlike = was.issues === is.issues;
    if (!saidAlike) {
      failedThen.take(was.issues);
      failsNow.take(is.issues);
    }
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      const [filled, fills] = [was.values[at] !== undefined, is.values[at] !== undefined];
      if (filled === fills && (saidAlike || failedThen.on(at) === failsNow.on(at))) continue;
      if (saidAlike) {
        failedThen.take(was.issues);
        failsNow.take(is.issues);
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
): (listing: Listing, by: 1 | -1) => void {
  const failed = failures(fields, placesOf(fields, wanted));
  return ({ state, values, issues }, by) => {
    if (state === 'leftOut') return;
    failed.take(issues);
    for (let n = 0; n < wanted.length; n++) {
      const at = wanted[n] as number;
      tally(counts[at] as Counts, values[at] !== undefined, failed.on(at), by);
    }
  };
}
