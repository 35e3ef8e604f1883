import { fold } from '../text/folding';
import { onEach, type ValueCheckMaker } from './check';

/** A word twice in a title. Short words and numbers may well be: "10 cm x 10 cm", "pot and pot holder" says "pot" of two things. */
export const wordTwice: ValueCheckMaker = (field) => {
  if (field.role !== 'title') return undefined;
  return onEach((text, report) => {
    const seen = new Set<string>();
    for (const part of text.split(/[,·|–;()]/)) {
      const words = part.match(/\p{L}{5,}/gu) ?? [];
      // What stands by itself is what a variant is told by: "…, a small trowel, small".
      if (words.length === 1 && part.trim() === words[0]) continue;
      for (const word of words) {
        const key = fold(word);
        if (seen.has(key)) {
          report('wordTwice', 'tip', field.code, { found: word });
          return;
        }
        seen.add(key);
      }
    }
  });
};
