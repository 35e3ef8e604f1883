import { type CheckContext, type CheckModule, type ListingCheck, readsOf } from '../check';

interface Facts {
  review: { words: string };
}

function onListing({ sheet, reviews = [], predicate }: CheckContext): ListingCheck<Facts>[] {
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

/**
 * Listings that rules hold back, as they stand when all rules are done: each is blocked at its id until somebody waives it for
 * the item, which says that it was looked at.
 */
export const review: CheckModule<Facts> = {
  issues: {
    review: {
      about: 'A rule holds the listing for review; waive it for reviewed items.',
      severity: ['blocker'],
      on: 'the listing',
      example: { words: 'a new brand' },
      title: () => 'Held for review',
      words: ({ words }) => `Held for review: ${words}`,
    },
  },
  onListing,
};
