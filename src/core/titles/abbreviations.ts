import { fold } from '../text/folding';
import { type LengthMeasure, lengthIn } from '../text/length';

/** A word of a text that has a shorter form, and whether that stands. */
export interface Place {
  readonly from: number;
  readonly to: number;
  /** As it stands in the text. */
  readonly long: string;
  readonly short: string;
  readonly on: boolean;
}
export type Places = readonly Place[];

/** Finds every word of a text that can be abbreviated, all of them on, in their order. */
export type Abbreviate = (text: string) => Places;

/** No text has more words worth abbreviating. */
const MAX_PLACES = 12;

/** What finds the words of a table in texts: whole words, letter case and accents aside, the longest first; undefined for an empty table. */
export function abbreviator(
  table: Readonly<Record<string, string>>,
  measure: LengthMeasure,
): Abbreviate | undefined {
  const forms = new Map(
    Object.entries(table)
      .filter(([long]) => fold(long) !== '')
      .map(([long, short]) => [fold(long), short]),
  );
  if (forms.size === 0) return undefined;
  const longest = Math.max(...[...forms.keys()].map((long) => long.split(' ').length));
  return (text) => {
    const words = [...text.matchAll(/[\p{L}\p{N}\p{M}]+/gu)].map((match) => ({
      from: match.index,
      to: match.index + match[0].length,
    }));
    const places: Place[] = [];
    for (let at = 0; at < words.length && places.length < MAX_PLACES; ) {
      let taken = 0;
      for (let count = Math.min(longest, words.length - at); count > 0 && taken === 0; count--) {
        const from = (words[at] as { from: number }).from;
        const to = (words[at + count - 1] as { to: number }).to;
        const long = text.slice(from, to);
        const short = forms.get(fold(long));
        if (short === undefined || lengthIn(short, measure) >= lengthIn(long, measure)) continue;
        places.push({ from, to, long, short, on: true });
        taken = count;
      }
      at += Math.max(1, taken);
    }
    return places;
  };
}

/** A text with the short forms that are on. */
export function printed(text: string, places: Places): string {
  let out = '';
  let done = 0;
  for (const { from, to, short, on } of places) {
    if (!on) continue;
    out += text.slice(done, from) + short;
    done = to;
  }
  return out + text.slice(done);
}
