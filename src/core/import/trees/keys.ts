import { listSeparator } from '../../catalog/value';
import { spokenName } from '../../text/similarity';
import { headingMeaning } from '../headings/headingLexicon';
import { MAX_NAME } from '../tables/nameValueColumns';
import type { Branch, Tree } from './tree';

export const join = (path: string, name: string): string => (path === '' ? name : `${path}/${name}`);

/** Whether a name says that its value tells one thing from another: "sku", "@code", "productGroupID". */
export const identifies = (name: string): boolean =>
  !ofKinds.test(name) &&
  (/(^|[@/_-])(sku|code|id|ean|gtin\d*|mpn|number|nr|artnr|article)$/i.test(name) ||
    /[a-z](ID|Id|Code|Number|Sku)$/.test(name) ||
    codeWords.test(name));
/** Codes as further languages call them, at the end of a name. */
const codeWords =
  /(^|[@/_-]|\p{Ll}(?=\p{Lu}))(?:art(?:ikel)?|vare|tuote|stok|produkt)?(kode?|k[oó]du|koodi|c[oó]d(?:igo|ice)?|κωδικ[oό]ς|cikksz[aá]m|varenummer|varunummer|artikelnummer|tuotenumero|r[eé]f[eé]ren(?:ce|cia|z)|referencia|indeks)$/iu;
/** Codes that many things share: of languages, countries, currencies and units. */
const ofKinds = /(lang(uage)?|locale|currency|country|region|market|unit|uom|tax)[_-]?(code|id|number)$/i;

/** Whether a name is one that a thing is sold by. */
export const sells = (name: string): boolean =>
  /(^|[@/_-])(sku|ean|gtin\d*|barcode|upc|artnr|article(number)?|artikel(nummer|nr)?)$/i.test(name) ||
  /[a-z]Sku$/.test(name);

/** So many keys of a thing are looked at for what it is called by. */
const MAX_KEYS = 50;
/** What things are called by: their names and titles. */
export const calledBy = (node: Branch): [string, string] | undefined =>
  entryOf(node, naming) ??
  entryOf(node, titling) ??
  (Object.entries(node)
    .slice(0, MAX_KEYS)
    .find(([key, inner]) => textOf(inner) !== undefined && isAbout(key, 'name')) as
    | [string, string]
    | undefined);
/** What keys are about, see `headingMeaning`: a file has few of them, and says each with every record. */
const meanings = new Map<string, readonly string[]>();
const MAX_MEANINGS = 5000;
/** Whether the words of a key are about something. */
export function isAbout(key: string, what: string): boolean {
  let about = meanings.get(key);
  if (about === undefined) {
    about = headingMeaning(spokenName(key.replace(/^@/, '').slice(0, MAX_NAME)))?.about.split(' ') ?? [];
    if (meanings.size >= MAX_MEANINGS) meanings.clear();
    meanings.set(key, about);
  }
  return about.includes(what);
}
export const titling = /^@?(title|titel|titre|t[ií]tulo|titolo|tytu[lł]|heading|text)$/i;
/** Keys that name what another key of the same branch holds, and keys that hold it, in the words of several languages. */
export const naming =
  /^@?(name|key|label|attribute|attributename|property|propertyname|propertyid|bezeichnung|merkmal|nom|nombre|nome|naam|nazwa|namn|n|k|dt|term|navn|egenskab|egenskap|nimi|ominaisuus|n[aá]zev|vlastnost|n[eé]v|jellemz[oő]|denumire|nume|όνομα|ονομα|ad[ıi]?|isim|[oö]zellik)$/iu;
export const holding =
  /^(@|#)?(value|text|val|content|wert|valeur|valor|valore|waarde|warto[sś][cć]|v[aä]rde|v|dd|v[aæä]rdi|verdi|arvo|hodnota|[eé]rt[eé]k|valoare|τιμ[ηή]|de[gğ]er|amount|betrag|montant|importe|importo|bedrag|kwota|belopp|bel[oø]p|summa|m[aä][aä]r[aä]|[cč][aá]stka|[oö]sszeg|sum[aă]|ποσ[oό]|tutar)$/iu;
export const unitKey =
  /^@?(unit|units|unitcode|unittext|uom|einheit|unit[eé]|unidad|unit[aà]|eenheid|jednostka|unidade|enhet|enhed|yksikk[oö]|jednotka|egys[eé]g|unitate|μον[αά]δα|birim)$/iu;
export const currencyKey =
  /^@?(currency|currencycode|pricecurrency|w[aä]e?hrung|devise|moneda|divisa|valuta|valutta|waluta|moeda|valuutta|m[eě]na|p[eé]nznem|moned[aă]|ν[oό]μισμα|parabirimi)$/iu;
export const typeKey = /^@(type|context|id)$/i;
export const languageKey =
  /^@?(xml:lang|lang|language|languagecode|language_code|locale|sprache|langue|idioma|lingua|taal|j[eę]zyk|spr[aå]k)$/i;

/** Where a thing stands among others like it: nothing of what it is. */
export const orderKey =
  /^@?(?:[a-z]+[_-]|sort|display|list)?(?:order|position|pos|sort|sequence|rank|index)$/i;

export const textOf = (tree: Tree | undefined): string | undefined =>
  typeof tree === 'string' ? tree : undefined;
export const entryOf = (node: Branch, keys: RegExp): [string, string] | undefined => {
  for (const [name, inner] of Object.entries(node))
    if (keys.test(name) && textOf(inner) !== undefined) return [name, inner as string];
  return undefined;
};
/** The same where it may be several texts, as one. */
export const entriesOf = (node: Branch, keys: RegExp): [string, string] | undefined => {
  for (const [name, inner] of Object.entries(node)) {
    const texts = (Array.isArray(inner) ? inner : [inner]).map(textOf);
    if (keys.test(name) && texts.every((text) => text !== undefined))
      return [name, texts.join(listSeparator)];
  }
  return undefined;
};
