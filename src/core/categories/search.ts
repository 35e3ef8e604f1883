import MiniSearch from 'minisearch';
import { fold } from '../text/folding';
import { partsOf, sameMeaning, stem, stopWords } from '../words/lexicon';
import { type Expander, MAX_CHARACTERS } from '../words/thesaurus';
import { confidenceOf } from './confidence';
import { type CategoryByMeaning, categoriesByMeaning } from './meaning';
import { type CategoryTree, nameOf, pathOf } from './tree';

export interface CategoryHit {
  readonly code: string;
  /** 0 to 100; 100 is the best hit of this search where every word was found. */
  readonly score: number;
  /** The sum of Okapi BM25 over the fields by their weights, as it came out. */
  readonly relevance: number;
  /** How near the word of the query that is met least comes to anything of the place, 0 to 1; 0 where only letters were compared. */
  readonly least: number;
  /** The words of the query that were found; where none was, those that were guessed at. */
  readonly matched: readonly string[];
  /** Whether no word was found as it stands, in part or in another language. */
  readonly guessed: boolean;
}

export interface CategorySearch {
  /**
   * @param most hits given back, the best first
   * @param every whether a place that has every word of the query stands above one that has some of them
   */
  find(query: string, most?: number, every?: boolean): CategoryHit[];
  /** How near places are to all that a shop sells, 0 to 1 by code; nothing where words are read by their letters alone. */
  company(names: readonly string[]): ReadonlyMap<string, number>;
}

/**
 * Okapi BM25 as published (Robertson and Zaragoza 2009): k1 and b as they are usually set, and none of the later "plus".
 */
const okapi = { k: 1.2, b: 0.75, d: 0 };

/**
 * Search over a tree: names and synonyms in every language the tree has, a leaf's own words first, its branch's words at a
 * quarter. Ranked by Okapi BM25 (MiniSearch), with prefixes and one wrong letter in five allowed, and by what the words
 * mean ({@link categoriesByMeaning}) where an expander is given.
 */
export function searchTree(tree: CategoryTree, expander?: Expander): CategorySearch {
  const byText = searchByText(tree);
  if (!expander) return byText;
  const byMeaning = categoriesByMeaning(tree, expander);
  const stored = new Map<string, CategoryHit[]>();
  let shop: { names: readonly string[]; near: ReadonlyMap<string, number> } | undefined;
  return {
    find(query, most = 8, every = true) {
      const key = `${every}\t${query}`;
      let hits = stored.get(key);
      if (!hits) {
        hits = both(byMeaning.find(query), byText.find(query, MAX_HITS, every)).slice(0, MAX_HITS);
        if (stored.size >= MAX_KEPT) stored.clear();
        stored.set(key, hits);
      }
      return hits.slice(0, most);
    },
    company(names) {
      if (names !== shop?.names) shop = { names, near: byMeaning.company(names) };
      return shop.near;
    },
  };
}

/** Queries whose hits are kept, and how many of each. */
const MAX_KEPT = 2000;
const MAX_HITS = 40;
/** How much the search by words adds to the one by meaning. */
const byWords = 0.2;

function both(meant: readonly CategoryByMeaning[], found: readonly CategoryHit[]): CategoryHit[] {
  const written = new Map(found.map((hit) => [hit.code, hit]));
  const hits = meant.map(({ code, score, least, matched }): CategoryHit => {
    const hit = written.get(code);
    written.delete(code);
    const sure = (score + (byWords * (hit?.score ?? 0)) / 100) / (1 + byWords);
    return {
      code,
      score: Math.round(Math.min(1, sure) * 100),
      relevance: hit?.relevance ?? 0,
      least,
      matched: matched.length > 0 ? matched : (hit?.matched ?? []),
      guessed: matched.length === 0 && (hit?.guessed ?? true),
    };
  });
  for (const hit of written.values())
    hits.push({ ...hit, score: Math.round((hit.score * byWords) / (1 + byWords)) });
  return hits.filter(({ score }) => score > 0).sort((one, other) => other.score - one.score);
}

