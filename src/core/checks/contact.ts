import { onEach, type ValueCheckMaker } from './check';

const ways = [
  ['email', /[\w.+-]+@[\w-]+\.[a-z]{2,}/i],
  ['address', /(?:https?:\/\/|www\.)[\w-]+\.[a-z]{2,}/i],
  // A country's prefix, or a word for the telephone before it: long numbers alone are part numbers.
  [
    'telephone',
    /(?:\+\d{2}[\s/().-]?|(?:tel|phone|fon|teléfono|téléphone|telefon[eo]?)\.?:? ?)\(?\d[\d\s/().-]{6,}\d/i,
  ],
] as const;

/** Ways to reach the merchant outside the channel, which channels remove listings for. */
export const contact: ValueCheckMaker = (field) => {
  if (field.role !== 'title' && field.role !== 'description') return undefined;
  return onEach((text, report) => {
    for (const [what, form] of ways) {
      const found = form.exec(text)?.[0];
      if (found === undefined) continue;
      report('contact', 'risk', field.code, { found: found.slice(0, 60), what });
      return;
    }
  });
};
