import { onEach, type ValueCheckMaker } from './check';

/** Yes and no in the one form they are kept in; a field with choices of its own takes those instead. */
export const yesNo: ValueCheckMaker = (field) => {
  if (field.kind !== 'yesNo' || field.choices) return undefined;
  return onEach((text, report) => {
    if (text !== 'true' && text !== 'false') report('yesNo', 'blocker', field.code, { found: text });
  });
};
