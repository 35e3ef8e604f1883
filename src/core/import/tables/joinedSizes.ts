import type { Step } from '../../compose/steps';
import { unitOf } from '../../measures/units';
import { fold } from '../../text/folding';
import { headingWords } from '../headings/headings';

/** The sides of a thing that one column may hold together. */
export type Side = 'width' | 'height' | 'depth';

/** What letters in a heading are of, where they mean one thing in all of the nine languages. */
const letters: Readonly<Record<string, Side>> = {
  b: 'width',
  w: 'width',
  h: 'height',
  t: 'depth',
  d: 'depth',
  p: 'depth',
};

/**
 * The sides that a heading names, in their order: "LxBxH", "Dim. (L x l x H)", "W × D × H". A length beside a width is the depth;
 * beside a depth it is the width (*largeur*, *larghezza*), as the small one of two is (*longueur × largeur*).
 * @returns undefined where it names none, or not three different ones
 */
export function sidesNamed(heading: string): Side[] | undefined {
  const found = /(?:^|[^\p{L}])(\p{L})\s*[xX×*/]\s*(\p{L})\s*[xX×*/]\s*(\p{L})(?!\p{L})/u.exec(
    heading.slice(0, 200),
  );
  if (!found) return undefined;
  const named = found.slice(1, 4);
  const known = named.map((letter) => letters[fold(letter)]);
  const sides = named.map((letter, at): Side | undefined => {
    if (fold(letter) !== 'l') return known[at];
    const twice = named.filter((one) => fold(one) === 'l').length === 2;
    if (twice) return letter === 'l' ? 'width' : 'depth';
    return known.includes('width') ? 'depth' : known.includes('depth') ? 'width' : undefined;
  });
  const all = sides.flatMap((side) => side ?? []);
  return new Set(all).size === 3 ? all : undefined;
}

const number = String.raw`\d{1,5}(?:[.,]\d{1,3})?`;
const three = new RegExp(
  `^(${number})\\s*(\\p{L}{1,4}|["″])?\\s*([xX×*])\\s*(${number})\\s*(\\p{L}{1,4}|["″])?\\s*([xX×*])\\s*(${number})\\s*(\\p{L}{1,4}|["″])?\\.?$`,
  'u',
);

/**
 * How the sides that a column holds together are taken out of it, one by one.
 * @param cells of the first rows
 * @returns steps by side; undefined where the heading does not say which is which, the cells are not three numbers each, or what
 *   they are in is not said in one way
 */
export function joinedSizes(
  heading: string,
  cells: readonly string[],
): Readonly<Record<Side, Step[]>> | undefined {
  const sides = sidesNamed(heading);
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const read = filled.map((cell) => (cell.length > 60 ? null : three.exec(cell)));
  if (!sides || filled.length === 0 || read.some((one) => one === null)) return undefined;
  const each = (...groups: number[]) => new Set(read.flatMap((one) => groups.map((at) => one?.[at] ?? '')));
  const [units, separators] = [each(8), each(3, 6)];
  const signs = [',', '.'].filter((sign) => [...each(1, 4, 7)].some((one) => one.includes(sign)));
  const unit = unitOf([...units][0] ?? '') ?? headingWords(heading).unit;
  const [at = 'x'] = separators;
  if (units.size > 1 || separators.size > 1 || signs.length > 1 || unit === undefined) return undefined;
  const decimalSign = signs[0] === ',' ? ',' : '.';
  const stepsOf = (side: Side): Step[] => {
    const place = sides.indexOf(side) + 1;
    return [
      { step: 'split', at },
      { step: 'take', from: place, to: place },
      { step: 'measure', unit, decimalSign },
    ];
  };
  return { width: stepsOf('width'), height: stepsOf('height'), depth: stepsOf('depth') };
}
