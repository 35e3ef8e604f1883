import { type Issue, issueKey } from '../checks/issue';
import type { Listing } from './evaluate';

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

const blockersOf = ({ issues }: Listing): Issue[] => issues.filter(({ severity }) => severity === 'blocker');

/**
 * Compares a feed's listings under two versions of its channel. Both lists hold the same items in the same order.
 * Values are not compared: the versions may have other fields, and what counts is whether a listing is still taken.
 */
export function versionEffect(before: readonly Listing[], after: readonly Listing[]): VersionEffect {
  const broken: ListingEffect[] = [];
  const worse: ListingEffect[] = [];
  const mended: string[] = [];
  after.forEach((listing, i) => {
    const old = before[i];
    if (!old) return;
    if (listing.state === 'blocked') {
      const known = new Set(blockersOf(old).map(issueKey));
      const appeared = blockersOf(listing).filter((issue) => !known.has(issueKey(issue)));
      if (old.state === 'ready') broken.push({ sku: listing.sku, appeared });
      else if (old.state === 'blocked' && appeared.length > 0) worse.push({ sku: listing.sku, appeared });
    } else if (listing.state === 'ready' && old.state === 'blocked') mended.push(listing.sku);
  });
  return { broken, worse, mended, total: after.length };
}
