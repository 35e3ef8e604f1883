import { ByCause, type CheckName, type Issue, issueKey, type Severity } from '../checks/issue';
import { causesOf, type FeedFigures } from '../listing/figures';
import { Listings } from '../listing/listings';
import { BATCH_ROWS, type Steps } from '../listing/steps';

/** A cause, and whom it holds. */
export interface BlockedListings {
  readonly check: CheckName;
  readonly field: string;
  /** Positions of the listings that it blocks, and of those that it is a risk or a tip for; both in order. */
  readonly blocked: readonly number[];
  readonly told: readonly number[];
  /** How serious it is to the last of those that it does not block. */
  readonly severity: Severity;
}

/** What is said of the listings of a feed, gathered by cause. */
export interface BlockerIndex {
  /** By `check:field`. */
  readonly causes: ReadonlyMap<string, BlockedListings>;
  /** How many listings are blocked by just these causes together, see {@link causesOf}. */
  readonly together: FeedFigures['causes'];
}

const nothingBlocked: BlockerIndex = { causes: new Map(), together: [] };

/** Positions that a cause loses and gains, in order. */
interface Change {
  readonly check: CheckName;
  readonly field: string;
  readonly less: { readonly blocked: number[]; readonly told: number[] };
  readonly more: { readonly blocked: number[]; readonly told: number[] };
}

const isBlocker = ({ severity }: Issue): boolean => severity === 'blocker';

/** Puts together what blocks a listing: of thousands that are held up by the same in the same order, once. */
function togetherOf(): (issues: readonly Issue[]) => string {
  let count = 0;
  const numbers = new ByCause(() => count++);
  const known = new Map<string, string>();
  return (issues) => {
    let order = '';
    for (const issue of issues) if (isBlocker(issue)) order += `${numbers.of(issue.check, issue.field)} `;
    const found = known.get(order) ?? causesOf(issues);
    known.set(order, found);
    return found;
  };
}

/** A list in order without some of its numbers and with others; both in order, and what is in both stays. */
function changed(
  list: readonly number[],
  less: readonly number[],
  more: readonly number[],
): readonly number[] {
  if (less.length === 0 && more.length === 0) return list;
  const result: number[] = [];
  let [gone, next] = [0, 0];
  for (const one of list) {
    while (gone < less.length && (less[gone] as number) < one) gone++;
    if (less[gone] === one) continue;
    while (next < more.length && (more[next] as number) < one) result.push(more[next++] as number);
    result.push(one);
  }
  while (next < more.length) result.push(more[next++] as number);
  return result;
}

/**
 * Gathers by cause what is said of listings. After an edit only those that are others since are looked at: always the same as
 * from nothing.
 * @param known what was gathered of the listings before, in the same order; nothing where left out
 */
export function* blockerIndexOf(
  listings: Listings,
  known?: { readonly holding: BlockerIndex; readonly of: Listings },
): Steps<BlockerIndex> {
  const { holding, of: before } = known ?? { holding: nothingBlocked, of: new Listings([], []) };
  const changes = new ByCause(
    (check, field): Change => ({
      check,
      field,
      less: { blocked: [], told: [] },
      more: { blocked: [], told: [] },
    }),
  );
  const together = new Map(holding.together);
  const textOf = togetherOf();
  const take = (issues: readonly Issue[], at: number, route: 'less' | 'more') => {
    for (let n = 0; n < issues.length; n++) {
      const issue = issues[n] as Issue;
      const list = changes.of(issue.check, issue.field)[route][isBlocker(issue) ? 'blocked' : 'told'];
      // A check may say more than one thing of a field.
      if (list.at(-1) !== at) list.push(at);
    }
  };
  const stand = (of: Listings, at: number, by: 1 | -1) => {
    if (of.stateAt(at) !== 'blocked') return;
    const text = textOf(of.issuesAt(at));
    const count = (together.get(text) ?? 0) + by;
    if (count === 0) together.delete(text);
    else together.set(text, count);
  };
  const comparable = listings.lists === before.lists;
  const columns = listings
    .slotsBetween(before)
    .map((slot) => [before.saidIn(slot), listings.saidIn(slot)] as const);
  for (let at = 0; at < Math.max(listings.length, before.length); at++) {
    if (at % BATCH_ROWS === 0) yield;
    const [was, is] = [at < before.length, at < listings.length];
    if (was && is && listings.same(before, at)) continue;
    let differs = false;
    for (const [saidThen, says] of columns) {
      const [less, more] = [saidThen?.[at] ?? 0, says?.[at] ?? 0];
      if (less === more && (comparable || less === 0)) continue;
      differs = true;
      take(before.lists.list(less), at, 'less');
      take(listings.lists.list(more), at, 'more');
    }
    if (differs && was) stand(before, at, -1);
    if (differs && is) stand(listings, at, 1);
  }
  const causes = new Map(holding.causes);
  for (const { check, field, less, more } of changes.all()) {
    yield;
    const key = `${check}:${field}`;
    const held = causes.get(key) ?? { blocked: [], told: [] };
    const blocked = changed(held.blocked, less.blocked, more.blocked);
    const reported = changed(held.told, less.told, more.told);
    const lastTold = reported.at(-1);
    const last = (lastTold === undefined ? [] : listings.issuesAt(lastTold)).findLast(
      (issue) => issue.check === check && issue.field === field && !isBlocker(issue),
    );
    if (blocked.length + reported.length === 0) causes.delete(key);
    else causes.set(key, { check, field, blocked, told: reported, severity: last?.severity ?? 'tip' });
  }
  return { causes, together: [...together].sort(([a], [b]) => (a < b ? -1 : 1)) };
}

/** The issue that a cause is to the first listing it blocks. */
export const blockerOf = (
  listings: Listings,
  { check, field, blocked }: BlockedListings,
): Issue | undefined =>
  listings
    .at(blocked[0] ?? -1)
    ?.issues.find((issue) => isBlocker(issue) && issueKey(issue) === `${check}:${field}`);
