import { fold } from '../../text/folding';
import { nameMatcher } from '../../text/similarity';
import { headingLexicon, headingMeanings } from './headingLexicon';

interface LexiconMatcher {
  /** Folded, no blanks. */
  readonly names: ReadonlySet<string>;
  /** By what the words are about. */
  readonly meant: ReadonlySet<string>;
  /** Names that are long enough to be told from others by their spelling. */
  readonly matchers: readonly (readonly [name: string, match: (other: string) => number])[];
}

const matchersByCode = new Map<string, LexiconMatcher>();

/** What the lexicon knows of an attribute, made ready to be compared with headings; made once a code. */
export function lexiconMatcher(code: string): LexiconMatcher {
  const known = matchersByCode.get(code);
  if (known) return known;
  const words = headingLexicon.get(code) ?? [];
  const created = {
    names: new Set(words.map((word) => fold(word).replace(/ /g, ''))),
    meant: headingMeanings.get(code) ?? new Set<string>(),
    matchers: words
      // "Fabriqué en" is no nearer to "name en" for the word they share.
      .filter((word) => fold(word).length >= 6 && !/ \S{1,2}$/.test(word))
      .map((word) => [word, nameMatcher(word)] as const),
  };
  matchersByCode.set(code, created);
  return created;
}
