import { convert, readMeasure } from '../measures/units';
import { fold } from '../text/folding';
import { nameSimilarity } from '../text/similarity';
import type { English } from '../words/forms';
import { hexOf, nearestColours } from './colours';
import { readAlike, readChoice, sameChoice } from './lexicon';
import { readSize, sizesMeet } from './sizes';

/** From this confidence on choices are taken for words together, unless a person says otherwise. */
export const takeWordsFrom = 80;

export interface ValueSuggestion {
  readonly choice: string;
  /** 0 to 100. */
  readonly score: number;
  readonly reasons: readonly string[];
}

/** A word a channel takes, with the other words it is known by. */
export interface Choice {
  readonly code: string;
  /** By language. */
  readonly labels: Readonly<Record<string, string>>;
  readonly synonyms: readonly string[];
}

/** Every word a choice is known by: its code, its labels in all languages, its synonyms. */
const wordsOf = ({ code, labels, synonyms }: Choice): string[] => [
  ...new Set([code.replace(/_/g, ' '), ...Object.values(labels), ...synonyms]),
];

const squeezed = (text: string): string => fold(text).replace(/ /g, '');

/** Measures that say the same in other units: "0.5 l" and "500 ml". */
function sameMeasure(a: string, b: string): boolean {
  const [left, right] = [readMeasure(a), readMeasure(b)];
  if (!left || !right) return false;
  const inLeft = convert(right, left.unit);
  return inLeft !== undefined && Math.abs(Number(inLeft) / Number(left.amount) - 1) < 1e-9;
}

const stemOf = (word: string): string => fold(word).replace(/(es|s)$/, '');

/** What a word is in English, itself with it; a text of several words also as its last word, which is what the thing is. */
function inEnglish(text: string, english: English): Map<string, number> {
  const found = new Map<string, number>();
  const add = (word: string, worth: number) => {
    const stem = stemOf(word);
    if (stem.length > 2 && (found.get(stem) ?? 0) < worth) found.set(stem, worth);
  };
  const words = fold(text).split(' ');
  add(text, 1);
  for (const meant of english(text)) add(meant, 1);
  for (const word of words.length > 1 ? words : [])
    if (word.length > 3) for (const meant of [word, ...english(word)]) add(meant, 0.85);
  return found;
}

/** A choice that a dictionary says the same of as of a word, or whose size goes together with it. */
function fitByKnowledge(value: string, choice: Choice, english: English): ValueSuggestion | undefined {
  const size = readSize(value);
  for (const word of size ? wordsOf(choice) : []) {
    const other = readSize(word);
    const by = size && other && sizesMeet(size, other);
    if (by)
      return {
        choice: choice.code,
        score: 76,
        reasons: [`it is about ${word} in ${by}, by common practice`],
      };
  }
  const meant = inEnglish(value, english);
  let best: { worth: number; word: string; as: string } | undefined;
  for (const word of wordsOf(choice))
    for (const [as, worth] of inEnglish(word, english)) {
      const both = worth * (meant.get(as) ?? 0);
      if (both > (best?.worth ?? 0)) best = { worth: both, word, as };
    }
  return best
    ? {
        choice: choice.code,
        score: Math.round(best.worth * 82),
        reasons: [`by the dictionaries both it and “${best.word}” are “${best.as}”`],
      }
    : undefined;
}

