import { type CheckContext, type CheckModule, type ListingCheck, readsOf } from '../check';

interface Facts {
  own: { words: string };
}

const onListing = ({ own = [], predicate }: CheckContext): ListingCheck<Facts>[] =>
  own.map(({ words, field, severity, when }) => {
    const holds = predicate(when);
    return {
      field,
      ...readsOf(when),
      run(row, values, report) {
        if (holds(row, values)) report('own', severity, field, { words });
      },
    };
  });

/** The checks of the merchant's own, each at the field it is about. */
export const ownChecks: CheckModule<Facts> = {
  issues: {
    own: {
      about: 'A check of your own, with its condition.',
      severity: ['blocker', 'risk', 'tip'],
      on: 'the field of the check',
      example: { words: 'Pots above 40 EUR want a second picture' },
      title: (label) => `${label}: your own check`,
      words: ({ words }) => words,
    },
  },
  onListing,
};
