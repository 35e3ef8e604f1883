import { currencyOf } from './currencies';
import { unitOf } from './units';
import { writtenNumber } from './written';

/**
 * Reads a number as people write it: "24.90", "24,90 €", "1.234,50", "1 234,5", "EUR 24.9", "1,234.50", "12 cm". The whole
 * cell must be one: a sign, digits, separators, and at most a unit or a currency; "approx. 20" and "(5)" are none.
 * One separator with exactly three digits behind it ("1.234") is the decimal sign only where it equals `decimalSign`.
 * @param decimalSign the sign the source uses; a point where left out
 * @returns a plain decimal string with a point, or undefined where the cell is not a single number
 */
export function readNumber(text: string, decimalSign?: ',' | '.'): string | undefined {
  const found = writtenNumber(text, decimalSign);
  if (!found) return undefined;
  const { before, number, after } = found;
  if (before !== '' && (after !== '' || currencyOf(before) === undefined)) return undefined;
  if (after !== '' && after !== '%' && unitOf(after) === undefined && currencyOf(after) === undefined)
    return undefined;
  return number;
}