/** {@link searchTree} by the words alone. */
function searchByText(tree: CategoryTree): CategorySearch {
  const index = new MiniSearch<{ id: string; own: string; synonyms: string; branch: string }>({
    fields: ['own', 'synonyms', 'branch'],
    searchOptions: { bm25: okapi },
    processTerm: (term) => {
      const word = stem(fold(term));
      if (word === '' || stopWords.has(word)) return null;
      return [word, ...partsOf(word)];
    },
    tokenize: (text) => fold(text).split(' '),
  });
  // A word that two languages share stands once: a name's length is then the number of its words, as the formula has it.
  const once = (text: string) => [...new Set(fold(text).split(' '))].join(' ');
  const names = (code: string) => Object.values(tree.byCode.get(code)?.names ?? {}).join(' ');
  index.addAll(
    [...tree.byCode.values()]
      .filter((category) => category.children.length === 0)
      .map((category) => ({
        id: category.code,
        own: once(names(category.code)),
        synonyms: once(category.synonyms.join(' ')),
        branch: once(pathOf(tree, category.code).slice(0, -1).map(names).join(' ')),
      })),
  );
  return {
    company: () => new Map(),
    find(query, most = 8, every = true) {
      const words = askedWords(query.slice(0, MAX_CHARACTERS));
      if (words.length === 0) return [];
      const meant = new Map<string, number>();
      for (const { others } of words) for (const other of others) meant.set(other, 0.6);
      for (const { stems } of words) for (const own of stems) meant.set(own, 1);
      const found = index.search([...meant.keys()].join(' '), {
        boost: { own: 2, synonyms: 1.5, branch: 0.25 },
        // The words are stems already, and the parts of each stand beside it.
        processTerm: (term) => term,
        boostTerm: (term) => meant.get(term) ?? 1,
        prefix: (term) => term.length > 3 && meant.get(term) === 1,
        fuzzy: (term) => (term.length > 4 && meant.get(term) === 1 ? 0.2 : false),
        // A word that is nearly another ("cloches", "clocks") must not outweigh the word itself in a synonym.
        weights: { fuzzy: 0.15, prefix: 0.35 },
      });
      const hits = found.map((hit) => {
        // MiniSearch multiplies by the number of words found; the formula does not.
        const relevance = hit.score / Math.max(1, hit.queryTerms.length);
        const [asked, there] = [new Set(hit.queryTerms), new Set(hit.terms)];
        const marks = words.flatMap(({ word, stems, others }) => {
          // The word itself; a part of it or another word for it; one that was only guessed at by beginning or spelling.
          const sure = there.has(stems[0] ?? '')
            ? 1
            : [...stems, ...others].some((one) => there.has(one))
              ? 0.8
              : stems.some((one) => asked.has(one))
                ? 0.3
                : 0;
          return sure > 0 ? [{ word, sure }] : [];
        });
        const sure = marks.filter((mark) => mark.sure > 0.5);
        const matched = (sure.length > 0 ? sure : marks).map(({ word }) => word);
        const wanted = every ? words.length : marks.length;
        const share = wanted === 0 ? 0 : marks.reduce((sum, { sure }) => sum + sure, 0) / wanted;
        return { code: String(hit.id), relevance, share, matched, guessed: sure.length === 0 };
      });
      const best = Math.max(...hits.map(({ relevance }) => relevance));
      return hits
        .map(({ code, relevance, share, matched, guessed }) => ({
          code,
          guessed,
          score: Math.round((relevance / best) * (0.25 + 0.75 * share) * 100),
          relevance,
          least: 0,
          matched,
        }))
        .sort((one, other) => other.score - one.score)
        .slice(0, most);
    },
  };
}

/** A word of a query: itself and its parts as stems, and other words for any of them. */
interface AskedWord {
  readonly word: string;
  readonly stems: readonly string[];
  readonly others: readonly string[];
}

