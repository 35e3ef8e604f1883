import { listSeparator } from '../../catalog/value';
import { readIdentifier } from '../../identifiers/gtin';
import { readYesNo } from '../../locale/yesNo';
import { minorUnits } from '../../measures/currencies';
import { readDate } from '../../measures/dates';
import { readNumber } from '../../measures/numbers';
import { unitOf } from '../../measures/units';
import { stockDamage } from '../mapping/damage';

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
  /** Units by themselves: the number stands in another column. */
  readonly units: number;
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
    units: share(isUnitAlone),
    sample: filled.slice(0, 50),
  };
}

/** Whether a cell is a unit by itself; a capital letter is a size. */
export const isUnitAlone = (cell: string): boolean =>
  cell.length <= 20 && !/\d/.test(cell) && !/^\p{Lu}$/u.test(cell.trim()) && unitOf(cell) !== undefined;

/** A language behind a column's name: "title@de", "name_en", "Name (fr)". */
export const languageMark = /(?:@|[\s_.-]+|\s*\()(de|en|fr|es|it|nl|pl|pt|sv)(?:-[a-z]{2})?\)?$/i;

export const withoutLanguage = (name: string): string => name.replace(languageMark, '');

export const lastName = (column: string): string =>
  withoutLanguage((column.split('/').at(-1) ?? column).replace(/^[@#]/, ''));

/** How books are bound, in the nine languages. */
const bindings =
  /^(paperback|hardback|hard ?cover|soft ?cover|board book|e-?book|audio ?book|gebunden(e ausgabe)?|taschenbuch|broschiert|broschur|pappband|reli[ée]|broch[ée]|poche|tapa (dura|blanda)|r[uú]stica|copertina (rigida|flessibile)|brossura|gebonden|paperback|oprawa \p{L}+|capa (dura|mole)|inbunden|h[aä]ftad|pocket)$/iu;

/** Words that say a price is without the tax the shopper pays. */
export const withoutTax =
  /\b(net|netto|ht|hors taxes?|excl|exkl|zzgl|ohne mwst|sin iva|senza iva|bez vat|sem iva|s iva|ex vat|excl vat|excl btw|exkl moms)\b/;
