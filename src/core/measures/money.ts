import currencies from 'currency-codes';
import { Decimal } from 'decimal.js';

/** Decimal places of a currency by ISO 4217; undefined where the standard knows no such code. */
export function minorUnits(currency: string): number | undefined {
  return currencies.code(currency)?.digits;
}

const numberShape = /^[+-]?\d+(?:\.\d+)?$/;

/**
 * Reads a number as people write it: "24.90", "24,90 €", "1.234,50", "1 234,5", "EUR 24.9", "1,234.50".
 * One separator with exactly three digits behind it ("1.234") is the decimal sign only where it equals `decimalSign`.
 * @param decimalSign the sign the source uses; a point where left out
 * @returns a plain decimal string with a point, or undefined where the text holds no single number
 */
export function readNumber(text: string, decimalSign?: ',' | '.'): string | undefined {
  const body = text.replace(/^[^\d+.,-]+|[^\d.,]+$/gu, '').replace(/[\s\u00a0\u202f'’]/g, '');
  if (!/^[+-]?[\d.,]*\d[\d.,]*$/.test(body)) return undefined;
  const lastComma = body.lastIndexOf(',');
  const lastPoint = body.lastIndexOf('.');
  let sign: ',' | '.' = decimalSign ?? '.';
  if (lastComma >= 0 && lastPoint >= 0) sign = lastComma > lastPoint ? ',' : '.';
  else if (lastComma >= 0 || lastPoint >= 0) {
    const only = lastComma >= 0 ? ',' : '.';
    const repeated = body.split(only).length > 2;
    const groupOfThree = /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/.test(body) && only !== sign;
    sign = (repeated || groupOfThree) === (only === ',') ? '.' : ',';
  }
  const grouping = sign === ',' ? '.' : ',';
  const plain = body.split(grouping).join('').replace(sign, '.');
  const tidy = plain.replace(/^([+-]?)\./, '$10.').replace(/\.$/, '');
  return numberShape.test(tidy) ? tidy.replace(/^\+/, '') : undefined;
}

/** Rounds half away from zero to the currency's minor units and writes it with a point, e.g. `24.90`. */
export function writeAmount(amount: string, currency: string): string | undefined {
  const digits = minorUnits(currency);
  if (digits === undefined || !numberShape.test(amount)) return undefined;
  return new Decimal(amount).toFixed(digits, Decimal.ROUND_HALF_UP);
}
