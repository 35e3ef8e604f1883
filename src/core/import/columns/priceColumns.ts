import type { Attribute } from '../../catalog/attributes';
import { readNumber } from '../../measures/numbers';
import { fold } from '../../text/folding';
import { spokenName } from '../../text/similarity';
import type { English } from '../../words/forms';
import { headingMeaning } from '../headings/headingLexicon';
import { headingWords } from '../headings/headings';
import { type ColumnSuggestion, withoutTax } from './columnEvidence';

/** Kinds of price that are never above the next: what is paid is less than what is asked, and that no more than the list's. */
const priceOrder = ['cost', 'price', 'listPrice'];

/** The score of a price whose heading is one of its very names. */
export const certainName = 74;

/** Prices whose amounts say that their columns were taken for each other change places. */
export function pricesInOrder(
  found: readonly ColumnSuggestion[],
  sample: readonly Readonly<Record<string, string>>[],
): ColumnSuggestion[] {
  const result = [...found];
  for (let at = 0; at + 1 < priceOrder.length; at++) {
    const low = result.findIndex(({ attribute }) => attribute === priceOrder[at]);
    const high = result.findIndex(({ attribute }) => attribute === priceOrder[at + 1]);
    const [one, other] = [result[low], result[high]];
    // Headings that say it outright are believed, whatever somebody sells at.
    if (!one || !other || Math.min(one.score, other.score) >= certainName) continue;
    const both = sample.flatMap((record) => {
      const [less, more] = [readNumber(record[one.column] ?? ''), readNumber(record[other.column] ?? '')];
      return less === undefined || more === undefined ? [] : [Number(less) - Number(more)];
    });
    if (both.length < 3 || both.filter((difference) => difference > 0).length < 0.9 * both.length) continue;
    const reasons = ['its amounts are the lower ones, the other column’s the higher'];
    result[low] = { ...one, column: other.column, reasons };
    result[high] = { ...other, column: one.column, reasons };
  }
  return result;
}

/** A heading that says its price is only recommended, in the languages read. */
const isRecommended = (column: string): boolean =>
  /advies|recommend|empf|\buvp|conseill|recomend|consigl|sug+er|\brrp|msrp|vejl|veil|ohje|suositus|doporu|ajanl|προτειν|oneril|tavsiye|zaleca|rekommend/.test(
    fold(column),
  );

/** Where there is a sale price and nothing is called a price, what it is reduced from is the price; a recommendation is none. */
export function priceOfSale(found: readonly ColumnSuggestion[]): ColumnSuggestion[] {
  const has = (code: string) => found.some(({ attribute }) => attribute === code);
  if (has('price') || !has('salePrice')) return [...found];
  return found.map((one) =>
    one.attribute === 'listPrice' && !isRecommended(one.column)
      ? {
          ...one,
          attribute: 'price',
          reasons: [...one.reasons, 'a sale price stands beside it, and no other price'],
        }
      : one,
  );
}

/** Prices of an item are in one currency: what says another one is not the list price to this price. */
export function inOneCurrency(found: readonly ColumnSuggestion[]): ColumnSuggestion[] {
  const price = found.find(({ attribute }) => attribute === 'price');
  const currency = price && headingWords(price.column).currency;
  return found.filter((one) => {
    const own = headingWords(one.column).currency;
    return one === price || !moneyBeside.has(one.attribute) || !currency || !own || own === currency;
  });
}

const moneyBeside: ReadonlySet<string> = new Set(['listPrice', 'salePrice', 'cost']);

/**
 * A further column of prices whose heading does not say of what kind: what is nowhere below the price is the list price,
 * what is everywhere below it the cost.
 */
export function morePrices(
  found: readonly ColumnSuggestion[],
  columns: readonly string[],
  sample: readonly Readonly<Record<string, string>>[],
  attributes: readonly Attribute[],
  english: English,
): ColumnSuggestion[] {
  const result = [...found];
  const price = found.find(({ attribute }) => attribute === 'price');
  if (!price) return result;
  for (const column of columns) {
    if (result.some((one) => one.column === column) || withoutTax.test(fold(column))) continue;
    if (
      !headingMeaning(spokenName(headingWords(column).name), english)
        ?.about.split(' ')
        .includes('price')
    )
      continue;
    const both = sample.flatMap((record) => {
      const [here, there] = [readNumber(record[column] ?? ''), readNumber(record[price.column] ?? '')];
      return here === undefined || there === undefined ? [] : [Number(here) - Number(there)];
    });
    if (both.length < 2) continue;
    const kind = both.every((difference) => difference < 0)
      ? 'cost'
      : both.every((difference) => difference >= 0) && both.some((difference) => difference > 0)
        ? 'listPrice'
        : undefined;
    if (
      !kind ||
      result.some(({ attribute }) => attribute === kind) ||
      !attributes.some(({ code }) => code === kind)
    )
      continue;
    result.push({
      column,
      attribute: kind,
      score: 55,
      reasons: [
        kind === 'cost' ? 'its amounts are below the price' : 'its amounts are never below the price',
      ],
    });
  }
  return result;
}