function askedWords(query: string): AskedWord[] {
  const known = new Map<string, AskedWord>();
  for (const word of query.toLowerCase().split(/[^\p{L}\p{M}\p{N}]+/u)) {
    const own = stem(fold(word));
    if (own === '' || stopWords.has(own) || known.has(own)) continue;
    const stems = [own, ...partsOf(own)];
    const others = [...new Set(stems.flatMap(sameMeaning))].filter((other) => !stems.includes(other));
    known.set(own, { word, stems, others });
  }
  return [...known.values()];
}

/** How many different texts of a catalog hold each word, to know those that say nothing. */
export interface CatalogWords {
  readonly texts: number;
  readonly counts: ReadonlyMap<string, number>;
}

const wordsOf = (text: string): string[] => [
  ...new Set(
    fold(text)
      .split(' ')
      .filter((word) => word.length > 2 && !/\d/.test(word) && !stopWords.has(word)),
  ),
];

/** Counts the words of a catalog's texts; a text that stands on several items counts once. */
export function catalogWords(texts: Iterable<string>): CatalogWords {
  const counts = new Map<string, number>();
  const distinct = new Set(texts);
  for (const text of distinct)
    for (const word of wordsOf(text)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return { texts: distinct.size, counts };
}

/** A place that was confirmed for the same merchant category elsewhere. */
export interface ConfirmedCategory {
  /** The place's names, in every language of its tree. */
  readonly words: string;
  /** Its code, where it is of the same channel. */
  readonly code?: string;
  /** Where it was confirmed, as a reason says it. */
  readonly where: string;
}

export interface MerchantCategory {
  readonly name: string;
  /** Names of a few items in it; their words help where the category's own do not. */
  readonly itemNames: readonly string[];
  /** What its items are described as, with the words of the whole catalog to tell boilerplate by. */
  readonly described?: { readonly texts: readonly string[]; readonly catalog: CatalogWords };
  /** What the shop's categories are called, all of them: of places as likely the nearest to what else it sells is taken. */
  readonly company?: readonly string[];
  /** Places confirmed for it in other feeds. */
  readonly confirmed?: readonly ConfirmedCategory[];
}

/** How much it counts that a place is near to what else the shop sells. */
const companyShare = 0.2;

/** Items of a category whose names are looked at one by one. */
const MAX_ITEM_NAMES = 6;

export interface CategorySuggestion {
  readonly code: string;
  /** 0 to 100: how often such a suggestion is right. */
  readonly score: number;
  readonly matched: readonly string[];
  /** Where the same category was placed alike before. */
  readonly learned: string | undefined;
}

/**
 * Ranked places for a merchant category, by its own words, by what its items are called, by words that their descriptions
 * share and the rest of the catalog does not, and by what was confirmed for it elsewhere, which counts as its own.
 * Equal scores stand by name.
 */
export function suggestCategories(
  search: CategorySearch,
  tree: CategoryTree,
  category: MerchantCategory,
  most = 3,
): CategorySuggestion[] {
  const own = category.name.split(/[>›/]/).at(-1) ?? category.name;
  const confirmed = category.confirmed ?? [];
  const described = category.described;
  const taught = confirmed.length > 0;
  // What items are called, each for itself: a word that only one of them has may be the one that tells.
  const itemNames = [...new Set(category.itemNames)].slice(0, MAX_ITEM_NAMES);
  const evidence: { query: string; weight: number; every: boolean; where?: string }[] = [
    { query: own, weight: taught ? 0.3 : 0.4, every: true },
    { query: sharedWords(category.itemNames).join(' '), weight: 0.05, every: true },
    ...itemNames.map((name) => ({
      query: name,
      // A single name may be a title that says nothing of what the thing is.
      weight: itemNames.length === 1 ? 0.2 : (taught ? 0.2 : 0.7) / itemNames.length,
      every: false,
    })),
    {
      query: described ? distinctWords(described.texts, described.catalog).join(' ') : '',
      weight: taught ? 0.1 : 0.15,
      every: false,
    },
    {
      query: [...new Set(confirmed.flatMap(({ words }) => wordsOf(words)))].join(' '),
      weight: 0.4,
      every: false,
      where: [...new Set(confirmed.map(({ where }) => where))].join(', '),
    },
  ];
  const scores = new Map<
    string,
    { score: number; least: number; matched: Set<string>; learned: string | undefined }
  >();
  const requested = evidence.filter(({ query }) => query !== '');
  const weights = requested.reduce((sum, { weight }) => sum + weight, 0);
  for (const { query, weight, every, where } of requested) {
    const hits = search.find(query, 20, every);
    // Where not one word is found as it stands, only guessed at, the query has little to say.
    const says = (weight / weights) * ((hits[0]?.score ?? 0) < 50 ? 0.3 : 1);
    for (const hit of hits) {
      const entry = scores.get(hit.code) ?? {
        score: 0,
        least: 0,
        matched: new Set<string>(),
        learned: undefined,
      };
      if (query === own) entry.least = hit.least;
      entry.score += hit.score * says;
      // Words of one stem are one word to a reader.
      // The words of a place that was confirmed elsewhere are not the merchant's.
      for (const word of (hit.guessed && query !== own) || where !== undefined ? [] : hit.matched)
        if (![...entry.matched].some((known) => stem(fold(known)) === stem(fold(word))))
          entry.matched.add(word);
      // Only the places that are nearest to the one confirmed: its branch has others whose names share a word.
      if (where !== undefined && hit.score >= 50 && hit.score >= 0.95 * (hits[0]?.score ?? 0))
        entry.learned ??= where;
      scores.set(hit.code, entry);
    }
  }
  const company = category.company ? search.company(category.company) : undefined;
  const ranked = [...scores]
    .map(([code, found]) => ({
      code,
      ...found,
      alone: found.score,
      score: found.score * (1 - companyShare + companyShare * (company?.get(code) ?? 1)),
    }))
    .sort(
      (a, b) => b.score - a.score || nameOf(tree, a.code, 'en').localeCompare(nameOf(tree, b.code, 'en')),
    );
  const [first, second] = ranked;
  const sure = confidenceOf(first, second, {
    onlyName: requested.length === 1,
    taught,
  });
  const others = ranked.slice(1, most).reduce((sum, { score }) => sum + score, 0);
  const suggestions = ranked.slice(0, most).map(({ code, score, matched, learned }, at) => ({
    code,
    // The first as often as it is right; the others share what is left, and none stands above the first.
    // Nothing that is guessed is certain.
    score: Math.min(99, Math.round(100 * (at === 0 ? sure : Math.min(sure, ((1 - sure) * score) / others)))),
    matched: [...matched],
    learned,
  }));
  const where = new Map(
    confirmed.flatMap((one) =>
      one.code && tree.byCode.has(one.code) ? [[one.code, one.where] as const] : [],
    ),
  );
  const matchedBy = new Map(suggestions.map(({ code, matched }) => [code, matched]));
  return [
    ...[...where].map(([code, learned]) => ({
      code,
      score: 98,
      matched: matchedBy.get(code) ?? [],
      learned,
    })),
    ...suggestions.filter(({ code }) => !where.has(code)),
  ].slice(0, most);
}

/** Words that at least a third of some texts share and that are twice as common there as in the whole catalog. */
function distinctWords(texts: readonly string[], catalog: CatalogWords): string[] {
  const here = catalogWords(texts);
  return [...here.counts]
    .map(([word, count]) => {
      const share = count / Math.max(1, here.texts);
      return {
        word,
        share,
        lift: share / ((catalog.counts.get(word) ?? count) / Math.max(1, catalog.texts)),
      };
    })
    .filter(({ share, lift }) => share >= 1 / 3 && lift >= 2)
    .sort((a, b) => b.share - a.share || b.lift - a.lift)
    .slice(0, 8)
    .map(({ word }) => word);
}

function sharedWords(names: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const name of names) for (const word of wordsOf(name)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return [...counts]
    .filter(([, count]) => count >= Math.max(2, names.length / 3))
    .sort((a, b) => b[1] - a[1])
    .slice(0, 6)
    .map(([word]) => word);
}
