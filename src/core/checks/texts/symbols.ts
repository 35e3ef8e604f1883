import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  symbols: { found: string };
}

/** Pictures among letters, and signs that only decorate. Marks of trade and degrees are none. */
const decoration = /(?![©®™])[\p{Extended_Pictographic}★☆✓✔✗✘►▶◄●■◆♦♥❤➤→⇒«»]|!{2,}|\?{2,}|\*{2,}|~{2,}/u;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title' && !(field.kind === 'text' && field.length)) return undefined;
  const severity = field.role === 'title' ? 'risk' : 'tip';
  return onEach((text, report) => {
    const found = decoration.exec(text)?.[0];
    if (found !== undefined) report('symbols', severity, field.code, { found });
  });
};

/** Signs that catch the eye instead of saying something; most channels refuse them in titles. */
export const symbols: CheckModule<Facts> = {
  issues: {
    symbols: {
      about: 'Characters used only for attention.',
      severity: ['risk', 'tip'],
      on: 'texts',
      example: { found: '★' },
      title: (label) => `${label} has characters used only for attention`,
      words: ({ found }, label) => `${label} holds “${found}”, used only for attention`,
    },
  },
  onValue,
};
