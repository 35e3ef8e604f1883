import { fold } from '../text/folding';

/** One headword of a dictionary and what it is in the other language. */
export interface DictionaryEntry {
  readonly word: string;
  readonly translations: readonly string[];
}

const digits = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const number = (text: string): number =>
  [...text].reduce((sum, digit) => sum * 64 + Math.max(0, digits.indexOf(digit)), 0);

/** Longer headwords and translations are sayings and explanations, not names of things. */
const MAX_WORDS = 4;
const short = (text: string): boolean => text !== '' && text.split(/\s+/).length <= MAX_WORDS;

/**
 * Reads a dictionary of the dict protocol's file form (RFC 2229's servers; `dictfmt`): an index of headword, offset and
 * length, the numbers to base 64, and the text they point into. Notes, examples, places and persons are left out.
 * @param text the unpacked `.dict` @param index the `.index`
 */
export function* readDictionary(text: Buffer, index: string): Generator<DictionaryEntry> {
  for (const line of index.split('\n')) {
    const [keyword = '', at, length] = line.split('\t');
    if (!at || !length || keyword.startsWith('00database')) continue;
    const entry = readEntry(keyword, text.toString('utf8', number(at), number(at) + number(length)));
    if (entry) yield entry;
  }
}

function readEntry(keyword: string, entry: string): DictionaryEntry | undefined {
  const [head = '', ...lines] = entry.split('\n');
  const word = keyword.trim();
  if (/<pn>/.test(head) || !short(word)) return undefined;
  const translations = new Set<string>();
  for (const line of lines) {
    // Deeper lines are notes and examples; a line in brackets explains.
    if (/^\s{2,}\S/.test(line) || /^\s*(see:|\()/.test(line) || /^\S.* \/[^/]+\/( <|$)/.test(line)) continue;
    for (const part of bare(line.replace(/^\s*\d+\.\s*/, '')).split(/\s*[,;]\s*/)) {
      const translation = part.replace(/^(to|a|an|the)\s+/i, '').trim();
      if (short(translation) && /[a-zA-Z]/.test(translation)) translations.add(translation);
    }
  }
  return translations.size > 0 ? { word, translations: [...translations] } : undefined;
}

/** A text without marks of grammar and use in any bracket. */
const bare = (text: string): string =>
  text
    .replace(/<[^>]*>|\[[^\]]*\]|\([^)]*\)|\{[^}]*\}/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/**
 * A word list from folded headwords to English, from dictionaries towards English and, turned round, from English.
 * @param most translations kept for a word, those of the first dictionary first
 */
export function wordsToEnglish(
  towards: Iterable<DictionaryEntry>,
  from: Iterable<DictionaryEntry>,
  most = 12,
): Map<string, Set<string>> {
  const words = new Map<string, Set<string>>();
  const add = (word: string, english: string) => {
    const key = fold(word);
    const value = english.toLowerCase().replaceAll('|', ' ');
    if (key === '' || value === '') return;
    const known = words.get(key);
    if (!known) words.set(key, new Set([value]));
    else if (known.size < most) known.add(value);
  };
  // English is written in ASCII, but for hyphens; what is not stands there to explain.
  const isEnglish = /^[a-zA-Z0-9 .'‐-]+$/;
  for (const { word, translations } of towards)
    for (const english of translations) if (isEnglish.test(english)) add(word, english);
  for (const { word, translations } of from) for (const other of translations) add(other, word);
  return words;
}
