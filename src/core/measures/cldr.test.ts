import { readAmount } from './money';
import { readNumber } from './numbers';
import { readMeasure, type Unit } from './units';

/**
 * Source: Unicode CLDR through ICU, as the runtime carries it: how people of nine languages, and of countries with habits of
 * their own, write numbers, amounts and measures. What is written so must be read back as it was.
 */
const locales = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt', 'sv', 'de-CH', 'de-AT', 'fr-CH', 'en-IN'];
const values = [0.5, 12, 1234.5, 12_345.67, 1_234_567.89];
const signOf = (locale: string) =>
  new Intl.NumberFormat(locale).formatToParts(1.5).find(({ type }) => type === 'decimal')?.value as ',' | '.';

describe.each(locales)('%s', (locale) => {
  test('numbers, in a column whose decimal sign is known', () => {
    for (const value of values) {
      const text = new Intl.NumberFormat(locale, { maximumFractionDigits: 2 }).format(value);
      expect([text, Number(readNumber(text, signOf(locale)))]).toEqual([text, value]);
    }
  });
  test.each(['EUR', 'GBP', 'USD', 'SEK', 'PLN', 'CHF'])('amounts in %s, by sign and by code', (currency) => {
    for (const value of values)
      for (const currencyDisplay of ['symbol', 'code', 'narrowSymbol'] as const) {
        const text = new Intl.NumberFormat(locale, { style: 'currency', currency, currencyDisplay }).format(
          value,
        );
        const read = readAmount(text, currency);
        expect([text, Number(read?.amount), read?.currency ?? currency]).toEqual([
          text,
          Math.round(value * 100) / 100,
          currency,
        ]);
      }
  });
  test.each<[string, Unit]>([
    ['kilogram', 'kg'],
    ['gram', 'g'],
    ['meter', 'm'],
    ['centimeter', 'cm'],
    ['millimeter', 'mm'],
    ['liter', 'l'],
    ['milliliter', 'ml'],
    ['inch', 'in'],
    ['foot', 'ft'],
    ['ounce', 'oz'],
    ['pound', 'lb'],
  ])('measures in %s, by name and by short form', (unit, ours) => {
    for (const value of [1, 2.5, 5])
      for (const unitDisplay of ['long', 'short', 'narrow'] as const) {
        const text = new Intl.NumberFormat(locale, { style: 'unit', unit, unitDisplay }).format(value);
        const read = readMeasure(text, signOf(locale));
        expect([text, Number(read?.amount), read?.unit]).toEqual([text, value, ours]);
      }
  });
});
