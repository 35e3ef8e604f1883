import { titleCase } from 'title-case';

export type LetterCase = 'upper' | 'lower' | 'sentence' | 'title';

/** Articles, conjunctions and prepositions that stay small inside a title. Common practice, no source. */
const minorWords: Record<string, readonly string[]> = {
  en: 'a an and as at but by for from in nor of on or the to with per via'.split(' '),
  de: 'der die das den dem des ein eine einen einem einer und oder aber für mit ohne von vom zu zum zur im in am an auf aus bei nach'.split(
    ' ',
  ),
  es: 'a al ante con de del desde e el en la las los o para por sin u un una y'.split(' '),
  fr: 'à au aux avec ce ces d de des du en et l la le les ou par pour sans sous sur un une'.split(' '),
};

/**
 * Changes letter case by the rules of a language.
 * German nouns keep the capitals they have: title case there raises only the first letter of each word that is not minor.
 * @param language BCP 47, its first subtag counts
 */
export function changeCase(text: string, to: LetterCase, language: string): string {
  const locale = language.split('-')[0] ?? 'en';
  switch (to) {
    case 'upper':
      return text.toLocaleUpperCase(locale);
    case 'lower':
      return text.toLocaleLowerCase(locale);
    case 'sentence': {
      const first = text.search(/\p{L}/u);
      if (first < 0) return text;
      const sign = String.fromCodePoint(text.codePointAt(first) ?? 0);
      return text.slice(0, first) + sign.toLocaleUpperCase(locale) + text.slice(first + sign.length);
    }
    case 'title':
      return titleCase(text, { locale, smallWords: new Set(minorWords[locale] ?? minorWords.en) });
  }
}
