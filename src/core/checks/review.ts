import type { Condition } from '../conditions/conditions';
import { type CheckContext, type ListingCheck, readsOf } from './check';

/** Listings that a rule holds back until a person has looked at them. */
export interface HeldForReview {
  readonly reason: string;
  readonly when: Condition;
}

/**
 * Listings that rules hold back, as they stand when all rules are done: each is blocked at its id until somebody waives it for
 * the item, which says that it was looked at.
 */
export function review({ sheet, reviews = [], predicate }: CheckContext): ListingCheck[] {
  const field = sheet.fields.find(({ role }) => role === 'id')?.code;
  if (field === undefined) return [];
  return reviews.map(({ reason, when }) => {
    const holds = predicate(when);
    return {
      field,
      ...readsOf(when),
      run(row, values, report) {
        if (holds(row, values)) report('review', 'blocker', field, { words: reason });
      },
    };
  });
}
