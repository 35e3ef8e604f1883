import fc from 'fast-check';
import { currencyOf, minorUnits } from './currencies';
import { compareAmounts, readAmount, writeAmount } from './money';
import { readNumber } from './numbers';

// Source: ISO 4217, list one: minor units of these currencies.
test.each([
  ['EUR', 2],
  ['JPY', 0],
  ['KWD', 3],
  ['CLP', 0],
  ['GBP', 2],
  ['BHD', 3],
])('%s has %i minor units', (code, digits) => {
  expect(minorUnits(code)).toBe(digits);
});

test('an unknown currency is not guessed', () => {
  expect(minorUnits('XQX')).toBeUndefined();
  expect(writeAmount('1', 'XQX')).toBeUndefined();
});

test.each([
  ['24.90', '24.90'],
  ['24,90 €', '24.90'],
  ['€ 24,90', '24.90'],
  ['1.234,50', '1234.50'],
  ['1,234.50', '1234.50'],
  ['1 234,5', '1234.5'],
  ['1’234.50', '1234.50'],
  ['1.234.567', '1234567'],
  ['1,234', '1234'],
  ['1.234', '1.234'],
  ['-3,5', '-3.5'],
  ['.5', '0.5'],
  ['12.', '12'],
  ['0', '0'],
])('reads %j as %s', (text, number) => {
  expect(readNumber(text)).toBe(number);
});

test('a decimal comma can be told', () => {
  expect(readNumber('1.234', ',')).toBe('1234');
  expect(readNumber('1,234', ',')).toBe('1.234');
});

test.each([
  ['Fr. 12.50', '12.50'],
  ['Fr.12.50', '12.50'],
  ['24,- €', '24'],
  ['24.–', '24'],
  ['199:- kr', '199'],
  ['-9,90 €', '-9.90'],
  ['€ -9,90', '-9.90'],
  ['−3', '-3'],
  ['12,34,567', '1234567'],
  ['5 %', '5'],
  ['12 Stück', '12'],
  ['12,90 EUR / Stück', '12.90'],
  ['£4.20 each', '4.20'],
  ['8,50 €/Stk.', '8.50'],
  ['39,90 zł za szt.', '39.90'],
  ['1 234 567,8', '1234567.8'],
])('reads %j as %s, with what stands beside it', (text, number) => {
  expect(readNumber(text)).toBe(number);
});

test.each([
  '',
  'free',
  '12 or 13',
  '1,2,3.4.5',
  '--3',
  '1e5',
  'ca. 20',
  '12,90 EUR / kg',
  '12 / 13',
  'auf Anfrage (Seite 7)',
  'page 7',
  '(5,00)',
  '12 13',
  '1.23.456',
  '12-15',
  '3/4',
  '5 apples',
  '2027-03-31',
  '9'.repeat(20_000),
])('refuses %j', (text) => {
  expect(readNumber(text)).toBeUndefined();
});

test('what is written in any usual form is read back', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 9_999_999 }),
      fc.integer({ min: 0, max: 99 }),
      (complete, cents) => {
        const plain = `${complete}.${String(cents).padStart(2, '0')}`;
        const number = Number(plain);
        expect(Number(readNumber(number.toLocaleString('de-DE', { minimumFractionDigits: 2 })))).toBe(number);
        expect(Number(readNumber(number.toLocaleString('en-US', { minimumFractionDigits: 2 })))).toBe(number);
        expect(Number(readNumber(number.toLocaleString('fr-FR', { minimumFractionDigits: 2 })))).toBe(number);
      },
    ),
  );
});

test('amounts are rounded half away from zero, without floating point', () => {
  expect(writeAmount('1.005', 'EUR')).toBe('1.01');
  expect(writeAmount('24.9', 'EUR')).toBe('24.90');
  expect(writeAmount('24.5', 'JPY')).toBe('25');
  expect(writeAmount('9007199254740993.1', 'EUR')).toBe('9007199254740993.10');
});

test.each([
  ['24.90 USD', '24.90', 'USD'],
  ['$24.90', '24.90', 'USD'],
  ['Fr. 12.50', '12.50', 'CHF'],
  ['24,90 €', '24.90', 'EUR'],
  ['EUR 24,90', '24.90', 'EUR'],
  ['24.90', '24.90', undefined],
])('the amount %j is %s in %s', (text, amount, currency) => {
  expect(readAmount(text)).toEqual({ amount, currency });
});

test('a sign that several currencies share is read as the one that is expected', () => {
  expect(readAmount('$24.90', 'CAD')?.currency).toBe('CAD');
  expect(readAmount('$24.90', 'EUR')?.currency).toBe('USD');
  expect(readAmount('199 kr', 'DKK')?.currency).toBe('DKK');
  expect(currencyOf('glugs')).toBeUndefined();
});

test.each(['24.90 EUR USD', 'USD 24.90 €', '24.90 kg', 'from 24.90', '(24.90)'])(
  '%j is no amount',
  (text) => {
    expect(readAmount(text)).toBeUndefined();
  },
);

test.each([
  ['99.95 EUR', '19.99 EUR', 5, 0],
  ['99.96 EUR', '19.99 EUR', 5, 1],
  ['99.94 EUR', '19.99 EUR', 5, -1],
  ['0.3', '0.1', 3, 0],
  ['1.10 EUR', '1.1 EUR', 1, 0],
  ['123456789012.34', '123456789012.33', 1, 1],
])('%s against %s times %d', (a, b, times, sign) => {
  expect(Math.sign(compareAmounts(a, b, times))).toBe(sign);
});
