import { fold } from '../text/folding';
import { putPlainly } from './everyday';
import { listedForms } from './forms';
import { wordsOf as allWordsOf, meaningsOf, meaningsOfStem, stem } from './lexicon';
import type { PackedWords } from './packed';
import { summed, type WordVectors } from './vectors';
import { singulars, type WordNet } from './wordNet';

/** How much each way from a word to another says, 0 to 1. Tuned on `tests/data/labels/places-tuning.tsv`. */
const ways = {
  /** The last part of a word put together of several, and the parts before it. */
  head: 0.75,
  modifier: 0.45,
  /** A word before the last of a name. */
  before: 0.8,
  translated: 0.9,
  /** By the short list of a shop's own words. */
  listed: 0.95,
  /** By what a shop's goods are or are for, instead of their name. */
  described: 0.85,
  synonym: 0.6,
  /** Each step to a wider meaning. */
  wider: 0.55,
  defined: 0.4,
  /** The second, third … meaning of a word. */
  rarer: 0.5,
  /** A word taken apart; one that is known as a whole. */
  parts: 0.85,
  partsOfKnown: 0.5,
};

/** Terms with weights: stems of words (`w…`), and meanings (`m…`). */
export type Terms = ReadonlyMap<string, number>;

/** One word of a name with all that it may stand for. */
export interface Unit {
  readonly word: string;
  readonly terms: Terms;
  /** How much it counts within its name; what a name is about counts 1. */
  readonly weight: number;
  /** Where it stands among English words, of length 1. */
  readonly vector?: Float32Array | undefined;
}

/** One way of reading a name: as it stands, taken apart, or in English. */
export interface Reading {
  readonly units: readonly Unit[];
  /** 0 to 1. */
  readonly sure: number;
  /** Whether it is put in other words than the name's: by what everyday speech calls goods. */
  readonly putPlainly?: true;
  /** Where all its words together stand among English ones, of length 1. */
  readonly vector?: Float32Array | undefined;
}

export interface Thesaurus {
  readonly wordNet?: WordNet | undefined;
  readonly vectors?: WordVectors | undefined;
  /** Word lists to English, by language. */
  readonly dictionaries: ReadonlyMap<string, PackedWords>;
}

/** Signs of a name that are read; what is longer is no name. */
export const MAX_CHARACTERS = 300;
/** A longer word is no word: it is kept as it is, neither looked up nor taken apart. */
const MAX_WORD_LENGTH = 40;
/** Names and words that are kept as they were read; forgotten together when there are more. */
const MAX_KEPT = 4000;

const wordsOf = (text: string): string[] => allWordsOf(text.slice(0, MAX_CHARACTERS));

/** A word in English: what a dictionary has for it, and how well the word was met. */
interface Found {
  readonly english: readonly string[];
  readonly sure: number;
}

const linking = /(?:s|n|en|er|e|es|o|u)$/;
/** Endings that a word list's headword may have instead of the word's own. */
const MAX_ENDING = 3;

/** The headword that a form of a word may belong to: the one that shares most, and is nearest in length. */
function headword(words: PackedWords, form: string, most: number): string | undefined {
  for (let cut = 1; cut <= most && form.length - cut >= 4; cut++) {
    const stem = form.slice(0, -cut);
    const near = words
      .beginningWith(stem, 200)
      .filter((key) => key.length <= stem.length + 2 && !key.includes(' '));
    if (near.length > 0)
      return near.reduce((best, key) =>
        Math.abs(key.length - form.length) < Math.abs(best.length - form.length) ? key : best,
      );
  }
  return undefined;
}

/** What makes a plural of a word, by language, where no vowel changes. */
const onlyPlural = new Map([
  ['de', ['n', 'en', 'e', 's']],
  ['nl', ['en', 's']],
  ['sv', ['or', 'ar', 'er']],
  ['fr', ['s', 'x']],
  ['es', ['s', 'es']],
  ['pt', ['s']],
]);

/** A word looked up as it stands, as a regular form of another, and at last by its beginning. */
function lookUp(words: PackedWords, word: string, language: string, guessing = true): Found | undefined {
  const exact = words.get(word);
  if (exact.length > 0) return { english: exact, sure: 1 };
  for (const form of listedForms(word, language)) {
    const english = words.get(form);
    if (english.length > 0) return { english, sure: 0.95 };
  }
  // Of some words a list has the plural alone.
  for (const ending of onlyPlural.get(language) ?? []) {
    const english = words.get(word + ending);
    if (english.length > 0 && word.length > 3) return { english, sure: 0.9 };
  }
  const near = guessing ? headword(words, word, MAX_ENDING) : undefined;
  return near === undefined ? undefined : { english: words.get(near), sure: 0.6 };
}

