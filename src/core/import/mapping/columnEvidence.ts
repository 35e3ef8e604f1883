import type { Attribute } from '../../catalog/attributes';
import { termFinder } from '../../catalog/terms';
import { listSeparator } from '../../catalog/value';
import { readIdentifier } from '../../identifiers/gtin';
import { readYesNo } from '../../locale/yesNo';
import { minorUnits } from '../../measures/currencies';
import { readDate } from '../../measures/dates';
import { readNumber } from '../../measures/numbers';
import { stockDamage } from './damage';

export interface ColumnSuggestion {
  readonly column: string;
  readonly attribute: string;
  readonly score: number;
  readonly reasons: readonly string[];
}

/** What the cells of a column look like, each as the share of filled cells. */
export interface Evidence {
  readonly filled: number;
  readonly distinct: number;
  readonly gtin: number;
  readonly number: number;
  /** Numbers, and words for one as stocks are written: "sold out", "> 10". */
  readonly stock: number;
  readonly currency: number;
  readonly link: number;
  readonly picture: number;
  readonly markup: number;
  readonly long: number;
  readonly date: number;
  /** Names with others above them: "Garden > Indoor > Pots". */
  readonly path: number;
  readonly yesNo: number;
  /** Three sides in one cell. */
  readonly sides: number;
  /** Ways in which books are bound. */
  readonly bound: number;
  /** Several values in one cell. */
  readonly several: number;
  /** Words with blanks between them. */
  readonly words: number;
  /** The first cells that are filled. */
  readonly sample: readonly string[];
}

