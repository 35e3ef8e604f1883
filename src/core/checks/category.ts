import type { ValueCheckMaker } from './check';

/** The category exists in the channel's tree and is a leaf. */
export const category: ValueCheckMaker = (field, { tree }) => {
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
