import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  category: { found: string; reason: 'unknown' | 'branch' };
}

const onValue: ValueCheckMaker<Facts> = (field, { tree }) => {
  if (field.kind !== 'category' || tree.byCode.size === 0) return undefined;
  const leaves = new Set(
    [...tree.byCode.values()].filter(({ children }) => children.length === 0).map(({ code }) => code),
  );
  return (value, report) => {
    if (typeof value === 'string' && leaves.has(value)) return;
    const found = String(value);
    report('category', 'blocker', field.code, {
      found,
      reason: tree.byCode.has(found) ? 'branch' : 'unknown',
    });
  };
};

/** The category exists in the channel's tree and is a leaf. */
export const category: CheckModule<Facts> = {
  issues: {
    category: {
      about: 'A category is a branch, or is not in the channel’s tree.',
      severity: ['blocker'],
      on: 'categories',
      example: { found: '11000', reason: 'branch' },
      title: (label) => `${label} is not in the tree`,
      words: ({ found, reason }, label) =>
        reason === 'branch'
          ? `${label} ${found} is a branch; choose one of its categories`
          : `${label} ${found} is not in the channel's tree`,
    },
  },
  onValue,
};
