import { readValues } from './item';

test('values that are kept are texts and lists of texts; anything else is told with its attribute', () => {
  const values = { name: 'Ridge pot', image: ['a.jpg', 'b.jpg'], color: '' };
  expect(readValues(values)).toBe(values);
  expect(readValues({})).toEqual({});
  for (const [stored, words] of [
    [{ name: 'Pot', price: 24.9 }, '“price”'],
    [{ image: ['a.jpg', 1] }, '“image”'],
    [{ name: null }, '“name”'],
    [['a'], 'object'],
    [null, 'object'],
    ['text', 'object'],
  ] as const)
    expect(() => readValues(stored)).toThrow(words);
});
