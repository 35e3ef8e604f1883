import { InputError } from '../errors/inputError';
import { tableRows } from '../import/tables/delimited';
import { fold } from '../text/folding';

/** What shoppers type, and how often. */
export interface Keyword {
  readonly term: string;
  /** Searches, in whatever time the list counts them. */
  readonly volume: number;
  /** The merchant's category it is for, its branch inherits; empty where it may be for any. */
  readonly category: string;
}

/** Keywords by language (BCP 47 primary subtag), those searched most first. */
export type KeywordLists = ReadonlyMap<string, readonly Keyword[]>;

const headings: Readonly<Record<'term' | 'volume' | 'language' | 'category', readonly string[]>> = {
  term: [
    'term',
    'terms',
    'keyword',
    'keywords',
    'key word',
    'search term',
    'search terms',
    'search query',
    'query',
    'phrase',
    'suchbegriff',
    'suchbegriffe',
    'suchwort',
    'stichwort',
    'begriff',
    'mot cle',
    'mots cles',
    'requete',
    'terme de recherche',
    'palabra clave',
    'palabras clave',
    'termino de busqueda',
    'busqueda',
    'parola chiave',
    'parole chiave',
    'termine di ricerca',
    'zoekwoord',
    'zoekterm',
    'trefwoord',
    'palavra chave',
    'termo de pesquisa',
    'sokord',
    'sokterm',
    'slowo kluczowe',
    'fraza',
  ],
  volume: [
    'volume',
    'search volume',
    'searches',
    'monthly searches',
    'avg monthly searches',
    'count',
    'suchvolumen',
    'suchanfragen',
    'anzahl',
    'volume de recherche',
    'recherches',
    'volumen',
    'volumen de busqueda',
    'busquedas',
    'volume di ricerca',
    'ricerche',
    'zoekvolume',
    'volume de pesquisa',
    'pesquisas',
    'sokvolym',
    'liczba wyszukiwan',
    'wyszukiwania',
  ],
  language: ['language', 'lang', 'sprache', 'langue', 'idioma', 'lingua', 'taal', 'sprak', 'jezyk'],
  category: [
    'category',
    'product type',
    'kategorie',
    'categorie',
    'categoria',
    'kategori',
    'kategoria',
    'warengruppe',
  ],
};

/** A row that was not taken, by its line in the file. */
export interface RefusedKeyword {
  readonly line: number;
  readonly why: 'noTerm' | 'longTerm' | 'noVolume' | 'noLanguage';
  readonly found: string;
}

export interface ReadKeywords {
  readonly keywords: readonly (Keyword & { readonly language: string })[];
  readonly refused: readonly RefusedKeyword[];
  /** Rows that say a term of another row again; the greater volume counts. */
  readonly twice: number;
}

/** No list holds more, and no term is longer. */
const MAX_KEYWORDS = 20_000;
export const MAX_TERM = 120;

/**
 * A number of searches as lists write it: 1,200 · 1.200 · 1 200 · 1.2K · 100 – 1K, of which the lower end counts.
 * @returns undefined where it is none
 */
export function readVolume(text: string): number | undefined {
  const found = /^[<>~≈]?\s*(\d[\d.,'’\s\u00a0\u202f]*)\s*([km])?(?![\p{L}\d])/iu.exec(text.trim());
  if (!found) return undefined;
  const digits = (found[1] as string).trim();
  const times = { k: 1000, m: 1_000_000 }[(found[2] ?? '').toLowerCase()];
  // A point or comma parts thousands, unless one or two digits stand behind the last, or the number is of thousands itself.
  const decimal = (times === undefined ? /^(\d+)[.,](\d{1,2})$/ : /^(\d+)[.,](\d+)$/).exec(digits);
  const value = decimal ? Number(`${decimal[1]}.${decimal[2]}`) : Number(digits.replace(/\D/g, ''));
  return Math.round(value * (times ?? 1));
}

/** "de-AT", "German" and "Deutsch" are all "de"; undefined where it names no language. */
function languageIn(text: string, names: ReadonlyMap<string, string>): string | undefined {
  const tag = /^([a-z]{2})(?:[-_][a-z0-9]{2,4})?$/i.exec(text.trim());
  return tag ? (tag[1] as string).toLowerCase() : names.get(fold(text));
}

/** The languages of Europe by their names in English and in themselves. */
function languageNames(): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  for (const code of [
    'cs',
    'da',
    'de',
    'en',
    'es',
    'fi',
    'fr',
    'hu',
    'it',
    'nl',
    'no',
    'pl',
    'pt',
    'ro',
    'sk',
    'sv',
  ])
    for (const shown of ['en', code]) {
      const name = new Intl.DisplayNames([shown], { type: 'language' }).of(code);
      if (name) names.set(fold(name), code);
    }
  return names;
}

/**
 * Reads a list of keywords from delimited text with a heading: a column of terms and one of volumes, and perhaps of languages and
 * categories. Without a heading the first column holds terms and the second volumes.
 * @param language what rows are in that name none
 * @throws InputError where no column of terms or of volumes is found, or the list is too long
 */
export function readKeywords(text: string, language: string): ReadKeywords {
  const filled = tableRows(text);
  const first = filled[0];
  if (!first) throw new InputError('keywordsEmpty');
  const at = (kind: keyof typeof headings) =>
    first.cells.findIndex((cell) => headings[kind].includes(fold(cell)));
  let columns = {
    term: at('term'),
    volume: at('volume'),
    language: at('language'),
    category: at('category'),
  };
  let body = filled.slice(1);
  if (columns.term < 0 || columns.volume < 0) {
    // Without a heading the second column is a number already.
    const bare = columns.term < 0 && columns.volume < 0 && readVolume(first.cells[1] ?? '') !== undefined;
    if (!bare)
      throw new InputError('keywordsWithoutColumn', {
        column: columns.term < 0 ? 'term' : 'volume',
        found: first.cells.join(', ').slice(0, 200),
      });
    columns = { term: 0, volume: 1, language: -1, category: -1 };
    body = filled;
  }
  if (body.length > MAX_KEYWORDS)
    throw new InputError('keywordsTooMany', { count: body.length, most: MAX_KEYWORDS });
  const names = columns.language < 0 ? new Map<string, string>() : languageNames();
  const refused: RefusedKeyword[] = [];
  const keywords = new Map<string, Keyword & { language: string }>();
  let twice = 0;
  for (const { cells, line } of body) {
    const cell = (column: number) => (column < 0 ? '' : (cells[column] ?? '').trim());
    const term = cell(columns.term).replace(/\s+/g, ' ').normalize('NFC').toLowerCase();
    const refuse = (why: RefusedKeyword['why'], found: string) =>
      refused.push({ line, why, found: found.slice(0, 80) });
    if (fold(term) === '') {
      refuse('noTerm', cell(columns.term));
      continue;
    }
    if (term.length > MAX_TERM) {
      refuse('longTerm', term);
      continue;
    }
    const volume = readVolume(cell(columns.volume));
    if (volume === undefined) {
      refuse('noVolume', cell(columns.volume));
      continue;
    }
    const own = cell(columns.language) === '' ? language : languageIn(cell(columns.language), names);
    if (own === undefined) {
      refuse('noLanguage', cell(columns.language));
      continue;
    }
    const category = cell(columns.category);
    const key = [own, category, fold(term)].join('\0');
    const known = keywords.get(key);
    if (known) twice++;
    if (!known || known.volume < volume) keywords.set(key, { term, volume, language: own, category });
  }
  return { keywords: [...keywords.values()], refused, twice };
}
