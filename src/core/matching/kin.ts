import { partsOf, sameMeaning } from '../words/lexicon';
import { stemOf } from '../words/stems';

const kin = new Map<string, ReadonlySet<string>>();

/** A word, what means the same in any language, and what it is put together of. */
export function kinOf(word: string): ReadonlySet<string> {
  const known = kin.get(word);
  if (known) return known;
  const parts = partsOf(word);
  const found = new Set([
    word,
    stemOf(word, 'en'),
    ...sameMeaning(word),
    ...parts,
    ...parts.flatMap(sameMeaning),
  ]);
  if (kin.size > 5000) kin.clear();
  kin.set(word, found);
  return found;
}

/** Whether two words are one, or mean the same. */
export function areKin(word: string, other: string): boolean {
  if (word === other) return true;
  const theirs = kinOf(other);
  for (const one of kinOf(word)) if (theirs.has(one)) return true;
  return false;
}
