import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  choice: { found: string; choices: number };
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  if ((field.kind !== 'choice' && field.kind !== 'yesNo') || !field.choices) return undefined;
  const allowed = new Set(field.choices.map(({ code }) => code));
  return onEach((text, report) => {
    if (!allowed.has(text)) report('choice', 'blocker', field.code, { found: text, choices: allowed.size });
  });
};

/** The value is one of the channel's choices, letter for letter. */
export const choice: CheckModule<Facts> = {
  issues: {
    choice: {
      about: 'A value that is not among the channel’s choices.',
      severity: ['blocker'],
      on: 'choice fields',
      example: { found: 'moss', choices: 14 },
      title: (label) => `${label} uses values the channel does not accept`,
      words: ({ found, choices }, label) =>
        `${label} “${found}” is not one of the ${choices} accepted values`,
    },
  },
  onValue,
};
