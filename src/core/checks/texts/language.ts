import { languageName } from '../../locale/languages';
import type { CheckContext, CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  language: { found: string; wanted: string };
}

/** A text has to be so long that its language can be told for sure. */
const MIN_LETTERS = 60;
const MIN_WORDS = 8;

/** Languages so near each other that a short text may be either. */
const near = [
  ['no', 'nb', 'nn', 'da', 'sv'],
  ['hr', 'sr', 'bs', 'sl'],
  ['cs', 'sk'],
  ['gl', 'pt', 'es', 'ca'],
  ['nl', 'af'],
  ['ms', 'id'],
];
const alike = (one: string, other: string): boolean =>
  one === other || near.some((group) => group.includes(one) && group.includes(other));

const MAX_KEPT = 5000;

const onValue: ValueCheckMaker<Facts> = (field, context: CheckContext) => {
  const { languageOf } = context;
  const wanted = context.language?.split('-')[0];
  if (field.role !== 'description' || languageOf === undefined || wanted === undefined) return undefined;
  // Variants share their texts: each is looked at once.
  const stored = new Map<string, string | undefined>();
  const otherIn = (text: string): string | undefined => {
    const plain = text.replace(/<[^>]*>/g, ' ');
    const letters = plain.match(/\p{L}/gu)?.length ?? 0;
    if (letters < MIN_LETTERS || plain.trim().split(/\s+/).length < MIN_WORDS) return undefined;
    const found = languageOf(plain);
    return found === undefined || alike(found, wanted) ? undefined : found;
  };
  return (value, report) => {
    if (typeof value !== 'string' || value.length < MIN_LETTERS) return;
    let found = stored.get(value);
    if (found === undefined && !stored.has(value)) {
      found = otherIn(value);
      if (stored.size >= MAX_KEPT) stored.clear();
      stored.set(value, found);
    }
    if (found !== undefined) report('language', 'risk', field.code, { found, wanted });
  };
};

/** A description in another language than the feed's. Told by n-grams of letters, and only where that is sure. */
export const language: CheckModule<Facts> = {
  issues: {
    language: {
      about: 'A description in another language than the feed’s, where that is sure.',
      severity: ['risk'],
      on: 'descriptions',
      example: { found: 'en', wanted: 'de' },
      title: (label) => `${label} is in another language`,
      words: ({ found, wanted }, label) =>
        `${label} is in ${languageName(found)}; this feed is in ${languageName(wanted)}`,
    },
  },
  onValue,
};
