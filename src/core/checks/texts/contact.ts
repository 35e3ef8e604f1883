import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  contact: { found: string; what: 'email' | 'address' | 'telephone' };
}

/** Each with what a text surely holds that holds it: most texts are looked at no further. */
const ways = [
  ['email', /@/, /[\w.+-]+@[\w-]+\.[a-z]{2,}/i],
  ['address', /\/\/|www/i, /(?:https?:\/\/|www\.)[\w-]+\.[a-z]{2,}/i],
  // A country's prefix, or a word for the telephone before it: long numbers alone are part numbers.
  [
    'telephone',
    /\d[\d\s/().-]{6,}\d/,
    /(?:\+\d{2}[\s/().-]?|(?:tel|phone|fon|teléfono|téléphone|telefon[eo]?)\.?:? ?)\(?\d[\d\s/().-]{6,}\d/i,
  ],
] as const;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title' && field.role !== 'description') return undefined;
  return onEach((text, report) => {
    for (const [what, sign, form] of ways) {
      const found = sign.test(text) ? form.exec(text)?.[0] : undefined;
      if (found === undefined) continue;
      report('contact', 'risk', field.code, { found: found.slice(0, 60), what });
      return;
    }
  });
};

/** Ways to reach the merchant outside the channel, which channels remove listings for. */
export const contact: CheckModule<Facts> = {
  issues: {
    contact: {
      about: 'A text with contact details of the merchant.',
      severity: ['risk'],
      on: 'texts',
      example: { found: 'shop@quillmoss.example', what: 'email' },
      title: (label) => `${label} has contact details`,
      words: ({ found, what }, label) =>
        `${label} holds ${what === 'address' ? 'an address' : what === 'email' ? 'an email address' : 'a telephone number'}: “${found}”`,
    },
  },
  onValue,
};
