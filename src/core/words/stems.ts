import { StemmerPl } from '@nlpjs/lang-pl';
import { stemmer as danish } from '@orama/stemmers/danish';
import { stemmer as dutch } from '@orama/stemmers/dutch';
import { stemmer as english } from '@orama/stemmers/english';
import { stemmer as finnish } from '@orama/stemmers/finnish';
import { stemmer as french } from '@orama/stemmers/french';
import { stemmer as german } from '@orama/stemmers/german';
import { stemmer as hungarian } from '@orama/stemmers/hungarian';
import { stemmer as italian } from '@orama/stemmers/italian';
import { stemmer as norwegian } from '@orama/stemmers/norwegian';
import { stemmer as portuguese } from '@orama/stemmers/portuguese';
import { stemmer as romanian } from '@orama/stemmers/romanian';
import { stemmer as spanish } from '@orama/stemmers/spanish';
import { stemmer as swedish } from '@orama/stemmers/swedish';
import { fold } from '../text/folding';

const stemmerPl = new StemmerPl();
/** The accusative and the instrumental end in a nasal vowel, which it does not know. */
const polish = (word: string): string => stemmerPl.stemWord(word.replace(/ę$/, 'e').replace(/ą$/, 'a'));

const stemmers: Readonly<Record<string, (word: string) => string>> = {
  da: danish,
  de: german,
  en: english,
  es: spanish,
  fi: finnish,
  fr: french,
  hu: hungarian,
  it: italian,
  nb: norwegian,
  nl: dutch,
  no: norwegian,
  pl: polish,
  pt: portuguese,
  ro: romanian,
  sv: swedish,
};

const known = new Map<string, string>();
const MAX_KNOWN = 20_000;

/**
 * What is the same in all forms of a word: the stem by the language's Snowball algorithm (Polish: that of nlp.js), letter case and accents aside. In a language
 * without one the folded word.
 * @param language BCP 47, its first subtag counts
 */
export function stemOf(word: string, language: string): string {
  const primary = language.split('-')[0] ?? '';
  const key = `${primary} ${word}`;
  const found = known.get(key);
  if (found !== undefined) return found;
  const lower = word.toLowerCase();
  const stem = fold(stemmers[primary]?.(lower) ?? lower) || fold(lower);
  if (known.size >= MAX_KNOWN) known.clear();
  known.set(key, stem);
  return stem;
}

/** The words of a text, as they stand there in small letters. */
export const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}\p{M}]+/gu) ?? [];

/** The stems of a text's words. */
export const stemsOf = (text: string, language: string): Set<string> =>
  new Set(wordsOf(text).map((word) => stemOf(word, language)));
