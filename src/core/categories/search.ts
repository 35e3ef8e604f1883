import MiniSearch from 'minisearch';
import { fold } from '../text/folding';
import { type CategoryTree, nameOf, pathOf } from './tree';

export interface CategoryHit {
  readonly code: string;
  /** 0 to 100; 100 is the best hit of this search where every word was found. */
  readonly score: number;
  /** The words of the query that were found, folded. */
  readonly matched: readonly string[];
}

export interface CategorySearch {
  find(query: string, most?: number): CategoryHit[];
}

const stem = (word: string): string => {
  // Plural endings of the four languages, so that "pots" meets "pot" and "Töpfe" meets "Topf". Common practice, no source.
  if (word.length > 5 && /(ies)$/.test(word)) return `${word.slice(0, -3)}y`;
  if (word.length > 5 && /(en|es)$/.test(word)) return word.slice(0, -2);
  if (word.length > 3 && /[se]$/.test(word)) return word.slice(0, -1);
  return word;
};

const stopWords = new Set(
  'and or the of for with und oder der die das fur mit von y o de la el los las para con et ou du le les pour avec'.split(
    ' ',
  ),
);

/**
 * Full text search over a tree: names and synonyms in every language the tree has, a leaf's own words first,
 * its branch's words at a quarter. Ranked by Okapi BM25 (MiniSearch), with prefixes and one wrong letter in five allowed.
 */
export function searchTree(tree: CategoryTree): CategorySearch {
  const index = new MiniSearch<{ id: string; own: string; synonyms: string; branch: string }>({
    fields: ['own', 'synonyms', 'branch'],
    processTerm: (term) => {
      const word = stem(fold(term));
      return word === '' || stopWords.has(word) ? null : word;
    },
    tokenize: (text) => fold(text).split(' '),
  });
  const names = (code: string) => Object.values(tree.byCode.get(code)?.names ?? {}).join(' ');
  index.addAll(
    [...tree.byCode.values()]
      .filter((category) => category.children.length === 0)
      .map((category) => ({
        id: category.code,
        own: names(category.code),
        synonyms: category.synonyms.join(' '),
        branch: pathOf(tree, category.code).slice(0, -1).map(names).join(' '),
      })),
  );
  return {
    find(query, most = 8) {
      const found = index.search(query, {
        boost: { own: 2, synonyms: 1.5, branch: 0.25 },
        prefix: (term) => term.length > 3,
        fuzzy: (term) => (term.length > 4 ? 0.2 : false),
        // A word that is nearly another ("cloches", "clocks") must not outweigh the word itself in a synonym.
        weights: { fuzzy: 0.15, prefix: 0.35 },
      });
      // The words as they were asked for, by their stems: a reader wants to see "garden", not "gard".
      const words = new Map(
        fold(query)
          .split(' ')
          .map((word) => [stem(word), word] as const)
          .filter(([word]) => word !== '' && !stopWords.has(word)),
      );
      const best = found[0]?.score ?? 1;
      return found.slice(0, most).map((hit) => {
        const matched = [...new Set(hit.queryTerms)].map((term) => words.get(term) ?? term);
        const share = words.size === 0 ? 0 : matched.length / words.size;
        return {
          code: String(hit.id),
          score: Math.round((hit.score / best) * (0.4 + 0.6 * share) * 100),
          matched,
        };
      });
    },
  };
}

export interface MerchantCategory {
  readonly name: string;
  /** Names of a few items in it; their words help where the category's own do not. */
  readonly itemNames: readonly string[];
}

/**
 * Ranked places for a merchant category: its own words count in full, words that at least a third of its items share
 * at a third. Equal scores stand in the tree's order.
 */
export function suggestPlaces(
  search: CategorySearch,
  tree: CategoryTree,
  category: MerchantCategory,
  most = 3,
): CategoryHit[] {
  const own = search.find(category.name.split(/[>›/]/).at(-1) ?? category.name, 20);
  const shared = search.find(sharedWords(category.itemNames).join(' '), 20);
  const scores = new Map<string, { score: number; matched: Set<string> }>();
  for (const [hits, weight] of [
    [own, 0.75],
    [shared, 0.25],
  ] as const)
    for (const hit of hits) {
      const entry = scores.get(hit.code) ?? { score: 0, matched: new Set<string>() };
      entry.score += hit.score * weight;
      for (const word of hit.matched) entry.matched.add(word);
      scores.set(hit.code, entry);
    }
  return [...scores]
    .map(([code, { score, matched }]) => ({ code, score: Math.round(score), matched: [...matched] }))
    .sort((a, b) => b.score - a.score || nameOf(tree, a.code, 'en').localeCompare(nameOf(tree, b.code, 'en')))
    .slice(0, most);
}

function sharedWords(names: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const name of names)
    for (const word of new Set(fold(name).split(' ')))
      if (word.length > 2 && !/\d/.test(word)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return [...counts]
    .filter(([, count]) => count >= Math.max(2, names.length / 3))
    .sort((a, b) => b[1] - a[1])
    .slice(0, 6)
    .map(([word]) => word);
}
