import type { Issue } from '../checks/issue';
import type { ListingState } from './evaluate';

/** The figures of a whole feed, counted from what is kept of each of its listings. */
export interface FeedFigures {
  readonly states: Readonly<Record<ListingState, number>>;
  /** By the merchant's category, "" for items without one. */
  readonly categories: readonly (readonly [
    category: string,
    counts: Readonly<Record<ListingState, number>>,
  ])[];
  /** How many listings are blocked by just these causes, see {@link causesOf}. */
  readonly causes: readonly (readonly [causes: string, listings: number])[];
}

export const noFigures: FeedFigures = {
  states: { ready: 0, blocked: 0, leftOut: 0 },
  categories: [],
  causes: [],
};

/** As many signs are kept of what blocks a listing; what stands behind them is left out, whole. */
export const MAX_CAUSES = 1500;

/** Causes as one text: each once, in order, a line each. */
export function causesTogether(causes: Iterable<string>): string {
  const text = [...new Set(causes)].sort().join('\n');
  return text.length <= MAX_CAUSES ? text : text.slice(0, text.lastIndexOf('\n', MAX_CAUSES));
}

/** What blocks a listing, each cause as `check:field`. Empty where nothing does. */
export const causesOf = (issues: readonly Pick<Issue, 'check' | 'field' | 'severity'>[]): string =>
  causesTogether(
    issues.flatMap(({ check, field, severity }) => (severity === 'blocker' ? [`${check}:${field}`] : [])),
  );

/** One cause with the listings it blocks, and those that it alone blocks. */
export interface Cause {
  readonly check: Issue['check'];
  readonly field: string;
  readonly listings: number;
  readonly frees: number;
}

/** Gathers what blocks listings by cause; first what frees most by itself, then what touches most. */
export function causesIn({ causes }: Pick<FeedFigures, 'causes'>): Cause[] {
  const found = new Map<string, { listings: number; frees: number }>();
  for (const [together, listings] of causes) {
    const keys = together.split('\n');
    for (const key of keys) {
      const known = found.get(key) ?? { listings: 0, frees: 0 };
      known.listings += listings;
      if (keys.length === 1) known.frees += listings;
      found.set(key, known);
    }
  }
  return [...found]
    .sort(([a, x], [b, y]) => y.frees - x.frees || y.listings - x.listings || a.localeCompare(b))
    .map(([key, counts]) => {
      const at = key.indexOf(':');
      return { check: key.slice(0, at) as Issue['check'], field: key.slice(at + 1), ...counts };
    });
}
