import type { Issue } from '../checks/issue';
import { checkTitles } from '../checks/words';
import type { Listing } from '../listing/evaluate';

/** One change that would clear a set of issues. */
export interface Remedy {
  /** `check:field`, plus the value for table entries. */
  readonly key: string;
  readonly issue: Issue;
  readonly title: string;
  /** Listings that have the issue. */
  readonly skus: readonly string[];
  /** Listings that have no other blocker: this change alone frees them. */
  readonly frees: number;
  /** Where in the feed the change is made. */
  readonly stage: 'fields' | 'categories' | 'titles' | 'rules' | 'items';
}

/**
 * Gathers blockers into remedies, those that free most listings first, then those that touch most.
 * @param labelOf the field's label, in the channel's words
 */
export function remediesFor(
  listings: readonly Listing[],
  labelOf: (field: string) => string,
  stageOf: (issue: Issue) => Remedy['stage'],
): Remedy[] {
  const groups = new Map<string, { issue: Issue; skus: string[]; frees: number }>();
  for (const listing of listings) {
    if (listing.state !== 'blocked') continue;
    const keys = new Map<string, Issue>();
    for (const issue of listing.issues)
      if (issue.severity === 'blocker') keys.set(`${issue.check}:${issue.field}`, issue);
    for (const [key, issue] of keys) {
      const group = groups.get(key) ?? { issue, skus: [], frees: 0 };
      group.skus.push(listing.sku);
      if (keys.size === 1) group.frees++;
      groups.set(key, group);
    }
  }
  return [...groups]
    .map(([key, { issue, skus, frees }]) => ({
      key,
      issue,
      skus,
      frees,
      title: checkTitles[issue.check](labelOf(issue.field)),
      stage: stageOf(issue),
    }))
    .sort((a, b) => b.frees - a.frees || b.skus.length - a.skus.length || a.key.localeCompare(b.key));
}
