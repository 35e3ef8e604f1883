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
  return countFields(
    listings,
    fields,
    fields.map((_, at) => at),
  );
}

/**
 * Coverage after an edit: only the fields that it touches are counted again.
 * @param touched positions of fields whose values or issues may differ; everything where listings were left out or taken in
 */
export function coverageAgain(
  known: readonly Coverage[],
  listings: readonly Listing[],
  fields: readonly { code: string }[],
  touched: Iterable<number>,
): Coverage[] {
  const positions = [...touched];
  const counted = countFields(listings, fields, positions);
  const result = [...known];
  positions.forEach((at, n) => {
    result[at] = counted[n] as Coverage;
  });
  return result;
}

function countFields(
  listings: readonly Listing[],
  fields: readonly { code: string }[],
  wanted: readonly number[],
): Coverage[] {
  const places = new Map(wanted.map((at, n) => [fields[at]?.code ?? '', n]));
  const counts = wanted.map((): Counts => ({ filled: 0, failing: 0, missing: 0, empty: 0, total: 0 }));
  // Which listing last failed on a field: cheaper than a set for each of a hundred thousand listings.
  const failed = new Int32Array(wanted.length).fill(-1);
  listings.forEach(({ state, values, issues }, i) => {
    if (state === 'leftOut') return;
    for (const { field, severity } of issues) {
      const n = severity === 'blocker' ? places.get(field) : undefined;
      if (n !== undefined) failed[n] = i;
    }
    for (let n = 0; n < wanted.length; n++) {
      const count = counts[n] as Counts;
      const filled = values[wanted[n] as number] !== undefined;
      count.total++;
      if (filled) {
        if (failed[n] === i) count.failing++;
        else count.filled++;
      } else if (failed[n] === i) count.missing++;
      else count.empty++;
    }
  });
  return counts;
}
