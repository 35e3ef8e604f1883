import { Decimal } from 'decimal.js';
import { currencyOf, minorUnits } from './currencies';
import { writtenNumber } from './written';

/** An amount of money as it stands in a cell. */
export interface Amount {
  /** A plain decimal string with a point. */
  readonly amount: string;
  /** ISO 4217; undefined where the cell names none. */
  readonly currency: string | undefined;
}

/**
 * Reads an amount with or without its currency, on either side: "24.90", "24,90 €", "Fr. 12.50", "USD 24.90".
 * @param expected the currency it is most likely in, for signs that several share
 * @param decimalSign the sign the source uses; a point where left out
 * @returns undefined where the whole cell is not one amount
 */
export function readAmount(text: string, expected?: string, decimalSign?: ',' | '.'): Amount | undefined {
  const found = writtenNumber(text, decimalSign);
  if (!found) return undefined;
  const { before, number, after } = found;
  const [left, right] = [before, after].map((word) => (word === '' ? '' : currencyOf(word, expected)));
  if (left === undefined || right === undefined) return undefined;
  if (left !== '' && right !== '' && left !== right) return undefined;
  return { amount: number, currency: left || right || undefined };
}

/** An amount with its currency as one text, as the catalog keeps it where it names one. */
export const amountText = ({ amount, currency }: Amount): string =>
  currency === undefined ? amount : `${amount} ${currency}`;

/** Rounds half away from zero to the currency's minor units and writes it with a point, e.g. `24.90`. */
export function writeAmount(amount: string, currency: string): string | undefined {
  const digits = minorUnits(currency);
  if (digits === undefined || !/^[+-]?\d+(?:\.\d+)?$/.test(amount)) return undefined;
  return new Decimal(amount).toFixed(digits, Decimal.ROUND_HALF_UP);
}

/** Beyond this share of the greater number no binary fraction of two amounts errs. */
const SURE = 1e-9;

/**
 * Compares an amount with a multiple of another, exactly: below 0 where it is less, 0 where it is the same. Decimals are made only
 * where binary fractions are too close to tell.
 * @param a, b texts that begin with a decimal number, "12.50 EUR"
 */
export function compareAmounts(a: string, b: string, times: number = 1): number {
  const [x, y] = [Number.parseFloat(a), Number.parseFloat(b) * times];
  if (Math.abs(x - y) > SURE * Math.max(Math.abs(x), Math.abs(y))) return x - y;
  const exact = (text: string) => new Decimal(/^\s*(-?\d+(?:\.\d+)?)/.exec(text)?.[1] ?? Number.NaN);
  return exact(a).comparedTo(exact(b).times(times));
}

/**
 * An amount as shoppers of a market read it; a text that is no amount as it is.
 * @param language of the market, BCP 47
 * @param currency of amounts that name none
 */
export function shownAmount(text: string, language: string, currency: string): string {
  const read = readAmount(text, currency);
  if (!read) return text;
  return new Intl.NumberFormat(language, { style: 'currency', currency: read.currency ?? currency }).format(
    Number(read.amount),
  );
}