/** Two parts of a word put together of several, and how well they are known. */
interface Parts {
  readonly first: string;
  readonly head: string;
  readonly sure: number;
}

/**
 * The best way to take a word apart: both parts known, without what links them, the head as long as can be.
 * @param known how well a part is known, 0 to 1
 */
function split(known: (word: string) => number, word: string): Parts | undefined {
  let best: Parts | undefined;
  for (let at = 3; at <= word.length - 3; at++) {
    const [before, head] = [word.slice(0, at), word.slice(at)];
    const knownHead = known(head);
    if (knownHead === 0) continue;
    for (const [first, linked] of [
      [before, 1],
      [before.replace(linking, ''), 0.9],
    ] as const) {
      const sure = first.length < 3 ? 0 : known(first) * knownHead * linked * (head.length < 4 ? 0.7 : 1);
      if (sure > (best?.sure ?? 0)) best = { first, head, sure };
    }
  }
  return best;
}

/** Whether a shop's own words have one: 1 or 0. */
const listed = (word: string): number => (meaningsOf(word).length > 0 ? 1 : 0);

const compounding = new Set(['en', 'de', 'nl', 'sv']);

/** Reads names by a short list of a shop's own words, by WordNet and by dictionaries, where they are there. */
export class Expander {
  private readonly kept = new Map<string, readonly Reading[]>();
  private readonly units = new Map<string, Terms>();
  private readonly others = new Map<string, readonly string[]>();
  private readonly directions = new Map<string, Float32Array | undefined>();

  constructor(private readonly thesaurus: Thesaurus = { dictionaries: new Map() }) {}

  /** The ways of reading a name. @param language the name's, where it is known; else every dictionary is asked */
  read(text: string, language?: string): readonly Reading[] {
    const key = `${language ?? ''}\t${text.slice(0, MAX_CHARACTERS)}`;
    const known = this.kept.get(key);
    if (known) return known;
    const words = wordsOf(text);
    // What a name is about stands last in Germanic languages and first in Romance ones, where the language is known.
    const first = language !== undefined && !compounding.has(language);
    const readings: Reading[] = [];
    if (words.length > 0) readings.push({ units: this.unitsOf(words, language, first), sure: 1 });
    const phrase = words.join(' ');
    if (words.length > 1 && (language === undefined || language === 'en') && this.isEnglish(phrase))
      readings.push(this.onePhrase(phrase, 1));
    for (const [at, plain] of putPlainly(words).entries())
      readings.push({
        units: this.unitsOf(plain, 'en', false),
        sure: at === 0 ? ways.listed : ways.described,
        putPlainly: true,
      });
    if (words.length > 1) {
      for (const found of this.inEnglish(words.join(' '), language)) readings.push(...this.english(found));
      // Each word in English, the best of each.
      if (language !== 'en') {
        const each = words.map((word) => this.wordInEnglish(word, language));
        if (each.some(({ english }, at) => english !== words[at]))
          readings.push({
            units: this.unitsOf(
              each.flatMap(({ english }) => wordsOf(english)),
              'en',
              first,
            ),
            sure: 0.9 * Math.min(...each.map(({ sure }) => sure)),
          });
      }
    }
    for (const word of words.length === 1 ? words : []) {
      for (const found of this.inEnglish(word, language)) readings.push(...this.english(found));
      for (const { first: before, head, sure, language: tag } of this.partsOf(word, language))
        readings.push({
          units: this.unitsOf([before, head], tag, false),
          sure: sure * (this.knows(word, language) ? ways.partsOfKnown : ways.parts),
        });
    }
    if (this.kept.size >= MAX_KEPT) this.kept.clear();
    const placed = readings.map((reading) => ({
      ...reading,
      vector: this.thesaurus.vectors?.ofPhrase(reading.units.flatMap(({ word }) => word.split(' '))),
    }));
    this.kept.set(key, placed);
    return placed;
  }

  /** The likeliest word of English for a word; itself where none is known. */
  private wordInEnglish(word: string, language: string | undefined): { english: string; sure: number } {
    const [found] = this.inEnglish(word, language);
    const [listed] = meaningsOf(word);
    if (listed && !(found && found.sure === 1)) return { english: listed.english, sure: 1 };
    return { english: found?.english[0] ?? word, sure: found?.sure ?? 1 };
  }

  /** What a word is in English, the likelier first. */
  translate(word: string): readonly string[] {
    return this.inEnglish(fold(word), undefined).flatMap(({ english, sure }) =>
      sure >= 0.95 ? english : [],
    );
  }

