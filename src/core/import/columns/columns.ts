import { kindFacts } from '../../catalog/attributeKinds';
import type { Attribute } from '../../catalog/attributes';
import { aboutImport } from '../../catalog/item';
import { codeInLanguage, languageInCode } from '../../catalog/value';
import { fold } from '../../text/folding';
import { nameMatcher, spokenName } from '../../text/similarity';
import type { English } from '../../words/forms';
import { isAside, isPerUnit } from '../headings/asides';
import { headingMeaning } from '../headings/headingLexicon';
import { headingWords } from '../headings/headings';
import { lexiconMatcher } from '../headings/lexiconMatcher';
import { nearest, whoseName } from '../headings/namePaths';
import { valueWeight } from '../mapping/attributeKinds';
import { bestAssignment } from './assignment';
import {
  type ColumnSuggestion,
  evidenceOf,
  languageMark,
  lastName,
  withoutLanguage,
  withoutTax,
} from './columnEvidence';
import { keyAtLeast, nameAtLeast, textAtLeast } from './fallbackColumns';
import { inOneCurrency, morePrices, priceOfSale, pricesInOrder } from './priceColumns';

/** What a heading was in another source that is set up. */
export interface EarlierColumn {
  /** Undefined where a person had it fill nothing. */
  readonly attribute: string | undefined;
  /** The source's name, as a reason says it. */
  readonly where: string;
}
export type EarlierColumns = (heading: string) => readonly EarlierColumn[];

/** What is remembered of a heading: the last name of a path, without what tells columns of one name apart. */
export const headingKey = (column: string): string => fold(lastName(column.replace(/ \(\d+\)$/, '')));

/** Headings that are compared by their spelling with every name of the lexicon; further ones are only looked up. */
const MAX_FUZZY = 200;

/** Whether a word is put together of others and ends in a name, which then says what it is: "Endverkaufspreis". */
const endsInWord = (heading: string, name: string): boolean => {
  const end = fold(name);
  return (
    !end.includes(' ') && heading.length > end.length + 2 && !heading.includes(' ') && heading.endsWith(end)
  );
};

/** Whether a heading is one word of a longer name: "Goods" are no dangerous goods. */
const isPartOf = (heading: string, name: string): boolean =>
  !/\S \S/.test(heading) && fold(name).split(' ').length > 1 && fold(name).split(' ').includes(fold(heading));

/** What a database calls its own rows by. */
const ownRows = /^(id|key|uid|uuid|pk|row ?id|nr|no)$/i;
/** Names that say only that there is a value: what it is of is said above them. */
const holdsAlone =
  /^(value|values|text|amount|betrag|montant|importe|importo|bedrag|kwota|belopp|content|data|wert|valeur|valor|valore|waarde|wartość|värde|beløp|verdi|værdi|summa|määrä|arvo|částka|hodnota|összeg|érték|sumă|valoare|ποσό|τιμή|tutar|değer|maara|castka|osszeg|suma|ποσο|τιμη|deger|vaerdi|ertek|val|de|en|fr|es|it|nl|pl|pt|sv)$/i;
const sharesWord = (one: string, other: string): boolean => {
  const words = new Set(fold(other).split(' '));
  return fold(one)
    .split(' ')
    .some((word) => words.has(word));
};

/** What a heading says of the tax in a price. */
const taxWords =
  /[\s(,/-]*\b(?:(?:incl?|excl?|inkl|exkl|ex|zzgl|bez|com|c|sem|s|con|sin|senza|iva|tva|toutes)\.?[\s/]*)?(?:vat|tax|taxes|mwst|ust|moms|btw|iva|tva|ttc|ht|ivato|iva inclusa)\b\.?\)?\s*$/i;

/** From this score on a column is matched without being asked. */
const certainFrom = 45;
/** From this score on a column is said to be perhaps another attribute's. */
const perhapsFrom = 20;
/** What it is worth that a heading was this attribute, or another one, in another source. */
const wasThis = 25;
const wasOther = 30;
/** Where it only ever filled nothing. */
const wasNothing = 60;

interface ReadColumns {
  /** What is matched without being asked. */
  readonly matched: readonly ColumnSuggestion[];
  /** By column what else it may be, the likeliest first; three at most. */
  readonly fits: ReadonlyMap<string, readonly ColumnSuggestion[]>;
}

