import { distance } from 'fastest-levenshtein';
import { fold } from './folding';

/** Longer names are compared by their beginning: no heading and no word of a choice has more to say. */
const MAX_LENGTH = 120;

/**
 * How alike other names are to one, 0 to 1: equal after folding is 1; else the share of common words, or closeness in
 * spelling (Levenshtein distance by length), whichever is more. For one name against many.
 */
export function nameMatcher(name: string): (other: string) => number {
  const left = fold(name.slice(0, MAX_LENGTH));
  const leftWords = left.split(' ');
  const leftSolid = left.replace(/ /g, '');
  return (other) => {
    const right = fold(other.slice(0, MAX_LENGTH));
    if (left === '' || right === '') return 0;
    if (left === right || leftSolid === right.replace(/ /g, '')) return 1;
    const rightWords = right.split(' ');
    const [few, many] =
      leftWords.length <= rightWords.length ? [leftWords, rightWords] : [rightWords, leftWords];
    let common = 0;
    for (const word of few) if (many.includes(word)) common++;
    const words = common === 0 ? 0 : (0.9 * (common / few.length + common / many.length)) / 2;
    const longer = Math.max(left.length, right.length);
    // Names whose lengths differ by a fifth cannot be spelled alike.
    if (Math.abs(left.length - right.length) >= 0.2 * longer) return words;
    const spelling = 1 - distance(left, right) / longer;
    return Math.max(words, spelling > 0.8 ? spelling * 0.9 : 0);
  };
}

/** How alike two names are, 0 to 1; see {@link nameMatcher}. */
export const nameSimilarity = (a: string, b: string): number => nameMatcher(a)(b);

/** A name split where its parts meet: `priceCurrency`, `price_currency` and `Price currency` read alike. */
export function spokenName(code: string): string {
  return code.replace(/([a-z])([A-Z])/g, '$1 $2').replace(/[_-]+/g, ' ');
}
