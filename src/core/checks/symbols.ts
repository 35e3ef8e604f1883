import { onEach, type ValueCheckMaker } from './check';

/** Pictures among letters, and signs that only decorate. Marks of trade and degrees are none. */
const decoration = /(?![©®™])[\p{Extended_Pictographic}★☆✓✔✗✘►▶◄●■◆♦♥❤➤→⇒«»]|!{2,}|\?{2,}|\*{2,}|~{2,}/u;

/** Signs that catch the eye instead of saying something; most channels refuse them in titles. */
export const symbols: ValueCheckMaker = (field) => {
  if (field.role !== 'title' && !(field.kind === 'text' && field.length)) return undefined;
  const severity = field.role === 'title' ? 'risk' : 'tip';
  return onEach((text, report) => {
    const found = decoration.exec(text)?.[0];
    if (found !== undefined) report('symbols', severity, field.code, { found });
  });
};
