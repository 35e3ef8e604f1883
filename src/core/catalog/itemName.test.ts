import { itemName } from './itemName';

test.each([
  ['Ridge pot', ['moss', '14 cm'], 'Ridge pot · moss, 14 cm'],
  ['Ridge pot, moss', ['moss', '14 cm'], 'Ridge pot, moss · 14 cm'],
  ['Ridge pot', [], 'Ridge pot'],
  ['', ['moss'], 'moss'],
  // A part of a word is not the word, and an empty value is none.
  ['Mossy pot', ['moss', ''], 'Mossy pot · moss'],
  ['Socken Größe 38', ['38'], 'Socken Größe 38'],
  ['Pot 14cm', ['14 cm'], 'Pot 14cm · 14 cm'],
  ['Kissen (grün)', ['grün', '40 × 40 cm'], 'Kissen (grün) · 40 × 40 cm'],
])('%s with %j is %s', (name, values, expected) => {
  expect(itemName(name, values)).toBe(expected);
});