export function evidenceOf(cells: readonly string[]): Evidence {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const share = (test: (cell: string) => boolean) =>
    filled.length === 0 ? 0 : filled.filter(test).length / filled.length;
  return {
    filled: filled.length,
    distinct: filled.length === 0 ? 0 : new Set(filled).size / filled.length,
    gtin: share((cell) => ['valid', 'restricted'].includes(readIdentifier(cell).verdict)),
    number: share((cell) => readNumber(cell) !== undefined),
    stock: share((cell) => readNumber(cell) !== undefined || stockDamage(cell)?.to !== undefined),
    yesNo: share((cell) => readYesNo(cell) !== undefined),
    currency: share((cell) => /^[A-Z]{3}$/.test(cell) && minorUnits(cell) !== undefined),
    link: share((cell) => /^https?:\/\//.test(cell)),
    picture: share((cell) => /\.(jpe?g|png|webp|gif|tiff?)(\?|$|[|,; ])/i.test(cell)),
    markup: share((cell) => /<[a-z]+[\s>/]/i.test(cell)),
    long: share((cell) => cell.length > 120),
    date: share((cell) => readDate(cell) !== undefined),
    path: share(
      (cell) => cell.length <= 500 && /\p{L}\S*\s*[>»›→]\s*\p{L}/u.test(cell) && !/<[a-z/]/i.test(cell),
    ),
    sides: share(
      (cell) => cell.length <= 60 && /\d[^\dxX×*]*[xX×*]\s*[\d.,]+[^\dxX×*]*[xX×*]\s*\d/.test(cell),
    ),
    bound: share((cell) => cell.length <= 60 && bindings.test(cell)),
    several: share((cell) => cell.includes(listSeparator)),
    words: share((cell) => /\p{L}{2} \p{L}{2}|\p{L}{3} \d/u.test(cell.slice(0, 200))),
    sample: filled.slice(0, 50),
  };
}

/** A language behind a column's name: "title@de", "name_en", "Name (fr)". */
export const languageMark = /(?:@|[\s_.-]+|\s*\()(de|en|fr|es|it|nl|pl|pt|sv)(?:-[a-z]{2})?\)?$/i;

export const withoutLanguage = (name: string): string => name.replace(languageMark, '');

export const lastName = (column: string): string =>
  withoutLanguage((column.split('/').at(-1) ?? column).replace(/^[@#]/, ''));

const finders = new WeakMap<object, (word: string) => string | undefined>();

/** Made once for the terms of an attribute, however many columns there are. */
function finderOf(terms: NonNullable<Attribute['terms']>): (word: string) => string | undefined {
  const find = finders.get(terms) ?? termFinder(terms);
  finders.set(terms, find);
  return find;
}

/** How books are bound, in the nine languages. */
const bindings =
  /^(paperback|hardback|hard ?cover|soft ?cover|board book|e-?book|audio ?book|gebunden(e ausgabe)?|taschenbuch|broschiert|broschur|pappband|reli[ée]|broch[ée]|poche|tapa (dura|blanda)|r[uú]stica|copertina (rigida|flessibile)|brossura|gebonden|paperback|oprawa \p{L}+|capa (dura|mole)|inbunden|h[aä]ftad|pocket)$/iu;

/** What programs call the records of what is sold, in the nine languages. */
const recordKinds =
  /^(products?|items?|articles?|goods|variants?|variations?|simple|configurable|parent|child|standalone|artikel|produkte?|produits?|productos?|prodott[oi]|producten|produkty|produtos?)$/i;

/** What values say for (above 0) or against (below 0) an attribute. */
export function valueWeight(attribute: Attribute, evidence: Evidence): { weight: number; reason?: string } {
  if (evidence.filled === 0) return { weight: 0 };
  switch (attribute.kind) {
    case 'money':
      return { weight: evidence.number < 0.6 ? -50 : 5 };
    case 'number':
      return {
        weight: (attribute.code === 'inventoryLevel' ? evidence.stock : evidence.number) < 0.6 ? -40 : 5,
      };
    case 'yesNo':
      return { weight: evidence.yesNo < 0.6 ? -50 : 5 };
    case 'date':
      return { weight: evidence.date > 0.6 ? 15 : evidence.date > 0.2 ? -10 : -45 };
    case 'pictures':
      return evidence.picture > 0.5
        ? { weight: 45, reason: 'the cells are addresses of pictures' }
        : { weight: -20 };
    case 'link':
      return evidence.link > 0.6 && evidence.picture < 0.3
        ? { weight: 50, reason: 'the cells are page addresses' }
        : { weight: -40 };
    case 'richText':
      return evidence.markup > 0.3 || evidence.long > 0.5
        ? { weight: 30, reason: 'the cells are long texts' }
        : { weight: 0 };
    default:
      break;
  }
  // Words of the attribute's own terms say what a column holds, whatever it is called.
  if (attribute.kind === 'choice' && attribute.terms && attribute.terms.length > 0) {
    const find = finderOf(attribute.terms);
    const known = evidence.sample.filter((cell) => find(cell) !== undefined).length / evidence.sample.length;
    // "Discontinued: yes" is no stock state: what is only said with yes and no needs its heading to say what of.
    if (evidence.yesNo > 0.6) return { weight: 0 };
    const ofStandard = attribute.code === 'availability' || attribute.code === 'itemCondition';
    if (ofStandard && known > 0.6) return { weight: 60, reason: 'the cells are its words' };
    if (ofStandard && known === 0) return { weight: -35 };
    if (known > 0.6) return { weight: 15, reason: 'the cells are its words' };
  }
  switch (attribute.code) {
    case 'gtin':
      // Days written in digits pass the check digit now and then, and all of a column's are often one day.
      if (evidence.date > 0.5) return { weight: -50 };
      return evidence.gtin > 0.7
        ? { weight: 85, reason: `the check digit holds in ${Math.round(evidence.gtin * 100)} % of the cells` }
        : { weight: evidence.gtin > 0.3 ? 10 : -40 };
    case 'sku':
      // Several numbers are those of several things, and what is said in words is a name.
      if (evidence.several > 0.2) return { weight: -60 };
      if (evidence.words > 0.5) return { weight: -25 };
      if (evidence.distinct === 1) return { weight: 10, reason: 'every cell is different' };
      // A few rows may repeat a code or lack one; those are rejected one by one later.
      return { weight: evidence.distinct > 0.9 ? -5 : evidence.distinct > 0.6 ? -20 : -30 };
    case 'mpn':
      // A part number names one item; a code that many rows share is a product's or a group's.
      return { weight: evidence.distinct < 0.7 ? -40 : 0 };
    case 'ageRange':
      return { weight: evidence.date > 0.5 ? -60 : 0 };
    case 'bookFormat':
      return { weight: evidence.bound > 0.5 ? 15 : evidence.number > 0.5 ? -40 : 0 };
    case 'size':
      // Three sides are no size that one asks for, and a way of binding is another thing.
      return { weight: evidence.sides > 0.5 ? -60 : evidence.bound > 0.5 ? -40 : 0 };
    case 'category':
      // What programs call all that is sold is no kind of it.
      if (evidence.sample.every((cell) => recordKinds.test(cell))) return { weight: -60 };
      return evidence.path > 0.7
        ? { weight: 55, reason: 'the cells are paths of categories' }
        : { weight: 0 };
    case 'priceCurrency':
      return evidence.currency > 0.8
        ? { weight: 60, reason: 'the cells are currency codes' }
        : { weight: -50 };
    default:
      return { weight: 0 };
  }
}

/** Words that say a price is without the tax the shopper pays. */
export const withoutTax =
  /\b(net|netto|ht|hors taxes?|excl|exkl|zzgl|ohne mwst|sin iva|senza iva|bez vat|sem iva|s iva|ex vat|excl vat|excl btw|exkl moms)\b/;
