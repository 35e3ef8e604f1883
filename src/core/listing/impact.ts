import { sameValue } from '../catalog/value';
import { type Issue, issueKey } from '../checks/issue';
import type { Listing, ListingState } from './evaluate';

/** What publishing a draft would change, over the whole catalog. */
export interface Impact {
  readonly changed: number;
  readonly total: number;
  readonly cleared: number;
  readonly appeared: number;
  readonly newlyReady: number;
  readonly newlyBlocked: number;
}

export interface Difference {
  readonly sku: string;
  readonly before: Listing;
  readonly after: Listing;
  /** Positions of the fields whose values differ. */
  readonly fields: readonly number[];
  readonly cleared: readonly Issue[];
  readonly appeared: readonly Issue[];
}

/** The listings that differ between two evaluations of the same catalog in the same order. */
export function differences(before: readonly Listing[], after: readonly Listing[]): Difference[] {
  const found: Difference[] = [];
  for (let i = 0; i < after.length; i++) {
    const a = before[i];
    const b = after[i];
    if (!a || !b || a === b) continue;
    const fields: number[] = [];
    const count = Math.max(a.values.length, b.values.length);
    for (let at = 0; at < count; at++) if (!sameValue(a.values[at], b.values[at])) fields.push(at);
    const cleared = missingFrom(a.issues, b.issues);
    const appeared = missingFrom(b.issues, a.issues);
    if (fields.length > 0 || a.state !== b.state || cleared.length > 0 || appeared.length > 0)
      found.push({ sku: b.sku, before: a, after: b, fields, cleared, appeared });
  }
  return found;
}

const none: readonly Issue[] = [];
const blocks = ({ severity }: Issue) => severity === 'blocker';

function missingFrom(issues: readonly Issue[], others: readonly Issue[]): readonly Issue[] {
  // Most listings are held up by nothing, and most that are, by the same as before.
  if (issues === others || !issues.some(blocks)) return none;
  // What is taken lighter now is a blocker no more.
  const known = new Set(others.filter(blocks).map(issueKey));
  return issues.filter((issue) => blocks(issue) && !known.has(issueKey(issue)));
}

export function impactOf(found: readonly Difference[], total: number): Impact {
  const moved = (to: ListingState, difference: Difference) =>
    difference.before.state !== to && difference.after.state === to;
  return {
    changed: found.length,
    total,
    cleared: found.reduce((sum, { cleared }) => sum + cleared.length, 0),
    appeared: found.reduce((sum, { appeared }) => sum + appeared.length, 0),
    newlyReady: found.filter((difference) => moved('ready', difference)).length,
    newlyBlocked: found.filter((difference) => moved('blocked', difference)).length,
  };
}
