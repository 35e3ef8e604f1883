import { type Issue, issueKey } from '../checks/issue';
import type { Listings } from './listings';

/** What another version of the sheet does to one listing. */
export interface ListingEffect {
  readonly sku: string;
  /** Blockers it did not have before. */
  readonly appeared: readonly Issue[];
}

/** What taking on another version of the sheet does to a feed's listings; the plan stays as it is. */
export interface VersionEffect {
  /** Ready before, blocked after. */
  readonly broken: readonly ListingEffect[];
  /** Blocked before, and with further blockers after. */
  readonly worse: readonly ListingEffect[];
  /** Blocked before, ready after. */
  readonly mended: readonly string[];
  readonly total: number;
}

const blockersOf = (issues: readonly Issue[]): Issue[] =>
  issues.filter(({ severity }) => severity === 'blocker');

/**
 * Compares a feed's listings under two versions of its channel. Both lists hold the same items in the same order.
 * Values are not compared: the versions may have other fields, and what counts is whether a listing is still taken.
 */
export function versionEffect(before: Listings, after: Listings): VersionEffect {
  const broken: ListingEffect[] = [];
  const worse: ListingEffect[] = [];
  const mended: string[] = [];
  for (let i = 0; i < Math.min(before.length, after.length); i++) {
    const [sku, was, is] = [after.skuAt(i), before.stateAt(i), after.stateAt(i)];
    if (is === 'blocked') {
      const known = new Set(blockersOf(before.issuesAt(i)).map(issueKey));
      const appeared = blockersOf(after.issuesAt(i)).filter((issue) => !known.has(issueKey(issue)));
      if (was === 'ready') broken.push({ sku, appeared });
      else if (was === 'blocked' && appeared.length > 0) worse.push({ sku, appeared });
    } else if (is === 'ready' && was === 'blocked') mended.push(sku);
  }
  return { broken, worse, mended, total: after.length };
}
