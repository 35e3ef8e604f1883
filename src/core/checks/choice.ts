import { onEach, type ValueCheckMaker } from './check';

/** The value is one of the channel's choices, letter for letter. */
export const choice: ValueCheckMaker = (field) => {
  if ((field.kind !== 'choice' && field.kind !== 'yesNo') || !field.choices) return undefined;
  const allowed = new Set(field.choices.map(({ code }) => code));
  return onEach((text, report) => {
    if (!allowed.has(text)) report('choice', 'blocker', field.code, { found: text, choices: allowed.size });
  });
};