  /** What a word is in English, and other words of English for the nearest of its meanings: what a heading may be about. */
  otherWords(word: string): readonly string[] {
    const key = fold(word);
    const known = this.others.get(key);
    if (known) return known;
    const { wordNet } = this.thesaurus;
    const [sense] = this.isEnglish(key) ? (wordNet?.sensesOf(key) ?? []) : [];
    const same = sense === undefined ? [] : (wordNet?.meaning(sense).words ?? []);
    const found = [...this.translate(key), ...same.filter((one) => fold(one) !== key)];
    if (this.others.size >= MAX_KEPT) this.others.clear();
    this.others.set(key, found);
    return found;
  }

  /** How much a term says by itself, 0 to 1: wide meanings say little. */
  content(term: string): number {
    return term.startsWith('m') ? (this.thesaurus.wordNet?.content(Number(term.slice(1))) ?? 1) : 1;
  }

  private english({ english, sure }: Found): Reading[] {
    return english.flatMap((phrase, at) => {
      const says = (ways.translated * sure) / (1 + at * 0.04);
      const words = wordsOf(phrase);
      const readings: Reading[] = [{ units: this.unitsOf(words, 'en', false), sure: says }];
      if (words.length > 1 && this.isEnglish(words.join(' ')))
        readings.push(this.onePhrase(words.join(' '), says));
      return readings;
    });
  }

  /** A fixed phrase of several words as one unit. */
  private onePhrase(phrase: string, sure: number): Reading {
    return {
      units: [
        { word: phrase, terms: this.termsOf(phrase, 'en'), weight: 1, vector: this.directionOf(phrase) },
      ],
      sure,
    };
  }

  private unitsOf(words: readonly string[], language: string | undefined, first: boolean): Unit[] {
    return words.map((word, at) => ({
      word,
      terms: this.termsOf(word, language),
      weight: (first ? at === 0 : at === words.length - 1) ? 1 : ways.before,
      vector: this.directionIn(word, language),
    }));
  }

  /** Where an English word or phrase stands among words. */
  private directionOf(phrase: string): Float32Array | undefined {
    const words = wordsOf(phrase);
    return this.thesaurus.vectors?.together(
      words.flatMap((word, at) => {
        const form = singulars(word).findLast((one) => this.thesaurus.vectors?.of(one));
        return form === undefined ? [] : [{ word: form, weight: at === words.length - 1 ? 1 : ways.before }];
      }),
    );
  }

  /** The same for a word of any language: as English where it is, else by what it is in English, or by its parts. */
  private directionIn(word: string, language: string | undefined): Float32Array | undefined {
    const key = `${language ?? ''}\t${word}`;
    if (this.directions.has(key)) return this.directions.get(key);
    const parts: { vector: Float32Array; weight: number }[] = [];
    const add = (vector: Float32Array | undefined, weight: number) => {
      if (vector) parts.push({ vector, weight });
    };
    const english = language === undefined || language === 'en';
    if (english && this.isEnglish(word)) add(this.directionOf(word), 1);
    if (parts.length === 0) {
      for (const { english: other } of meaningsOf(word)) add(this.directionOf(other), 1);
      if (language !== 'en')
        for (const { english: phrases, sure } of this.inEnglish(word, language))
          for (const [at, phrase] of phrases.slice(0, 3).entries())
            add(this.directionOf(phrase), sure / (1 + at));
    }
    if (parts.length === 0)
      for (const { first, head, sure, language: tag } of this.partsOf(word, language)) {
        add(this.directionIn(head, tag), sure);
        add(this.directionIn(first, tag), sure * 0.7);
      }
    if (parts.length === 0 && english) add(this.directionOf(word), 1);
    const found = summed(parts);
    if (this.directions.size >= MAX_KEPT) this.directions.clear();
    this.directions.set(key, found);
    return found;
  }

  private knows(word: string, language: string | undefined): boolean {
    return (
      ((language === undefined || language === 'en') && this.isEnglish(word)) ||
      this.asked(language).some(([, words]) => words.get(word).length > 0)
    );
  }

  private isEnglish(word: string): boolean {
    return (this.thesaurus.wordNet?.sensesOf(word).length ?? 0) > 0;
  }

