import { ByCause, type Issue, issueKey } from '../checks/issue';
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

interface Group {
  /** The first that was found. */
  issue: Issue | undefined;
  readonly skus: string[];
  frees: number;
  /** Of which listing it was told last. */
  last: number;
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
  const groups = new ByCause((): Group => ({ issue: undefined, skus: [], frees: 0, last: -1 }));
  for (const [at, { state, sku, issues }] of listings.entries()) {
    if (state !== 'blocked') continue;
    let causes = 0;
    let only: Group | undefined;
    for (const issue of issues) {
      if (issue.severity !== 'blocker') continue;
      const group = groups.of(issue.check, issue.field);
      // A check may say more than one thing of a field.
      if (group.last === at) continue;
      group.last = at;
      group.issue ??= issue;
      group.skus.push(sku);
      causes++;
      only = group;
    }
    if (only && causes === 1) only.frees++;
  }
  return groups
    .all()
    .flatMap(({ issue, skus, frees }) =>
      issue === undefined
        ? []
        : {
            key: issueKey(issue),
            issue,
            skus,
            frees,
            title: checkTitles[issue.check](labelOf(issue.field)),
            stage: stageOf(issue),
          },
    )
    .sort((a, b) => b.frees - a.frees || b.skus.length - a.skus.length || a.key.localeCompare(b.key));
}