/** How well a choice fits a word, with why. */
function fitOf(value: string, choice: Choice): ValueSuggestion | undefined {
  const found = (score: number, reason: string): ValueSuggestion => ({
    choice: choice.code,
    score,
    reasons: [reason],
  });
  const [code, ...others] = wordsOf(choice);
  if (squeezed(value) === squeezed(choice.code) || squeezed(value) === squeezed(code ?? ''))
    return found(100, 'it is the channel’s own value');
  const same = others.find((word) => squeezed(word) === squeezed(value));
  if (same !== undefined) return found(97, 'it is a synonym');
  const measure = others.find((word) => sameMeasure(value, word));
  if (measure !== undefined) return found(95, `${measure} is the same amount`);
  const meant = [code ?? '', ...others].find((word) => sameChoice(value, word));
  if (meant !== undefined) return found(93, `it means “${meant}”`);
  const read = readChoice(value);
  if (read) {
    let near = { likeness: 0, word: '' };
    for (const word of [code ?? '', ...others]) {
      const known = readChoice(word);
      const likeness = known ? readAlike(read, known) : 0;
      if (likeness > near.likeness) near = { likeness, word };
    }
    if (near.likeness > 0)
      return found(
        Math.round(near.likeness * 92),
        near.likeness > 0.7
          ? `translated word by word it is “${near.word}”`
          : `“${near.word}” is the closest`,
      );
  }
  const words = fold(value).split(' ');
  const inside = [code ?? '', ...others].find((word) => {
    const parts = fold(word).split(' ');
    return parts.every((part) => part.length > 2 && words.includes(part));
  });
  if (inside !== undefined) return found(read ? 60 : 78, `“${inside}” is part of it`);
  let best = { likeness: 0, word: '' };
  for (const word of [code ?? '', ...others]) {
    const likeness = nameSimilarity(value, word);
    if (likeness > best.likeness) best = { likeness, word };
  }
  return best.likeness >= 0.5
    ? found(Math.round(best.likeness * 80), `it is spelled like “${best.word}”`)
    : undefined;
}

/**
 * Ranked choices of a field for a word of the catalog: the same word, a synonym, the same measure in another unit, a word
 * inside it, a like spelling, a size of another system, what dictionaries say of it, and for colours the nearest by CIEDE2000.
 * @param known `hex`: how the word looks, where the merchant has said so; `english`: what a word is in English
 */
export function suggestChoices(
  field: { readonly choices?: readonly Choice[] | undefined },
  value: string,
  {
    hex,
    english,
    most = 3,
  }: { readonly hex?: string | undefined; readonly english?: English; readonly most?: number } = {},
): ValueSuggestion[] {
  const choices = field.choices ?? [];
  const found = new Map<string, ValueSuggestion>();
  for (const choice of choices) {
    const own = fitOf(value, choice);
    const learned = (own?.score ?? 0) >= 90 || !english ? undefined : fitByKnowledge(value, choice, english);
    const one = (learned?.score ?? 0) > (own?.score ?? 0) ? learned : own;
    if (one) found.set(choice.code, one);
  }
  const shown = hex ?? hexOf(value);
  if (shown !== undefined)
    for (const { code, distance } of nearestColours(shown, choices)) {
      // What the merchant said it looks like counts in full; a CSS name of the same spelling may mean another thing.
      const score = Math.round((hex === undefined ? 72 : 92) - distance * 1.4);
      const known = found.get(code);
      if (score < 20 || (known && known.score >= score)) continue;
      found.set(code, {
        choice: code,
        score,
        reasons: [...(known?.reasons ?? []), `${shown} is ${distance.toFixed(1)} from it by CIEDE2000`],
      });
    }
  return [...found.values()]
    .sort((a, b) => b.score - a.score || a.choice.localeCompare(b.choice))
    .slice(0, most);
}

/** What a word became in a field of another feed that takes other choices. */
export interface WordElsewhere {
  /** All that the choice it became is called there. */
  readonly names: readonly string[];
  /** The feed's name, as a reason says it. */
  readonly where: string;
}

/**
 * Puts what was settled for a word elsewhere together with what the word itself says: the choice that is called like the one
 * it became there.
 */
export function withWordElsewhere(
  field: { readonly choices?: readonly Choice[] | undefined },
  found: readonly ValueSuggestion[],
  elsewhere: readonly WordElsewhere[],
  most = 3,
): ValueSuggestion[] {
  const best = new Map(found.map((one) => [one.choice, one]));
  for (const { names, where } of elsewhere)
    for (const choice of field.choices ?? []) {
      const fits = names.map((name) => fitOf(name, choice)?.score ?? 0);
      const score = Math.round(Math.max(0, ...fits) * 0.96);
      const known = best.get(choice.code);
      if (score < 60) continue;
      const reason = `it is “${names[0]}” in ${where}`;
      if (known?.reasons.includes(reason)) continue;
      best.set(choice.code, {
        choice: choice.code,
        score: Math.min(100, Math.max(score, known?.score ?? 0) + (known ? 3 : 0)),
        reasons: [reason, ...(known?.reasons ?? [])],
      });
    }
  return [...best.values()]
    .sort((a, b) => b.score - a.score || a.choice.localeCompare(b.choice))
    .slice(0, most);
}
