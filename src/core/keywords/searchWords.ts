import { asText, attributeReader, type Row, type Value } from '../catalog/value';
import type { Field } from '../channels/sheet';
import type { CompiledComposition } from '../compose/composition';
import type { StepContext } from '../compose/steps';
import { lengthIn } from '../text/length';
import { stemOf, stemsOf, wordsOf } from '../words/stems';
import type { Keyword } from './keyword';
import { type Candidate, selectWords } from './selection';

/** A term with its words and their stems. */
export interface Term extends Keyword {
  readonly words: readonly string[];
  readonly stems: readonly string[];
}

/** The terms that a feed may say, found by an item's category. */
export interface Terms {
  readonly language: string;
  /** Those of the category and the branches above it, and of no category where the text has a word of theirs; most searched first. */
  forItem(category: string, text: string): readonly Term[];
}

const none: readonly Term[] = [];

/**
 * Terms by category, those that hold a word one never says left out.
 * @param branchesOf a category and those above it
 */
export function termsOf(
  keywords: readonly Keyword[],
  language: string,
  never: readonly string[],
  branchesOf: (category: string) => readonly string[],
): Terms {
  const unsaid = new Set(never.flatMap((words) => [...stemsOf(words, language)]));
  const byCategory = new Map<string, Term[]>();
  for (const keyword of keywords) {
    const words = [...new Set(wordsOf(keyword.term))];
    const stems = words.map((word) => stemOf(word, language));
    if (stems.some((stem) => unsaid.has(stem))) continue;
    const known = byCategory.get(keyword.category) ?? [];
    known.push({ ...keyword, words, stems });
    byCategory.set(keyword.category, known);
  }
  const anywhere = byCategory.get('') ?? none;
  const gathered = new Map<string, readonly Term[]>();
  const ofCategory = (category: string): readonly Term[] => {
    const known = gathered.get(category);
    if (known) return known;
    const found = bySearches(
      (category === '' ? [] : branchesOf(category)).flatMap((one) => byCategory.get(one) ?? none),
    );
    gathered.set(category, found);
    return found;
  };
  return {
    language,
    forItem(category, text) {
      const own = ofCategory(category);
      if (anywhere.length === 0) return own;
      const stems = stemsOf(`${text} ${category}`, language);
      const further = anywhere.filter((term) => term.stems.some((stem) => stems.has(stem)));
      return further.length === 0 ? own : bySearches([...own, ...further]);
    },
  };
}

/** Most searched first, each set of words once. */
function bySearches(terms: readonly Term[]): readonly Term[] {
  const seen = new Set<string>();
  return [...terms]
    .sort((a, b) => b.volume - a.volume || (a.term < b.term ? -1 : 1))
    .filter(({ stems }) => {
      const key = [...stems].sort().join(' ');
      if (seen.has(key)) return false;
      seen.add(key);
      return true;
    });
}

/** No choice is made among more: the most searched come first. */
const MAX_CANDIDATES = 40;
const MAX_KEPT = 20_000;

/**
 * Fills a field with the words of the terms that are searched most: nothing that the title or the brand says already, no word
 * twice in any of its forms, never over the limit. A field that takes a list takes whole terms.
 * @param titleOf the title of the item at hand
 */
export function compileSearchWords(
  field: Field,
  terms: Terms,
  context: StepContext,
  titleOf: (row: Row) => string | undefined,
): CompiledComposition {
  const { language } = terms;
  const read = (code: string) => attributeReader(context.index, code, context) ?? (() => undefined);
  const [brandOf, nameOf] = [read('brand'), read('name')];
  const categorySlot = context.index.slotOf('category');
  const measure = field.length?.measure ?? 'characters';
  const most = field.length?.most ?? 250;
  const stored = new Map<string, Value | undefined>();

  const asWords = (candidates: readonly Term[], stated: ReadonlySet<string>): Value | undefined => {
    const forms = new Map<string, string>();
    const wanted: Candidate[] = candidates.map(({ volume, words, stems }) => {
      const missing = new Set<string>();
      for (const [at, stem] of stems.entries()) {
        if (stated.has(stem)) continue;
        missing.add(stem);
        const form = words[at] as string;
        const known = forms.get(stem);
        // One form of each word, the shortest there is.
        if (known === undefined || lengthIn(form, measure) < lengthIn(known, measure)) forms.set(stem, form);
      }
      return { volume, words: [...missing] };
    });
    const formOf = (stem: string) => forms.get(stem) as string;
    const chosen = selectWords(wanted, (stem) => lengthIn(formOf(stem), measure) + 1, most + 1);
    return chosen.words.map(formOf).join(' ') || undefined;
  };
  const asTerms = (candidates: readonly Term[], stated: ReadonlySet<string>): Value | undefined => {
    const now = new Set(stated);
    const list: string[] = [];
    for (const { term, stems } of candidates) {
      if (list.length >= (field.values?.most ?? 1)) break;
      if (lengthIn(term, measure) > most || stems.every((stem) => now.has(stem))) continue;
      list.push(term);
      for (const stem of stems) now.add(stem);
    }
    return list.length > 0 ? list : undefined;
  };

  const run = (row: Row): Value | undefined => {
    const category = categorySlot === undefined ? '' : asText(row[categorySlot]);
    const title = titleOf(row) ?? '';
    const stated = stemsOf(`${title} ${asText(brandOf(row))}`, language);
    const candidates = terms
      .forItem(category, `${title} ${asText(nameOf(row))}`)
      .filter(({ stems }) => stems.some((stem) => !stated.has(stem)))
      .slice(0, MAX_CANDIDATES);
    if (candidates.length === 0) return undefined;
    // Variants and much else differ in words that no term has.
    const key = candidates
      .map(({ term, stems }) => `${term}:${stems.map((stem) => Number(stated.has(stem))).join('')}`)
      .join('|');
    if (stored.has(key)) return stored.get(key);
    const value = field.values ? asTerms(candidates, stated) : asWords(candidates, stated);
    if (stored.size >= MAX_KEPT) stored.clear();
    stored.set(key, value);
    return value;
  };
  return {
    run,
    trace(row, tie) {
      const value = run(row);
      tie({ kind: 'searchWords', what: '', value });
      return value;
    },
  };
}

/** The term of an item that is searched most and that a text does not say yet. */
export function topTermReader(terms: Terms, context: StepContext): (row: Row) => string | undefined {
  const nameOf = attributeReader(context.index, 'name', context) ?? (() => undefined);
  const categorySlot = context.index.slotOf('category');
  return (row) => {
    const name = asText(nameOf(row));
    const stated = stemsOf(name, terms.language);
    const category = categorySlot === undefined ? '' : asText(row[categorySlot]);
    return terms.forItem(category, name).find(({ stems }) => stems.some((stem) => !stated.has(stem)))?.term;
  };
}
