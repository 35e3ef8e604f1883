import { colorsNamed, differenceCiede2000, parse } from 'culori';
import { fold } from '../text/folding';

/** Distance of two colours by CIEDE2000 (ISO/CIE 11664-6); about 1 is just noticeable, above 50 nothing is alike. */
const distance = differenceCiede2000();

/** A colour of a hexadecimal code or a CSS Color 4 name, as a hexadecimal code; undefined where it is none. */
export function hexOf(word: string): string | undefined {
  const text = word.trim().toLowerCase();
  if (/^#[0-9a-f]{6}$/.test(text)) return text;
  const named = colorsNamed[text.replace(/[^a-z]/g, '') as keyof typeof colorsNamed];
  return named === undefined ? undefined : `#${named.toString(16).padStart(6, '0')}`;
}

/**
 * What people call by a plain colour word: a word covers a range, so each has a few sights of it, the usual one first.
 * Common practice, no source.
 */
const meant: Readonly<Record<string, readonly string[]>> = {
  green: ['#3f7d3a', '#8fae6b', '#1f4f36'],
  grey: ['#808080', '#b9bcbe', '#5c6166'],
  brown: ['#7a4a2b', '#4a3020', '#9c6b44'],
  beige: ['#d9c7a3', '#cbb894'],
  orange: ['#e07b28', '#c4622d', '#f2a13c'],
  yellow: ['#f0cd3c', '#f4e08c', '#dcae2e'],
  red: ['#c2302a', '#8a1f24'],
  blue: ['#2a5caa', '#6f9fd0', '#1f2f5a'],
  purple: ['#6f3f86', '#a988bd', '#46264f'],
  pink: ['#ef9ab2', '#e0648c'],
  turquoise: ['#34b5a9', '#7fcfc8'],
  white: ['#f7f5f0'],
  black: ['#1c1c1e'],
};

export interface ColourMatch {
  readonly code: string;
  readonly distance: number;
}

/**
 * The choices nearest to a colour, the nearest first; choices that are no plain colour word are passed over.
 * @param hex the colour looked for
 */
export function nearestColours(
  hex: string,
  choices: readonly { readonly code: string; readonly labels: Readonly<Record<string, string>> }[],
): ColourMatch[] {
  const wanted = parse(hex);
  if (!wanted) return [];
  return choices
    .flatMap(({ code, labels }) => {
      const word = fold(labels.en ?? code).replace('gray', 'grey');
      const named = hexOf(word);
      const sights = (meant[word] ?? (named === undefined ? [] : [named])).flatMap(
        (shown) => parse(shown) ?? [],
      );
      return sights.length > 0
        ? [{ code, distance: Math.min(...sights.map((sight) => distance(wanted, sight))) }]
        : [];
    })
    .sort((a, b) => a.distance - b.distance);
}
