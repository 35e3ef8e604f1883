import { fold } from '../../text/folding';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  entryTwice: { found: string };
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (!field.values && field.kind !== 'pictures') return undefined;
  const isPictures = field.kind === 'pictures';
  return (value, report) => {
    if (typeof value === 'string' || value.length < 2) return;
    const known = new Set<string>();
    for (const entry of value) {
      const key = isPictures ? entry : fold(entry);
      if (known.has(key)) return report('entryTwice', 'tip', field.code, { found: entry });
      known.add(key);
    }
  };
};

/** A list that holds an entry twice: a highlight said again, a picture shown again. */
export const entryTwice: CheckModule<Facts> = {
  issues: {
    entryTwice: {
      about: 'A list with a repeated entry.',
      severity: ['tip'],
      on: 'lists and pictures',
      example: { found: 'Felt feet' },
      title: (label) => `${label} repeats an entry`,
      words: ({ found }, label) => `${label} holds “${found}” twice`,
    },
  },
  onValue,
};
