import { distance } from 'fastest-levenshtein';
import { fold } from '../../text/folding';
import { kindFacts } from '../attributeKinds';
import type { Attribute } from '../attributes';
import { asText, type Row } from '../value';

/** Something about an attribute's values that a person should look at; `skus` are the items it is about. */
export type Oddity =
  /** the same word spelled in several ways; the most frequent first */
  | { readonly kind: 'spellings'; readonly values: readonly string[]; readonly skus: readonly string[] }
  /** a number far from those of the same category */
  | { readonly kind: 'outliers'; readonly values: readonly string[]; readonly skus: readonly string[] }
  /** a number, measure or amount that cannot be read, or a price of nothing */
  | { readonly kind: 'unreadable'; readonly values: readonly string[]; readonly skus: readonly string[] }
  /** an identifier on more than one item */
  | { readonly kind: 'shared'; readonly values: readonly string[]; readonly skus: readonly string[] }
  /** one long text on items of several families */
  | { readonly kind: 'repeated'; readonly values: readonly string[]; readonly skus: readonly string[] };

export interface Quality {
  readonly code: string;
  readonly filled: number;
  readonly distinct: number;
  /** The most frequent values with their counts. */
  readonly top: readonly (readonly [string, number])[];
  readonly odd: readonly Oddity[];
}

/** What the quality of a catalog is computed from. */
export interface QualityInput {
  readonly skus: readonly string[];
  readonly rows: readonly Row[];
  slotOf(code: string): number | undefined;
}

const unique = new Set(['sku', 'gtin', 'mpn']);
/** Fewer numbers than this tell nothing about what is usual. */
const MIN_COUNT = 8;
/** Modified z-score from which a value is an outlier: Iglewicz and Hoaglin, How to Detect and Handle Outliers (1993). */
const farFrom = 3.5;

/** The middle of some numbers; of an even number of them the mean of the two in the middle. 0 of none. */
export const medianOf = (numbers: readonly number[]): number => {
  const sorted = [...numbers].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1
    ? (sorted[middle] ?? 0)
    : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
};

/**
 * Which of some positive numbers are far from the others: by the modified z-score 0.6745 · (x − median) / MAD of their
 * logarithms, since prices and weights differ by factors. Where more than half are equal, the mean deviation takes MAD's
 * place with its own factor (same source).
 */
export function outliers(numbers: readonly number[]): number[] {
  const logs = numbers.map(Math.log);
  const middle = medianOf(logs);
  const away = logs.map((log) => Math.abs(log - middle));
  const mad = medianOf(away);
  const mean = away.reduce((sum, one) => sum + one, 0) / Math.max(away.length, 1);
  const score = (one: number) => (mad > 0 ? (0.6745 * one) / mad : mean > 0 ? one / (1.253314 * mean) : 0);
  return away.flatMap((one, i) => (score(one) > farFrom ? [i] : []));
}

/** Words shorter than this are different words where a letter differs: "umber" is not "ember". */
const longEnough = 6;

/**
 * Whether two names differ by a slip of one letter in one long word, and so are probably one: not in its first letter, not
 * in a word of few letters ("Type C", "Canyon II"), and not where both are used as often.
 */
function isSlip(a: string, b: string): boolean {
  const [left, right] = [a.split(' '), b.split(' ')];
  if (left.length !== right.length) return false;
  const apart = left.flatMap((word, i) => (word === right[i] ? [] : [i]));
  const [at] = apart;
  if (at === undefined || apart.length > 1) return false;
  const [one = '', other = ''] = [left[at], right[at]];
  return (
    Math.max(one.length, other.length) >= longEnough &&
    Math.min(one.length, other.length) >= longEnough - 1 &&
    one[0] === other[0] &&
    !/\d/.test(one + other) &&
    distance(one, other) === 1
  );
}

