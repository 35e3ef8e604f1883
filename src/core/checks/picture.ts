import { onEach, type ValueCheckMaker } from './check';

/** Pictures that were looked at and cannot be read are not sent. */
export const picture: ValueCheckMaker = (field, { brokenPictures }) => {
  if (field.kind !== 'pictures' || brokenPictures.size === 0) return undefined;
  return onEach((text, report) => {
    if (brokenPictures.has(text)) report('picture', 'blocker', field.code, { found: text });
  });
};
