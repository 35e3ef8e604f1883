import type { Row } from '../../core/catalog/value';
import type { Listing } from '../../core/listing/evaluate';
import type { Listings } from '../../core/listing/listings';
import { atOnce, BATCH_ROWS, type Steps } from '../../core/listing/steps';
import type { Snapshot } from '../catalog/snapshot';
import { identityOf, Memo } from '../runtime/memo';

/** What is counted: the draft's listings of a feed, over a catalog. */
interface CountedFeed {
  readonly plans: { readonly head: { readonly code: string } };
  readonly draft: { readonly listings: Listings };
  readonly snapshot: Snapshot;
  readonly channel: object;
}

/** The last count of its kind, and the listings and items it was made of: whole catalogs are not kept for this alone. */
const last = new Memo<{ readonly by: string; readonly state: unknown }, readonly [Listings, readonly Row[]]>({
  owner: 'last counts',
  maxEntries: 500,
});

/** {@link countingIncrementally}, at once: for what is counted in no time. */
export const countIncrementally = <S>(...words: Parameters<typeof countingIncrementally<S>>): S =>
  atOnce(countingIncrementally(...words));

/**
 * Counts something of every listing of a feed's draft; after an edit of it, or of the catalog, only of the listings and
 * items that are others since, which are taken off the last count as they were and added as they are.
 * @param name what is counted
 * @param by what the count depends on beside listings and items
 * @param begin an empty count
 * @param add adds a listing to a count so many times: once, or minus once
 * @returns the count, which the next one goes on with: to be read now, not kept
 */
export function* countingIncrementally<S>(
  { plans, draft: { listings }, snapshot, channel }: CountedFeed,
  name: string,
  by: string,
  begin: () => S,
  add: (state: S, listing: Listing, row: Row, times: 1 | -1) => void,
): Steps<S> {
  const key = `${plans.head.code} ${name}`;
  const of = `${identityOf(snapshot.index)} ${identityOf(channel)} ${by}`;
  const found = last.withDependencies(key);
  const known = found?.value.by === of ? found : undefined;
  const [before, rowsBefore] = known?.dependencies ?? [undefined, []];
  const state = known ? (known.value.state as S) : begin();
  // Where something fails half way, or asks while this is under way, nobody goes on with it.
  last.delete(key);
  const { rows } = snapshot;
  const both = Math.min(listings.length, before?.length ?? 0);
  for (let at = 0; at < Math.max(listings.length, before?.length ?? 0); at++) {
    if (at % BATCH_ROWS === 0) yield;
    const [rowBefore, row] = [rowsBefore[at], rows[at]];
    if (before && at < both && rowBefore === row && listings.same(before, at)) continue;
    const [was, is] = [before?.at(at), listings.at(at)];
    if (was && rowBefore) add(state, was, rowBefore, -1);
    if (is && row) add(state, is, row, 1);
  }
  last.set(key, { by: of, state }, listings, rows);
  return state;
}

/** Counts a word so many times more; one that is left with none is no longer there. */
export function countWord(counts: Map<string, number>, word: string, times: number): void {
  const count = (counts.get(word) ?? 0) + times;
  if (count === 0) counts.delete(word);
  else counts.set(word, count);
}
