import { onEach, type ValueCheckMaker } from './check';

/** Pictures that were looked at and cannot be read are not sent. */
export const picture: ValueCheckMaker = (field, { seen }) => {
  if (field.kind !== 'pictures') return undefined;
  return onEach((text, report) => {
    if (seen.picture(text) === 'unreadable') report('picture', 'blocker', field.code, { found: text });
  });
};
