import fc from 'fast-check';
import { isTransposed, transposed } from './transposed';

describe('tables whose items stand beside each other', () => {
  const beside = [
    ['Autumn list'],
    ['Artikelnummer', 'A-1', 'A-2'],
    ['Bezeichnung', 'Topf', 'Schale'],
    ['Farbe', 'Moos', 'Sand'],
    ['Gewicht (g)', '800', '400'],
    ['VK brutto', '12,90', '7,50'],
  ];
  test('are known by their first column, and an ordinary table is not', () => {
    expect(isTransposed(beside)).toBe(true);
    expect(isTransposed(transposed(beside))).toBe(false);
  });
  test.each([
    [
      'a list of attributes',
      [
        ['SKU', 'Attribute', 'Value'],
        ['A-1', 'Colour', 'moss'],
        ['A-1', 'Weight', '3 kg'],
        ['A-2', 'Colour', 'sand'],
      ],
    ],
    ['a heading by itself', [['Name', 'Colour', 'Price']]],
    ['nothing', []],
  ])('%s is none', (_name, rows) => {
    expect(isTransposed(rows)).toBe(false);
  });
  test('turned twice they are what they were', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }), (rows, columns) => {
        const table = Array.from({ length: rows }, (_, row) =>
          Array.from({ length: columns }, (_, at) => `${row} ${at}`),
        );
        expect(transposed(transposed(table))).toEqual(table);
      }),
    );
  });
});
