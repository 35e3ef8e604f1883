import { fold } from '../../text/folding';
import { letterRuns } from '../../text/letters';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  wordTwice: { found: string };
}

/**
 * Words that stand twice in a text, as they stand there. Short words and numbers may well do: "10 cm x 10 cm", "pot and pot holder" says
 * "pot" of two things; and so may what stands by itself, by which a variant is told: "…, a small trowel, small".
 */
export function wordsTwice(text: string): string[] {
  const known = new Set<string>();
  const twice: string[] = [];
  for (const part of text.split(/[,·|–;()]/)) {
    const words = letterRuns(part, 5);
    if (words.length === 1 && part.trim() === words[0]) continue;
    for (const word of words) {
      const key = fold(word);
      if (known.has(key)) twice.push(word);
      known.add(key);
    }
  }
  return twice;
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title') return undefined;
  return onEach((text, report) => {
    const [found] = wordsTwice(text);
    if (found !== undefined) report('wordTwice', 'tip', field.code, { found });
  });
};

/** A word twice in a title. */
export const wordTwice: CheckModule<Facts> = {
  issues: {
    wordTwice: {
      about: 'A repeated word.',
      severity: ['tip'],
      on: 'titles',
      example: { found: 'glass' },
      title: (label) => `${label} repeats a word`,
      words: ({ found }, label) => `${label} says “${found}” twice`,
    },
  },
  onValue,
};
