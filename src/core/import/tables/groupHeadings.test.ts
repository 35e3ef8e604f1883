import { beginsPart, groupHeadingIn, repeatsHeading } from './groupHeadings';

test.each<[string, (string | undefined)[], string | undefined]>([
  ['a word alone', ['Töpfe', '', ''], 'Töpfe'],
  ['in the second cell, with a colon', ['', 'Watering cans:', undefined], 'Watering cans'],
  ['with a year', ['Lampen 2026', '', ''], 'Lampen 2026'],
  ['a code alone', ['A-100', '', ''], undefined],
  ['a number alone', ['100', '', ''], undefined],
  ['a sentence', ['All prices without tax.', '', ''], undefined],
  ['something long', ['x'.repeat(61), '', ''], undefined],
  ['far behind', ['', '', 'Töpfe'], undefined],
  ['two cells', ['Töpfe', '12', ''], undefined],
  ['nothing', ['', '', ''], undefined],
])('the heading of a part: %s', (_name, row, section) => {
  expect(groupHeadingIn(row, 3)).toBe(section);
  expect(groupHeadingIn(row, 2)).toBeUndefined();
});

test('a heading said again is no item', () => {
  const columns = ['SKU', 'Name', 'Price'];
  expect(repeatsHeading(['sku', 'Name', 'Price'], columns)).toBe(true);
  expect(repeatsHeading(['SKU', '', 'Price'], columns)).toBe(true);
  expect(repeatsHeading(['SKU', '', ''], columns)).toBe(false);
  expect(repeatsHeading(['A', 'Name', 'Price'], columns)).toBe(false);
});

test.each<[string, string[], boolean]>([
  ['another part with a column of its own', ['SKU', 'Name', 'Watt', 'Price'], true],
  ['the same heading', ['SKU', 'Name', 'Colour', 'Price'], false],
  ['an item', ['A-100', 'Name', 'Colour', '3'], false],
  ['an item whose words are those of the heading', ['Name', 'Colour', 'Price', 'SKU'], false],
  ['fewer than half of the names', ['SKU', 'Title', 'Watt', 'Amount'], false],
])('%s', (_name, row, expected) => {
  expect(beginsPart(row, ['SKU', 'Name', 'Colour', 'Price'])).toBe(expected);
});
