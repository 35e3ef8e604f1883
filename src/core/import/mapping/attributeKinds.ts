import type { AttributeKind } from '../../catalog/attributeKinds';
import type { Attribute } from '../../catalog/attributes';
import { termFinder } from '../../catalog/terms';
import type { Step } from '../../compose/steps';
import { readYesNo } from '../../locale/yesNo';
import { readAmount } from '../../measures/money';
import { readNumber } from '../../measures/numbers';
import type { Evidence } from '../columns/columnEvidence';
import { headingWords } from '../headings/headings';

/** How much the cells of a column speak for (above 0) or against (below 0) an attribute, and why. */
interface Weight {
  readonly weight: number;
  readonly reason?: string;
}

interface ImportKind {
  /** Whether its cells are numbers, with decimal signs that the columns of a file share. */
  readonly numeric: boolean;
  /** The steps that bring a cell into the form in which the kind is stored. */
  steps(heading: string, cells: readonly string[]): Step[];
  /** What the cells say; undefined where only the attribute itself decides. */
  weight(evidence: Evidence, attribute: Attribute): Weight | undefined;
  /** Why a value cannot be imported; undefined where it can. */
  refusal?(found: string): 'number' | 'negative' | 'yesNo' | undefined;
}

const entity =
  /&(amp|quot|apos|lt|gt|nbsp|#\d{2,5}|#x[0-9a-f]{2,4}|[a-z]{1,2}(uml|acute|grave|circ|tilde|cedil|ring)|szlig|euro);/i;

/** Whether a column's dates name the month first: a second number above 12 says so where no first one is. */
function monthComesFirst(cells: readonly string[]): boolean {
  const parts = cells.flatMap((cell) => {
    const [, first, second] = /^\s*(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}\s*$/.exec(cell) ?? [];
    return first ? [[Number(first), Number(second)] as const] : [];
  });
  return parts.some(([, second]) => second > 12) && !parts.some(([first]) => first > 12);
}

const plain: ImportKind = {
  numeric: false,
  steps: () => [{ step: 'trim' }],
  weight: () => undefined,
};

/** Each kind of attribute as an import reads it: the second half of `core/catalog/attributeKinds.ts`. */
export const importKinds: Readonly<Record<AttributeKind, ImportKind>> = {
  text: {
    ...plain,
    // Plain text that was taken out of a page still has its characters written as entities: "wheel &amp; axle".
    steps: (_heading, cells) =>
      cells.some((cell) => entity.test(cell))
        ? [{ step: 'stripMarkup' }, { step: 'trim' }]
        : [{ step: 'trim' }],
  },
  richText: {
    ...plain,
    steps: () => [],
    weight: ({ markup, long }) =>
      markup > 0.3 || long > 0.5 ? { weight: 30, reason: 'the cells are long texts' } : { weight: 0 },
  },
  number: {
    numeric: true,
    steps: () => [{ step: 'number' }],
    weight: ({ stock, number }, { code }) => ({
      weight: (code === 'inventoryLevel' ? stock : number) < 0.6 ? -40 : 5,
    }),
    refusal: (found) => (readNumber(found) === undefined ? 'number' : undefined),
  },
  measure: {
    ...plain,
    numeric: true,
    steps: (heading) => {
      const { unit } = headingWords(heading);
      return [{ step: 'measure', ...(unit ? { unit } : {}) }];
    },
  },
  money: {
    numeric: true,
    steps: (heading) => [{ step: 'number', currency: headingWords(heading).currency ?? 'keep' }],
    weight: ({ number }) => ({ weight: number < 0.6 ? -50 : 5 }),
    refusal: (found) => {
      const amount = readAmount(found)?.amount;
      return amount === undefined ? 'number' : amount.startsWith('-') ? 'negative' : undefined;
    },
  },
  yesNo: {
    ...plain,
    steps: () => [{ step: 'yesNo' }],
    weight: ({ yesNo }) => ({ weight: yesNo < 0.6 ? -50 : 5 }),
    refusal: (found) => (readYesNo(found) === undefined ? 'yesNo' : undefined),
  },
  choice: { ...plain, weight: choiceWeight },
  date: {
    ...plain,
    steps: (_heading, cells) => [
      { step: 'date', to: 'iso', ...(monthComesFirst(cells) ? { monthFirst: 'yes' as const } : {}) },
    ],
    weight: ({ date }) => ({ weight: date > 0.6 ? 15 : date > 0.2 ? -10 : -45 }),
  },
  link: {
    ...plain,
    weight: ({ link, picture }) =>
      link > 0.6 && picture < 0.3 ? { weight: 50, reason: 'the cells are page addresses' } : { weight: -40 },
  },
  pictures: {
    ...plain,
    weight: ({ picture }) =>
      picture > 0.5 ? { weight: 45, reason: 'the cells are addresses of pictures' } : { weight: -20 },
  },
  identifier: plain,
};

const finders = new WeakMap<object, (word: string) => string | undefined>();

/** Made once for the terms of an attribute, however many columns there are. */
function finderOf(terms: NonNullable<Attribute['terms']>): (word: string) => string | undefined {
  const find = finders.get(terms) ?? termFinder(terms);
  finders.set(terms, find);
  return find;
}

/** Words of the attribute's own terms say what a column holds, whatever it is called. */
function choiceWeight({ sample, yesNo }: Evidence, { code, terms = [] }: Attribute): Weight | undefined {
  if (terms.length === 0) return undefined;
  const find = finderOf(terms);
  const known = sample.filter((cell) => find(cell) !== undefined).length / sample.length;
  // "Discontinued: yes" is no stock state: what is only said with yes and no needs its heading to say what of.
  if (yesNo > 0.6) return { weight: 0 };
  const ofStandard = code === 'availability' || code === 'itemCondition';
  if (ofStandard && known > 0.6) return { weight: 60, reason: 'the cells match its values' };
  if (ofStandard && known === 0) return { weight: -35 };
  return known > 0.6 ? { weight: 15, reason: 'the cells match its values' } : undefined;
}

/** What programs call the records of what is sold, in the nine languages. */
const recordKinds =
  /^(products?|items?|articles?|goods|variants?|variations?|simple|configurable|parent|child|standalone|artikel|produkte?|produits?|productos?|prodott[oi]|producten|produkty|produtos?)$/i;

/** What values say for (above 0) or against (below 0) an attribute. */
export function valueWeight(attribute: Attribute, evidence: Evidence): Weight {
  if (evidence.filled === 0) return { weight: 0 };
  // A unit by itself is of the number in another column.
  if (evidence.units > 0.9) return { weight: -90 };
  const weighed = importKinds[attribute.kind].weight(evidence, attribute);
  if (weighed) return weighed;
  switch (attribute.code) {
    case 'gtin':
      // Days written in digits pass the check digit now and then, and all of a column's are often one day.
      if (evidence.date > 0.5) return { weight: -50 };
      return evidence.gtin > 0.7
        ? {
            weight: 85,
            reason: `the check digit is right in ${Math.round(evidence.gtin * 100)} % of the cells`,
          }
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