/**
 * Matches columns to attributes by heading (names, synonyms, any language), by what the cells look like, and by what was
 * settled for the same heading in other sources.
 * Each attribute and each column is used once; the surest pairs are taken first.
 * Columns that say a language fill the attribute in that language, beside the one in the main language.
 * @param sample the first rows, by column
 * @param main the language that texts are in where nothing says another, BCP 47 primary subtag
 * @param english what a word is in English, for headings in words that nobody thought of
 * @param earlier what a heading was in other sources, by {@link headingKey}
 */
export function readColumns(
  columns: readonly string[],
  sample: readonly Readonly<Record<string, string>>[],
  attributes: readonly Attribute[],
  main = 'en',
  english: English = () => [],
  earlier: EarlierColumns = () => [],
): ReadColumns {
  // Attributes about the import are read from our own exports only: a supplier's "source" is something else.
  const plain = attributes.filter(
    ({ code, label }) =>
      languageInCode(code) === undefined && (!aboutImport.has(code) || columns.includes(label)),
  );
  // Of columns that differ only by their language one is looked at first: the main language's, or one without a mark.
  const bases = new Map<string, string>();
  const first = (column: string): number => {
    const language = languageOf(column);
    return language === main ? 2 : language === undefined ? 1 : 0;
  };
  for (const column of columns) {
    const base = fold(withoutLanguage(column));
    const known = bases.get(base);
    if (known === undefined || first(column) > first(known)) bases.set(base, column);
  }
  const leading = columns.filter(
    (column) => !languageOf(column) || bases.get(fold(withoutLanguage(column))) === column,
  );
  const { matched, fits } = matchColumns(leading, sample, plain, english, earlier);
  const priced = inOneCurrency(
    morePrices(pricesInOrder(priceOfSale(matched), sample), leading, sample, plain, english),
  );
  const found = keyAtLeast(textAtLeast(nameAtLeast(priced, sample), leading, sample, fits));
  const taken = new Set(found.map(({ column }) => column));
  const marked = new Map<string, string[]>();
  for (const column of columns) {
    const language = languageOf(column);
    if (language && !taken.has(column)) marked.set(language, [...(marked.get(language) ?? []), column]);
  }
  const result = [...found];
  for (const [language, theirs] of marked) {
    const written = plain.filter(
      ({ code, kind }) => kindFacts[kind].written && found.some(({ attribute }) => attribute === code),
    );
    const bare = theirs.map((column) => withoutLanguage(column));
    const cells = sample.map((record) =>
      Object.fromEntries(theirs.map((column, at) => [bare[at] ?? '', record[column] ?? ''])),
    );
    for (const one of matchColumns(bare, cells, written, english).matched) {
      const column = theirs[bare.indexOf(one.column)] ?? one.column;
      const at = result.findIndex(({ attribute }) => attribute === one.attribute);
      const before = result[at];
      const other = before && languageOf(before.column);
      const reasons = [...one.reasons, `“${column}” names the language`];
      if (language === main && before && other !== undefined && other !== main) {
        // The column in the main language fills the attribute itself.
        result[at] = { ...before, column, reasons };
        result.push({ ...before, attribute: codeInLanguage(one.attribute, other) });
      } else if (before && other !== language)
        result.push({ ...one, column, attribute: codeInLanguage(one.attribute, language), reasons });
    }
  }
  // What a text was taken for in one language it is in the others: a name that is called a description.
  for (const [language, theirs] of marked)
    for (const column of theirs) {
      if (result.some((one) => one.column === column)) continue;
      const base = fold(withoutLanguage(column));
      const alike = found.find((one) => one.column !== column && fold(withoutLanguage(one.column)) === base);
      const kind = plain.find(({ code }) => code === alike?.attribute)?.kind;
      const attribute = codeInLanguage(alike?.attribute ?? '', language);
      if (!alike || kind === undefined || !kindFacts[kind].written) continue;
      if (result.some((one) => one.attribute === attribute)) continue;
      result.push({
        ...alike,
        column,
        attribute,
        reasons: [...alike.reasons, `“${column}” names the language`],
      });
    }
  return { matched: result.sort((a, b) => b.score - a.score), fits };
}

