import { itemNameIn } from '../catalog/snapshot';
import type { FeedContext } from '../evaluation/feedContext';
import { matchesFilter } from '../stages/checks';

/** A listing in a list. */
export interface ListingLine {
  readonly sku: string;
  readonly name: string;
  readonly state: string;
}

const MAX_LINES = 200;

/** The listings of a feed that match a query, the first of them. */
export function listingLines(
  work: FeedContext,
  query: { readonly find?: string | undefined },
): { lines: ListingLine[]; total: number } {
  const { draft, snapshot } = work;
  const nameOf = itemNameIn(snapshot);
  const found = draft.listings.positions(matchesFilter(work, query));
  return {
    total: found.length,
    lines: found.slice(0, MAX_LINES).map((at) => {
      const state = draft.listings.stateAt(at);
      return {
        sku: draft.listings.skuAt(at),
        name: nameOf(at) || draft.listings.skuAt(at),
        state: state === 'leftOut' ? `excluded: ${draft.listings.reasonAt(at)}` : state,
      };
    }),
  };
}
