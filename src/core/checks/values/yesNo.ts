import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  yesNo: { found: string };
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.kind !== 'yesNo' || field.choices) return undefined;
  return onEach((text, report) => {
    if (text !== 'true' && text !== 'false') report('yesNo', 'blocker', field.code, { found: text });
  });
};

/** Yes and no in the one form they are kept in; a field with choices of its own takes those instead. */
export const yesNo: CheckModule<Facts> = {
  issues: {
    yesNo: {
      about: 'A value that should be yes or no is neither.',
      severity: ['blocker'],
      on: 'yes or no',
      example: { found: 'maybe' },
      title: (label) => `${label} is neither yes nor no`,
      words: ({ found }, label) => `${label} “${found}” is neither yes nor no`,
    },
  },
  onValue,
};
