import { pairReader, pairsIn } from './nameValueColumns';

test.each<[string, string[], [string, string][]]>([
  [
    'numbers behind',
    ['Merkmal 1', 'Wert 1', 'Merkmal 2', 'Wert 2'],
    [
      ['Merkmal 1', 'Wert 1'],
      ['Merkmal 2', 'Wert 2'],
    ],
  ],
  [
    'numbers within',
    ['Choice1 Name', 'Choice1 Value', 'Choice2 Name', 'Choice2 Value'],
    [
      ['Choice1 Name', 'Choice1 Value'],
      ['Choice2 Name', 'Choice2 Value'],
    ],
  ],
  [
    'underscores and plurals',
    ['attribute_1_name', 'attribute_1_values'],
    [['attribute_1_name', 'attribute_1_values']],
  ],
  ['the bare name', ['Cecha 1', 'Cecha 1 wartość'], [['Cecha 1', 'Cecha 1 wartość']]],
  [
    'French',
    ['Nom caractéristique 1', 'Valeur caractéristique 1'],
    [['Nom caractéristique 1', 'Valeur caractéristique 1']],
  ],
  ['no numbers', ['Name', 'Value'], []],
  ['another number', ['Merkmal 1', 'Wert 2'], []],
  ['prices by quantity', ['Price 1', 'Value 1', 'Stock 1'], []],
])('pairs of columns: %s', (_name, columns, pairs) => {
  expect(pairsIn(columns).map(({ name, value }) => [name, value])).toEqual(pairs);
});

test('what pairs hold stands under the names they give, row by row; a name left out is the one above', () => {
  const columns = ['SKU', 'Merkmal 1', 'Wert 1', 'Merkmal 2', 'Wert 2', 'Material'];
  const read = pairReader(columns);
  const rows = [
    ['A', 'Farbe', 'Moos', 'Größe', 'M', ''],
    ['B', '', 'Ton', '', 'L', ''],
    ['C', 'Titel', 'Standard', '', '', ''],
    ['D', 'Material', 'Zink', 'a/b', 'x', 'Holz'],
    ['E', 'n'.repeat(61), 'x', '', '', ''],
  ].map((row) => {
    const cells: Record<string, string> = Object.fromEntries(
      columns.map((name, at) => [name, row[at] ?? '']),
    );
    read(cells);
    return Object.fromEntries(
      Object.entries(cells).filter(([name]) => !columns.includes(name) || name === 'Material'),
    );
  });
  expect(rows).toEqual([
    { Farbe: 'Moos', Größe: 'M', Material: '' },
    { Farbe: 'Ton', Größe: 'L', Material: '' },
    { Material: '' },
    { Material: 'Holz', 'a∕b': 'x' },
    { Material: '' },
  ]);
});
