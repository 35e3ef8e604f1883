import { footnotesOf } from './footnotes';

// Read off by a person.
test.each([
  [['Prices hold until June', '', '', ''], 'note'],
  [['', '', 'Gartengeräte', ''], 'note'],
  [['Summe', '', '', '1.234,50 €'], 'sum'],
  [['Total', '', '12', '340.00 EUR'], 'sum'],
  [['Razem:', '', '', '99'], 'sum'],
])('%j stands beside the items', (cells, what) => {
  expect(footnotesOf(cells, 4)).toContain(what);
});
test.each([
  [['A1', 'Pot', '', ''], 4],
  [['Total', 'Total clean soap', '', '4.90'], 4],
  [['A1', ''], 2],
  [['', '', '', ''], 4],
  [['Sumatra', '', '', '12'], 4],
])('%j may be an item', (cells, columns) => {
  expect(footnotesOf(cells, columns)).toBeUndefined();
});
