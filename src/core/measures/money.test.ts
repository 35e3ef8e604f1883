import fc from 'fast-check';
import { minorUnits, readNumber, writeAmount } from './money';

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

test.each(['', 'free', '12 or 13', '1,2,3.4.5', '--3', '1e5'])('refuses %j', (text) => {
  expect(readNumber(text)).toBeUndefined();
});

test('what is written in any usual form is read back', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 9_999_999 }), fc.integer({ min: 0, max: 99 }), (whole, cents) => {
      const plain = `${whole}.${String(cents).padStart(2, '0')}`;
      const number = Number(plain);
      expect(Number(readNumber(number.toLocaleString('de-DE', { minimumFractionDigits: 2 })))).toBe(number);
      expect(Number(readNumber(number.toLocaleString('en-US', { minimumFractionDigits: 2 })))).toBe(number);
      expect(Number(readNumber(number.toLocaleString('fr-FR', { minimumFractionDigits: 2 })))).toBe(number);
    }),
  );
});

test('amounts are rounded half away from zero, without floating point', () => {
  expect(writeAmount('1.005', 'EUR')).toBe('1.01');
  expect(writeAmount('24.9', 'EUR')).toBe('24.90');
  expect(writeAmount('24.5', 'JPY')).toBe('25');
  expect(writeAmount('9007199254740993.1', 'EUR')).toBe('9007199254740993.10');
});
