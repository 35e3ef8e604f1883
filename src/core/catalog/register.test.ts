import fc from 'fast-check';
import { checkDigitHolds } from '../identifiers/gtin';
import { freePlaces, numberAt, placeIn, readBlock } from './register';

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
      expect(placeIn(block, number)).toBe(at);
      expect(placeIn(block, `0${number}`)).toBe(at);
    }),
  );
  const block = readBlock('9520000030070', 10);
  for (const other of ['9520000030063', '9520000030179', '9520000030071', '4006381333931', '', 'x'])
    expect(placeIn(block, other)).toBeUndefined();
});

test('what is used is passed over', () => {
  const block = readBlock('9520000030070', 4);
  expect([...freePlaces(block, new Set([0, 2]))]).toEqual([1, 3]);
  expect([...freePlaces(block, new Set([0, 1, 2, 3]))]).toEqual([]);
});

test.each([
  ['9520000030071', 10, 'its check digit does not hold'],
  ['95200', 10, 'no identifier has that many digits'],
  ['0200000404178', 10, 'is kept for use inside one company'],
  ['9520000030070', 0, 'Say how many'],
  ['9520000030070', 200_000, 'Say how many'],
  ['0306406152', 5, 'is no GTIN'],
])('a block that begins with %s, of %s, is refused: %s', (first, count, words) => {
  expect(() => readBlock(first, count)).toThrow(words);
});