/** Groups of words that are the same but for case, accents, blanks or one letter. */
export function spellings(counts: ReadonlyMap<string, number>): string[][] {
  const byFold = new Map<string, string[]>();
  const folded = new Map<string, string>();
  for (const value of counts.keys()) {
    const words = fold(value);
    const key = words.replace(/ /g, '');
    folded.set(key, words);
    byFold.set(key, [...(byFold.get(key) ?? []), value]);
  }
  const keys = [...byFold.keys()].sort();
  const parent = new Map(keys.map((key) => [key, key]));
  const root = (key: string): string => {
    const up = parent.get(key) ?? key;
    return up === key ? key : root(up);
  };
  const usedOf = (key: string) =>
    (byFold.get(key) ?? []).reduce((sum, value) => sum + (counts.get(value) ?? 0), 0);
  const long = keys.filter((key) => key.length >= longEnough - 1 && key.length <= 80);
  if (long.length <= 2000)
    for (let i = 0; i < long.length; i++)
      for (let j = i + 1; j < long.length; j++) {
        const [a = '', b = ''] = [long[i], long[j]];
        // Two words that are both in use are two words.
        const [rare, usual] = [usedOf(a), usedOf(b)].sort((one, other) => one - other) as [number, number];
        if (Math.abs(a.length - b.length) > 1 || (rare > 2 && rare * 4 > usual)) continue;
        if (isSlip(folded.get(a) ?? '', folded.get(b) ?? '')) parent.set(root(a), root(b));
      }
  const groups = new Map<string, string[]>();
  for (const key of keys) {
    const top = root(key);
    groups.set(top, [...(groups.get(top) ?? []), ...(byFold.get(key) ?? [])]);
  }
  return [...groups.values()]
    .filter((values) => values.length > 1)
    .map((values) => values.sort((a, b) => (counts.get(b) ?? 0) - (counts.get(a) ?? 0)));
}

/** How one attribute stands over a catalog: filled, distinct, most frequent, odd ones out. */
export function qualityOf(attribute: Attribute, { skus, rows, slotOf }: QualityInput): Quality {
  const slot = slotOf(attribute.code) ?? -1;
  const category = slotOf('category') ?? -1;
  const family = slotOf('family') ?? -1;
  const holders = new Map<string, number[]>();
  let filled = 0;
  rows.forEach((row, at) => {
    const text = asText(row[slot]);
    if (text === '') return;
    filled++;
    const known = holders.get(text);
    if (known) known.push(at);
    else holders.set(text, [at]);
  });
  const counts = new Map([...holders].map(([text, list]) => [text, list.length]));
  const odd: Oddity[] = [];
  const skusAt = (list: readonly number[]) => list.map((at) => skus[at] ?? '');
  const add = (kind: Oddity['kind'], values: readonly string[], list: readonly number[]) =>
    odd.push({ kind, values, skus: skusAt(list) });

  const { number: numberOf, quality } = kindFacts[attribute.kind];
  if (numberOf) {
    const groups = new Map<string, { at: number; text: string; number: number }[]>();
    const bad: { at: number; text: string }[] = [];
    for (const [text, list] of holders) {
      const number = numberOf(text);
      const wrong = number === undefined || (number <= 0 && quality === 'amounts');
      for (const at of list) {
        if (wrong) bad.push({ at, text });
        else if (number > 0) {
          const key = asText(rows[at]?.[category]);
          groups.set(key, [...(groups.get(key) ?? []), { at, text, number }]);
        }
      }
    }
    if (bad.length > 0)
      add(
        'unreadable',
        [...new Set(bad.map(({ text }) => text))],
        bad.map(({ at }) => at),
      );
    const far =
      quality !== 'amounts'
        ? []
        : [...groups.values()].flatMap((list) =>
            list.length < MIN_COUNT
              ? []
              : outliers(list.map(({ number }) => number)).flatMap((i) => list[i] ?? []),
          );
    if (far.length > 0)
      add(
        'outliers',
        [...new Set(far.map(({ text }) => text))],
        far.map(({ at }) => at),
      );
  } else if (unique.has(attribute.code)) {
    for (const [text, list] of holders) if (list.length > 1) add('shared', [text], list);
  } else if (quality === 'repeated') {
    for (const [text, list] of holders)
      if (new Set(list.map((at) => asText(rows[at]?.[family]) || skus[at])).size > 1)
        add('repeated', [text], list);
  } else if (quality === 'spellings' || (quality === 'spellingsOfFew' && counts.size <= filled / 2)) {
    for (const values of spellings(counts))
      add(
        'spellings',
        values,
        values.slice(1).flatMap((value) => holders.get(value) ?? []),
      );
  }
  return {
    code: attribute.code,
    filled,
    distinct: counts.size,
    top: [...counts].sort((a, b) => b[1] - a[1]).slice(0, 5),
    odd,
  };
}
