import type { Issue } from '../checks/issue';
import { issueTitle } from '../checks/messages';
import type { Listings } from '../listing/listings';
import { type BlockerIndex, blockerOf } from './blockerIndex';

/** One change that would clear a set of issues. */
export interface RankedFix {
  /** `check:field`. */
  readonly key: string;
  readonly issue: Issue;
  readonly title: string;
  /** How many listings have it. */
  readonly count: number;
  /** How many of them have no other blocker: this change alone frees them. */
  readonly frees: number;
  /** Where in the feed the change is made. */
  readonly stage: 'fields' | 'categories' | 'titles' | 'rules' | 'items';
}

/**
 * Blockers as fixes, those that free most listings first, then those that touch most.
 * @param listings those whose causes were gathered
 */
export function rankedFixes(
  listings: Listings,
  { causes, together }: BlockerIndex,
  labelOf: (field: string) => string,
  stageOf: (issue: Issue) => RankedFix['stage'],
): RankedFix[] {
  const alone = new Map(together);
  return [...causes]
    .flatMap(([key, held]): RankedFix[] => {
      const issue = blockerOf(listings, held);
      return issue
        ? [
            {
              key,
              issue,
              count: held.blocked.length,
              frees: alone.get(key) ?? 0,
              title: issueTitle(held.check, labelOf(held.field)),
              stage: stageOf(issue),
            },
          ]
        : [];
    })
    .sort((a, b) => b.frees - a.frees || b.count - a.count || a.key.localeCompare(b.key));
}
