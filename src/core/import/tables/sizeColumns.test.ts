import fc from 'fast-check';
import { sizesAcross, spread } from './sizeColumns';

const records = (columns: readonly string[], ...rows: string[][]) =>
  rows.map((row) => ({ cells: Object.fromEntries(columns.map((column, at) => [column, row[at] ?? ''])) }));

describe('sizes that stand across', () => {
  test.each([
    ['numbers', ['Style', 'Price', '36', '37', '38'], ['36', '37', '38']],
    ['letters', ['Style', 'XS', 'S', 'M', 'L', '2XL', 'Price'], ['XS', 'S', 'M', 'L', '2XL']],
    ['ages of children', ['Style', 'Name', '92', '98', '104/110'], ['92', '98', '104/110']],
    ['with their system', ['Style', 'EU 40', 'EU 41', 'EU 42.5'], ['EU 40', 'EU 41', 'EU 42.5']],
  ])('%s', (_name, columns, expected) => {
    const row = columns.map((column) =>
      expected.includes(column) ? '3' : column === 'Price' ? '9.90' : 'A-1',
    );
    expect(sizesAcross(columns, records(columns, row))).toEqual(expected);
  });
  test.each([
    ['years', ['SKU', '2024', '2025', '2026'], ['A', '3', '4', '5']],
    ['months', ['SKU', '1', '2', '3', '4'], ['A', '3', '4', '5', '6']],
    ['two alone', ['SKU', 'S', 'M'], ['A', '3', '4']],
    ['falling numbers', ['SKU', '40', '38', '36'], ['A', '3', '4', '5']],
    ['prices by size', ['SKU', 'S', 'M', 'L'], ['A', '3.50', '4.50', '5.50']],
    ['words below them', ['SKU', 'S', 'M', 'L'], ['A', 'red', 'blue', 'green']],
    ['nothing below them', ['SKU', 'S', 'M', 'L'], ['A', '', '', '']],
  ])('%s are none', (_name, columns, row) => {
    expect(sizesAcross(columns, records(columns, row))).toEqual([]);
  });
  test('each size that there is becomes an item; a row without any stays one', () => {
    const columns = ['36', '37', '38', '39'];
    expect(spread({ Style: 'A', '36': '0', '37': '', '38': 'x', '39': '-' }, columns)).toEqual([
      { Style: 'A', Size: '36', Stock: '0' },
      { Style: 'A', Size: '38', Stock: '' },
    ]);
    expect(spread({ Style: 'A', '36': '', '37': '', '38': '', '39': '' }, columns)).toEqual([{ Style: 'A' }]);
  });
  test('no count is lost and none made up', () => {
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.nat(999), { nil: undefined }), { minLength: 3, maxLength: 9 }),
        (counts) => {
          const across = counts.map((_, at) => String(36 + at));
          const cells = Object.fromEntries(
            counts.map((count, at) => [across[at] ?? '', count === undefined ? '' : String(count)]),
          );
          const items = spread({ Style: 'A', ...cells }, across).filter(({ Size }) => Size !== undefined);
          expect(items.map(({ Size, Stock }) => [Size, Stock])).toEqual(
            counts.flatMap((count, at) => (count === undefined ? [] : [[across[at], String(count)]])),
          );
        },
      ),
    );
  });
});