  /** All that one word may stand for. */
  private termsOf(word: string, language: string | undefined): Terms {
    const key = `${language ?? ''}\t${word}`;
    const known = this.units.get(key);
    if (known) return known;
    const terms = new Map<string, number>();
    raise(terms, `w${stem(word)}`, 1);
    if (word.length > MAX_WORD_LENGTH) return terms;
    const english = (language === undefined || language === 'en') && this.isEnglish(word);
    if (english) this.addMeanings(terms, word, 1);
    for (const { id, english: other } of meaningsOf(word)) {
      raise(terms, `l${id}`, ways.listed);
      if (!english) {
        raise(terms, `w${stem(other)}`, ways.listed);
        this.addMeanings(terms, other, ways.listed);
      }
    }
    const found = language === 'en' ? [] : this.inEnglish(word, language);
    for (const { english: phrases, sure } of found)
      for (const [at, phrase] of phrases.entries()) {
        const says = ((english ? 0.6 : 1) * ways.translated * sure) / (1 + at * 0.08);
        const parts = wordsOf(phrase);
        if (parts.length === 1) raise(terms, `w${stem(parts[0] ?? '')}`, says);
        if (this.isEnglish(parts.join(' '))) this.addMeanings(terms, parts.join(' '), says);
        else if (parts.length > 1) this.addMeanings(terms, parts.at(-1) ?? '', says * ways.head);
      }
    const complete = english || found.some(({ sure }) => sure === 1);
    for (const { first, head, sure, language: tag } of this.partsOf(word, language)) {
      for (const [part, says] of [
        [head, ways.head],
        [first, ways.modifier],
      ] as const)
        for (const [term, weight] of this.termsOf(part, tag))
          raise(terms, term, weight * says * sure * (complete ? ways.partsOfKnown : 1));
    }
    // What another word for it is in the shop's own words, in whatever language.
    for (const [term, weight] of [...terms])
      if (term.startsWith('w') && weight >= 0.2)
        for (const { id } of meaningsOfStem(term.slice(1))) raise(terms, `l${id}`, weight * ways.listed);
    if (this.units.size >= MAX_KEPT) this.units.clear();
    this.units.set(key, terms);
    return terms;
  }

  /** The ways of taking a word apart, by language; the best known only. */
  private partsOf(word: string, language: string | undefined): (Parts & { language: string })[] {
    if (word.length < 6 || word.length > MAX_WORD_LENGTH) return [];
    const found = this.asked(language).flatMap(([tag, words]) => {
      const parts = compounding.has(tag)
        ? split((part) => listed(part) || (lookUp(words, part, tag, false)?.sure ?? 0), word)
        : undefined;
      return parts ? [{ ...parts, language: tag }] : [];
    });
    if (language === undefined || language === 'en') {
      const parts = split((part) => (part.length > 2 && this.isEnglish(part) ? 1 : 0), word);
      if (parts) found.push({ ...parts, language: 'en' });
    }
    const best = Math.max(0, ...found.map(({ sure }) => sure));
    return found.filter(({ sure }) => sure >= best * 0.95);
  }

  private asked(language: string | undefined): [string, PackedWords][] {
    return [...this.thesaurus.dictionaries].filter(([tag]) => language === undefined || tag === language);
  }

  /** What the dictionaries that know a word best have for it. */
  private inEnglish(word: string, language: string | undefined): Found[] {
    if (word.length > MAX_WORD_LENGTH * 4) return [];
    // A word of English is not taken for a form of another language's, only for a word of it.
    const english = language === undefined && this.isEnglish(word);
    const found = this.asked(language).flatMap(([tag, words]) => {
      const met = lookUp(words, word, tag, !english);
      return met && (!english || met.sure === 1) ? [met] : [];
    });
    const best = Math.max(0, ...found.map(({ sure }) => sure));
    return found.filter(({ sure }) => sure === best);
  }

  private addMeanings(terms: Map<string, number>, phrase: string, weight: number): void {
    const { wordNet } = this.thesaurus;
    if (!wordNet) return;
    for (const [at, id] of wordNet.sensesOf(phrase).slice(0, 4).entries()) {
      const says = weight * ways.rarer ** at;
      const { words, definition } = wordNet.meaning(id);
      raise(terms, `m${id}`, says);
      for (const word of words) raise(terms, `w${stem(fold(word))}`, says * ways.synonym);
      for (const word of definition) raise(terms, `w${stem(word)}`, says * ways.defined);
      let above = [id];
      for (let step = 1, left = says * ways.wider; step <= 5 && left > 0.03; step++, left *= ways.wider) {
        above = above.flatMap((one) => wordNet.meaning(one).wider);
        for (const one of above) {
          raise(terms, `m${one}`, left);
          if (step <= 2)
            for (const word of wordNet.meaning(one).words) {
              const parts = wordsOf(word);
              for (const part of parts) raise(terms, `w${stem(part)}`, (left * ways.synonym) / parts.length);
            }
        }
      }
    }
  }
}

function raise(terms: Map<string, number>, term: string, weight: number): void {
  if (weight > (terms.get(term) ?? 0)) terms.set(term, weight);
}