/** What {@link readColumns} matches without being asked, the surest first. */
export const suggestColumns = (...given: Parameters<typeof readColumns>): readonly ColumnSuggestion[] =>
  readColumns(...given).matched;

const languageOf = (column: string): string | undefined => languageMark.exec(column)?.[1]?.toLowerCase();

/** The best pairs of columns and attributes, without regard to languages and to what columns say of each other. */
function matchColumns(
  columns: readonly string[],
  sample: readonly Readonly<Record<string, string>>[],
  attributes: readonly Attribute[],
  english: English,
  earlier: EarlierColumns = () => [],
): ReadColumns {
  const pairs: ColumnSuggestion[] = [];
  const fits = new Map<string, ColumnSuggestion[]>();
  const names = attributes.map((attribute) => ({
    attribute,
    matchers: [attribute.label, spokenName(attribute.code), ...attribute.synonyms].map(
      (name) => [name, nameMatcher(name)] as const,
    ),
  }));
  const lexicon = attributes.map(({ code }) => lexiconMatcher(code));
  let fuzzy = MAX_FUZZY;
  // Many columns of one name are compared by their name once.
  const known = new Map<string, { likeness: number; name: string }[]>();
  const likenessOf = (column: string) => {
    const heading = nearest(column.replace(/ \(\d+\)$/, ''));
    const found = known.get(heading);
    if (found) return found;
    const spoken = [
      spokenName(heading),
      spokenName(headingWords(heading).name),
      spokenName(lastName(heading)),
      // With tax or without is looked at elsewhere; of what kind a price is says the rest.
      spokenName(headingWords(lastName(heading)).name)
        .slice(0, 200)
        .replace(taxWords, '')
        .trim(),
    ].map(fold);
    const exact = lexicon.map(({ names: all }) => spoken.find((one) => all.has(one.replace(/ /g, ''))));
    // What stands around a value says more of it, where it says something itself or only that it is one.
    const last = fold(spokenName(lastName(heading)));
    const placed = holdsAlone.test(last) || headingMeaning(last, english) !== undefined;
    const own = heading.includes('/') && !placed ? spoken.slice(2) : spoken;
    const meanings = [...new Set(own)]
      .flatMap((one) => headingMeaning(one, english) ?? [])
      .sort((one, other) => Number(other.whole) - Number(one.whole));
    const meant = lexicon.map(({ meant: all }) => meanings.find(({ about }) => all.has(about)));
    const understood = meanings.some(({ whole }) => whole);
    const near = [...exact, ...meant].every((one) => one === undefined) && fuzzy-- > 0;
    const created = names.map(({ matchers }, at) => {
      const own = exact[at];
      let best = { likeness: 0, name: '' };
      const complete = spokenName(heading);
      const bare = spokenName(headingWords(heading).name);
      const last = spokenName(lastName(heading));
      for (const [name, match] of matchers) {
        // In a tree ("variant/price") the last name says what the value is; the way there says a little less.
        // What a value is says its own name: the keywords of an article are no article number.
        const above = complete !== last && !holdsAlone.test(last) && !sharesWord(last, name);
        const likeness = Math.max(
          above ? 0 : match(complete),
          above || bare === complete ? 0 : 0.99 * match(bare),
          last === complete ? 0 : 0.97 * match(last),
        );
        if (likeness > best.likeness) best = { likeness, name };
      }
      if (own !== undefined && best.likeness < 1)
        best = { likeness: own === spoken[0] ? 1 : 0.98, name: own };
      const about = meant[at];
      // What else a heading says of a measure makes it another's: "Wick length" is not how long the thing is.
      const partly = attributes[at]?.kind === 'measure' ? 0 : 0.75;
      const says = about?.whole ? 0.93 : partly;
      if (about && best.likeness < says) best = { likeness: says, name: about.about };
      if (near)
        for (const [name, match] of lexicon[at]?.matchers ?? []) {
          const spelled = 0.95 * Math.max(...spoken.map((one) => match(one)));
          const likeness = Math.max(
            spelled,
            !understood && spoken.some((one) => endsInWord(one, name)) ? 0.85 : 0,
          );
          if (likeness > best.likeness) best = { likeness, name };
        }
      if (attributes[at]?.code === 'name') {
        const whose = whoseName(column);
        if (whose === 'another') best = { ...best, likeness: Math.min(best.likeness, 0.39) };
        else if (whose === 'unknown') best = { ...best, likeness: 0.9 * best.likeness };
      }
      // What a database calls its own rows is a code only where nothing says better.
      if (ownRows.test(last) && best.likeness > 0.9) best = { ...best, likeness: 0.9 };
      // The same for a measure's name that stands beside another word, and for words that are about another thing.
      const other =
        isPerUnit(complete) ||
        (!about?.whole &&
          (((partly === 0 || understood) && /\S \S/.test(bare)) ||
            isAside(complete) ||
            isPartOf(bare, best.name)));
      if (other && own === undefined && best.likeness < 0.95)
        best = { ...best, likeness: Math.min(best.likeness, 0.39) };
      return best;
    });
    // A heading that is one attribute's very name, or whose every word is understood, is another's by half of it at most:
    // "EAN code" is no item code.
    if (meant.some((one) => one?.whole) || created.some(({ likeness }) => likeness >= 0.98))
      for (const [at, one] of created.entries())
        if (one.likeness < 0.95) one.likeness *= meant[at]?.whole ? 1 : meant[at] ? 0.75 : 0.5;
    known.set(heading, created);
    return created;
  };
  for (const column of columns) {
    const evidence = evidenceOf(sample.map((record) => record[column] ?? ''));
    const likenesses = likenessOf(column);
    const before = earlier(headingKey(column));
    const emptied = before.find((one) => one.attribute === undefined);
    const onlyEmptied = emptied !== undefined && before.length === 1;
    const own: ColumnSuggestion[] = [];
    attributes.forEach((attribute, i) => {
      const { likeness, name } = likenesses[i] as { likeness: number; name: string };
      const reasons = likeness >= 0.4 ? [`“${column}” is similar to “${name}”`] : [];
      const { weight: byValues, reason } = valueWeight(attribute, evidence);
      // "New" again and again, under a heading that says nothing of a condition, may be what is done with the rows.
      const oneWord = likeness < 0.4 && new Set(evidence.sample).size === 1;
      const weight = attribute.code === 'itemCondition' && oneWord ? Math.min(byValues, 25) : byValues;
      if (reason) reasons.push(reason);
      // An amount without tax is not what the shopper pays.
      const taxed =
        attribute.code === 'price' || attribute.code === 'listPrice' || attribute.code === 'salePrice';
      const net = taxed && withoutTax.test(fold(column)) ? -45 : 0;
      // A barcode column heading over cells whose check digits fail stays a barcode column: the damage is found later.
      const named = likeness >= 0.97 && attribute.code === 'gtin' ? Math.max(weight, -20) : weight;
      const stated = likeness >= 0.4 ? likeness * 75 : 0;
      const was = before.find((one) => one.attribute === attribute.code);
      if (was) reasons.unshift(`“${column}” is ${attribute.label} in ${was.where}`);
      else if (emptied) reasons.push(`“${column}” was not imported in ${emptied.where}`);
      const wasAnother = onlyEmptied ? wasNothing : wasOther;
      const taught = before.length === 0 ? 0 : was ? Math.max(wasThis, 75 + wasThis - stated) : -wasAnother;
      const score = Math.min(100, Math.round(stated + named + net + taught));
      if (score >= perhapsFrom && reasons.length > 0)
        own.push({ column, attribute: attribute.code, score, reasons });
    });
    own.sort((a, b) => b.score - a.score);
    pairs.push(...own.filter(({ score }) => score >= certainFrom));
    fits.set(column, own.slice(0, 3));
  }
  const worth = new Map(pairs.map((pair) => [`${pair.attribute} ${pair.column}`, pair]));
  const chosen = bestAssignment(attributes.length, columns.length, (row, column) => {
    const pair = worth.get(`${attributes[row]?.code} ${columns[column]}`);
    // Of equals the column that stands first; a sure pair is worth more than two doubtful ones.
    return pair === undefined ? 0 : pair.score ** 2 - column / 1000;
  });
  const found = chosen.flatMap((column, row) => {
    const pair = column < 0 ? undefined : worth.get(`${attributes[row]?.code} ${columns[column]}`);
    return pair ? [pair] : [];
  });
  return { matched: found, fits };
}
