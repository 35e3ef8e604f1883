import { titleCase } from 'title-case';

export type LetterCase = 'upper' | 'lower' | 'sentence' | 'title';

const words = (list: string): ReadonlySet<string> => new Set(list.split(' '));

/**
 * Articles, conjunctions and prepositions that stay small inside a title. English by the Chicago Manual of Style, 8.159
 * (articles, short prepositions, and, but, for, or, nor). The other eight: common practice of shops; their academies write titles
 * like sentences, which `sentence` does.
 */
const minorWords: Readonly<Record<string, ReadonlySet<string>>> = {
  en: words('a an and as at but by for from in nor of on or the to via with per'),
  de: words(
    'der die das den dem des ein eine einen einem einer eines und oder aber für mit ohne von vom zu zum zur im in am an auf aus bei nach als bis je pro aufs ins',
  ),
  fr: words('à au aux avec ce ces chez dans d de des du en et l la le les ou par pour sans sous sur un une'),
  es: words('a al ante con de del desde e el en entre la las lo los o para por sin sobre u un una y'),
  it: words(
    'a ad ai al alla alle allo con da dai dal dalla di dei del della delle dello e ed gli i il in la le lo nei nel nella o per su sul sulla tra fra un una uno senza',
  ),
  nl: words('aan als bij de een en het in met of om op per te ten ter tot uit van voor zonder naar over'),
  pl: words('a albo bez dla do i ku lub na nad o od oraz po pod przy u w we z za ze'),
  pt: words(
    'a ao aos as com da das de do dos e em entre na nas no nos o os ou para por sem sob sobre um uma',
  ),
  sv: words('av att den det de en ett för från i med och på som till ur utan vid eller mot om'),
};

/** Letters before an apostrophe that belong to the next word: d'argile, l'intérieur, dell'erba. */
const elided = /(?<![\p{L}\p{N}])(dell|all|nell|sull|dall|qu|un|[cdjlmnst])(['’])(\p{L})/giu;
/** Units behind a number keep the signs they have: 14 cm, 5 W. */
const measured = /(?<=\d[\s\u00a0\u202f]?)\p{L}{1,3}(?![\p{L}\p{N}])/gu;

const raised = (sign: string, locale: string): string => sign.toLocaleUpperCase(locale);

/** The first letter of a text in capitals; in Dutch both of an "ij" at its beginning (Taalunie). */
function withFirst(text: string, locale: string): string {
  // What begins with a number has begun: 10 cm stays as it is.
  const first = text.search(/[\p{L}\p{N}]/u);
  if (first < 0 || /\p{N}/u.test(text[first] ?? '')) return text;
  const sign = String.fromCodePoint(text.codePointAt(first) ?? 0);
  const length = locale === 'nl' && /^ij/i.test(text.slice(first)) ? 2 : sign.length;
  return (
    text.slice(0, first) + raised(text.slice(first, first + length), locale) + text.slice(first + length)
  );
}

/**
 * Changes letter case by the rules of a language. Words that have capitals inside keep them (LED, iPad), and so do units behind a
 * number. German nouns keep the capitals they have: title case there raises only the first letter of each word that is not minor.
 * @param language BCP 47, its first subtag counts
 */
export function changeCase(text: string, to: LetterCase, language: string): string {
  const locale = language.split('-')[0] ?? 'en';
  switch (to) {
    case 'upper':
      return text.toLocaleUpperCase(locale);
    case 'lower':
      return text.toLocaleLowerCase(locale);
    case 'sentence':
      return withFirst(text, locale);
    case 'title':
      return inTitleCase(text, locale);
  }
}

function inTitleCase(text: string, locale: string): string {
  const smallWords = new Set(minorWords[locale] ?? minorWords.en);
  let title = titleCase(text, { locale, smallWords });
  if (locale === 'fr' || locale === 'it')
    title = title.replace(
      elided,
      (_whole, article: string, mark: string, letter: string, at: number) =>
        `${at === 0 ? article : article.toLocaleLowerCase(locale)}${mark}${raised(letter, locale)}`,
    );
  if (locale === 'nl') title = title.replace(/(?<![\p{L}\p{N}])Ij/gu, 'IJ');
  // As long as nothing grew, what stood at a place still stands there.
  if (title.length !== text.length) return title;
  for (const { index, 0: unit } of text.matchAll(measured))
    title = title.slice(0, index) + unit + title.slice(index + unit.length);
  return title;
}
