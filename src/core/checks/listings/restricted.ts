import { isUnder } from '../../categories/tree';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  restricted: { document: string; words: string };
}

const onValue: ValueCheckMaker<Facts> = (field, { sheet, tree, met }) => {
  const branches = sheet.branches.filter(
    (branch) => branch.restricted && !met.has(branch.restricted.document),
  );
  if (field.kind !== 'category' || branches.length === 0) return undefined;
  const known = new Map<string, (typeof branches)[number] | null>();
  return (value, report) => {
    const place = String(value);
    let found = known.get(place);
    if (found === undefined) {
      found = branches.find(({ under }) => isUnder(tree, place, under)) ?? null;
      known.set(place, found);
    }
    if (found?.restricted)
      report('restricted', 'blocker', field.code, {
        document: found.restricted.document,
        words: found.restricted.words,
      });
  };
};

/** A branch that takes listings only from merchants who handed in a document. */
export const restricted: CheckModule<Facts> = {
  issues: {
    restricted: {
      about: 'A branch accepts listings only with a document of the merchant.',
      severity: ['blocker'],
      on: 'categories',
      example: { document: 'safety data sheet', words: 'Plant food is restricted' },
      title: (label) => `${label} requires a document`,
      words: ({ document, words }) => `${words} (document: ${document})`,
    },
  },
  onValue,
};
