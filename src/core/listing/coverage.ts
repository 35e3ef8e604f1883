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

/** Coverage of every field, by position. Left out listings do not count. */
export function coverageOf(listings: readonly Listing[], fields: readonly { code: string }[]): Coverage[] {
  const positions = new Map(fields.map(({ code }, at) => [code, at]));
  const counts = fields.map(() => ({ filled: 0, failing: 0, missing: 0, empty: 0, total: 0 }));
  for (const { state, values, issues } of listings) {
    if (state === 'leftOut') continue;
    const failing = new Set<number>();
    for (const { field, severity } of issues) {
      const at = positions.get(field);
      if (severity === 'blocker' && at !== undefined) failing.add(at);
    }
    counts.forEach((count, at) => {
      const filled = values[at] !== undefined;
      count.total++;
      if (filled && failing.has(at)) count.failing++;
      else if (filled) count.filled++;
      else if (failing.has(at)) count.missing++;
      else count.empty++;
    });
  }
  return counts;
}
