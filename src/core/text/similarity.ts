import { distance } from 'fastest-levenshtein';
import { fold } from './folding';

/**
 * How alike two names are, 0 to 1: equal after folding is 1; else the share of common words,
 * or closeness in spelling (Levenshtein distance by length), whichever is more.
 */
export function nameLikeness(a: string, b: string): number {
  const [left, right] = [fold(a), fold(b)];
  if (left === '' || right === '') return 0;
  if (left === right || left.replace(/ /g, '') === right.replace(/ /g, '')) return 1;
  const [few, many] = [left.split(' '), right.split(' ')].sort((x, y) => x.length - y.length) as [
    string[],
    string[],
  ];
  const common = few.filter((word) => many.includes(word)).length;
  const words = common === 0 ? 0 : (0.9 * (common / few.length + common / many.length)) / 2;
  const spelling = 1 - distance(left, right) / Math.max(left.length, right.length);
  return Math.max(words, spelling > 0.8 ? spelling * 0.9 : 0);
}

/** A name split where its parts meet: `priceCurrency`, `price_currency` and `Price currency` read alike. */
export function spokenName(code: string): string {
  return code.replace(/([a-z])([A-Z])/g, '$1 $2').replace(/[_-]+/g, ' ');
}
