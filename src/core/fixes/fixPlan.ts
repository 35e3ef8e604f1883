import type { FeedFigures } from '../listing/figures';

/**
 * Which changes to make one after another so that most listings are freed for the least work. A listing is free when all
 * that blocks it is cleared, so changes are weighed in sets: what three blockers hold is freed by the three together.
 */
export interface FixSet {
  /** The causes that it clears, `check:field`, beside those of the sets before it. */
  readonly causes: readonly string[];
  readonly cost: number;
  /** Listings it frees, the sets before it being taken. */
  readonly frees: number;
  /** Causes cleared and listings freed up to here. */
  readonly cleared: number;
  readonly freed: number;
}

export interface FixPlan {
  readonly sets: readonly FixSet[];
  readonly blocked: number;
}

/** Combinations of causes that are tried for the next set, those with most listings first; what a set frees is counted over all. */
const MAX_TRIED = 300;

const within = (causes: readonly string[], cleared: ReadonlySet<string>): boolean =>
  causes.every((cause) => cleared.has(cause));

/**
 * The sets in the order in which they are worth taking: each time that which frees most listings for its cost, with what is
 * cleared already. It ends when nothing is blocked any more.
 * @param causes how many listings are blocked by just these causes together, a line each
 * @param costOf what clearing a cause costs, in choices or values to type; above zero
 * @param most no more sets than these; all of them where left out
 */
export function fixPlan(
  { causes }: Pick<FeedFigures, 'causes'>,
  costOf: (cause: string) => number = () => 1,
  most = Number.POSITIVE_INFINITY,
): FixPlan {
  const blocked = causes.reduce((sum, [, listings]) => sum + listings, 0);
  let open = [...causes]
    .sort((a, b) => b[1] - a[1])
    .map(([together, listings]) => ({ causes: together.split('\n'), listings }));
  const cleared = new Set<string>();
  const sets: FixSet[] = [];
  let freed = 0;
  while (open.length > 0 && sets.length < most) {
    let best: { need: string[]; cost: number; frees: number } | undefined;
    const tried = new Set<string>();
    for (const { causes: own } of open.slice(0, MAX_TRIED)) {
      const need = own.filter((cause) => !cleared.has(cause));
      const key = need.join('\n');
      if (tried.has(key)) continue;
      tried.add(key);
      const cost = need.reduce((sum, cause) => sum + costOf(cause), 0);
      const wanted = new Set([...cleared, ...need]);
      const frees = open.reduce((sum, one) => sum + (within(one.causes, wanted) ? one.listings : 0), 0);
      const better =
        !best ||
        frees * best.cost > best.frees * cost ||
        (frees * best.cost === best.frees * cost &&
          (frees > best.frees || (frees === best.frees && key < best.need.join('\n'))));
      if (better) best = { need, cost, frees };
    }
    if (!best) break;
    for (const cause of best.need) cleared.add(cause);
    freed += best.frees;
    sets.push({ causes: best.need, cost: best.cost, frees: best.frees, cleared: cleared.size, freed });
    open = open.filter((one) => !within(one.causes, cleared));
  }
  return { sets, blocked };
}

/**
 * More than this no choice of so many causes can free: each listing shares its weight evenly among its causes, and what a
 * choice frees has all of its weight inside the choice. @param most how many causes may be cleared
 */
export function mostFreed({ causes }: Pick<FeedFigures, 'causes'>, most: number): number {
  const shares = new Map<string, number>();
  for (const [together, listings] of causes) {
    const own = together.split('\n');
    for (const cause of own) shares.set(cause, (shares.get(cause) ?? 0) + listings / own.length);
  }
  return [...shares.values()]
    .sort((a, b) => b - a)
    .slice(0, most)
    .reduce((sum, share) => sum + share, 0);
}
