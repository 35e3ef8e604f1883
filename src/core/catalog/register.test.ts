import fc from 'fast-check';
import { checkDigit, checkDigitHolds } from '../identifiers/gtin';
import { freePositions, numberAt, positionIn, rangesOf, readBlock } from './register';

test('numbers of a block follow each other, each with its check digit', () => {
  const block = readBlock('9520000030070', 100);
  expect([0, 1, 2, 99].map((at) => numberAt(block, at))).toEqual([
    '9520000030070',
    '9520000030087',
    '9520000030094',
    '9520000031060',
  ]);
});

test('every number of a block is found at its place, and no other is', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 999 }), (at) => {
      const block = readBlock('952000003007 0', 1000);
      const number = numberAt(block, at);
      expect(checkDigitHolds(number)).toBe(true);
      expect(positionIn(block, number)).toBe(at);
      expect(positionIn(block, `0${number}`)).toBe(at);
    }),
  );
  const block = readBlock('9520000030070', 10);
  for (const other of ['9520000030063', '9520000030179', '9520000030071', '4006381333931', '', 'x'])
    expect(positionIn(block, other)).toBeUndefined();
});

test('every number of a block, with as many zeros before it as there may be, lies between its ends as a text', () => {
  const first = fc.constantFrom(
    ...['952000003007', '0000000952000', '1009999', '0000000009999', '9520000'].map(
      (body) => `${body}${checkDigit(body)}`,
    ),
  );
  fc.assert(
    fc.property(first, fc.integer({ min: 0, max: 9 }), fc.nat({ max: 6 }), (start, at, zeros) => {
      const block = readBlock(start, 10);
      const plain = numberAt(block, at).replace(/^0+/, '');
      const length = [8, 12, 13, 14].filter((one) => one >= plain.length)[zeros % 4] ?? 14;
      const written = plain.padStart(length, '0');
      // A GTIN-8 that begins with a zero is kept for use inside one company.
      expect(positionIn(block, written)).toBe(
        written.length === 8 && written.startsWith('0') ? undefined : at,
      );
      expect(rangesOf(block).some(([from, to]) => from <= written && written <= to)).toBe(true);
    }),
  );
  // Others fall between as well, but not all.
  const elsewhere = ['9520000090005', '4006381333931', '1', '99999999999999'];
  for (const [from, to] of rangesOf(readBlock('9520000030070', 10)))
    expect(elsewhere.filter((one) => from <= one && one <= to)).toEqual([]);
});

test('what is used is passed over', () => {
  const block = readBlock('9520000030070', 4);
  expect([...freePositions(block, new Set([0, 2]))]).toEqual([1, 3]);
  expect([...freePositions(block, new Set([0, 1, 2, 3]))]).toEqual([]);
});

test.each([
  ['9520000030071', 10, 'its check digit is wrong'],
  ['95200', 10, 'no GTIN has that many digits'],
  ['0200000404178', 10, 'is for use inside one company'],
  ['9520000030070', 0, 'Enter how many'],
  ['9520000030070', 200_000, 'Enter how many'],
  ['0306406152', 5, 'is not a GTIN'],
])('a block that begins with %s, of %s, is refused: %s', (first, count, words) => {
  expect(() => readBlock(first, count)).toThrow(words);
});
