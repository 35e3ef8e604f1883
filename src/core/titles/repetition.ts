import { shortenBetweenWords } from '../text/fitting';
import { fold } from '../text/folding';
import { type LengthMeasure, lengthIn } from '../text/length';

/** Shorter than this a text is too short to be found said: "M" and "2" stand in many a name. */
const MIN_SAID = 3;

/** Whether the value of one axis contains that of another as words of its own, however short: the colour "red S" the size "S". */
export function contains(value: string, other: string): boolean {
  if (other === '' || value.length <= other.length || !/\p{L}/u.test(other)) return false;
  for (let at = value.indexOf(other); at >= 0; at = value.indexOf(other, at + 1)) {
    const [before, after] = [value[at - 1] ?? ' ', value[at + other.length] ?? ' '];
    if (!/[\p{L}\p{N}]/u.test(before) && !/[\p{L}\p{N}]/u.test(after)) return true;
  }
  return false;
}

/** Whether a name says a text, as whole words, letter case and accents aside. Numbers alone are never said: "2" of "2 in 1" is another. */
export function says(name: string, text: string): boolean {
  if (text.length < MIN_SAID || name.length < text.length) return false;
  // The first letter settles it for nearly all names; only others need folding.
  const first = text.charCodeAt(0);
  if (
    first < 128 &&
    name.indexOf(text[0] as string) < 0 &&
    name.toLowerCase().indexOf(text[0]?.toLowerCase() as string) < 0
  )
    return false;
  const wanted = folded(text);
  // With a space at either end.
  return wanted.length >= MIN_SAID + 2 && /\p{L}/u.test(wanted) && folded(name).includes(wanted);
}

const foldings = new Map<string, string>();

const MAX_FOLDINGS = 5000;

/** The words of a text, folded, each between spaces. Names and brands come again and again; each is folded once. */
function folded(text: string): string {
  const known = foldings.get(text);
  if (known !== undefined) return known;
  const created = ` ${fold(text)} `;
  if (foldings.size >= MAX_FOLDINGS) foldings.clear();
  foldings.set(text, created);
  return created;
}

/** A text is cut in so many places at most; of longer ones those that leave most. */
const MAX_CUTS = 24;

/** Makes each of a row of things once, and none before it is asked for. @param make asked in order, from 0 on */
export function onceEach<T>(make: (at: number) => T | undefined): (at: number) => T | undefined {
  const created: (T | undefined)[] = [];
  return (at) => {
    while (created.length <= at) created.push(make(created.length));
    return created[at];
  };
}

/**
 * What may be left of a text: all of it, every beginning that ends with a word, and nothing; with its length, the longest first.
 * Each is looked for as it is asked for: most titles are little too long, and need the first few.
 */
export function cutsOf(
  text: string,
  measure: LengthMeasure,
): (at: number) => { readonly text: string | undefined; readonly length: number } | undefined {
  let last: { readonly text: string | undefined; readonly length: number } | undefined;
  return onceEach((at) => {
    // Nothing stands behind nothing.
    if (last && last.text === undefined) return undefined;
    const before = last;
    const next =
      before?.text === undefined ? text : shortenBetweenWords(before.text, before.length - 1, measure);
    const cut = at >= MAX_CUTS || next === before?.text ? undefined : next;
    last = { text: cut, length: cut === undefined ? 0 : lengthIn(cut, measure) };
    return last;
  });
}
