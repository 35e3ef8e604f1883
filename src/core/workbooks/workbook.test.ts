import fc from 'fast-check';
import { startingAttributes } from '../catalog/attributes';
import { readBack, refusedBook, skusIn, tableOf, type Workbook } from './workbook';

const catalog: Record<string, Record<string, string | string[]>> = {
  A: {
    name: 'Ridge pot',
    weight: '1.4 kg',
    price: '18.00 EUR',
    image: ['https://a.example/1', 'https://a.example/2'],
  },
  B: { name: 'Oval tray', countryOfOrigin: 'PT' },
};
const itemOf = (sku: string) => (Object.hasOwn(catalog, sku) ? catalog[sku] : undefined);
const brought = (...rows: string[][]) =>
  readBack(
    rows.map((cells, at) => ({ row: at + 1, cells })),
    startingAttributes,
    itemOf,
  );

test('a cell that differs is a change, by label or code of its attribute in any order of columns', () => {
  const { cells, refused, ignored, items } = brought(
    ['Price', 'weight', 'SKU', 'Problem', 'My notes'],
    ['19', '1.4 kg', 'A', '', 'later'],
    ['', '0.6 kg', 'B', '', ''],
    ['', '', '', '', ''],
  );
  expect(cells).toEqual([
    { sku: 'A', attribute: 'price', text: '19' },
    { sku: 'B', attribute: 'weight', text: '0.6 kg' },
  ]);
  expect([refused, ignored, items]).toEqual([[], ['My notes'], 2]);
});

test('what cannot be taken is named with its row, the rest is taken', () => {
  const { cells, refused } = brought(
    ['SKU', 'Weight', 'Price'],
    ['A', 'heavy', '19.00 EUR'],
    ['gone', '1 kg', ''],
    ['', '1 kg', ''],
    ['A', '2 kg', ''],
  );
  expect(cells).toEqual([{ sku: 'A', attribute: 'price', text: '19.00 EUR' }]);
  expect(refused.map(({ row, sku, label, why }) => [row, sku, label, why])).toEqual([
    [2, 'A', 'Weight', expect.stringContaining('is not a number with a unit')],
    [3, 'gone', 'SKU', 'No item has this SKU.'],
    [4, '', 'SKU', 'The row has no SKU.'],
    [5, 'A', 'SKU', 'An earlier row has the same SKU.'],
  ]);
  const book = refusedBook(
    'Not accepted',
    refused,
    [{ attribute: 'weight', label: 'Weight', notes: [], choices: [] }],
    () => '',
  );
  expect([...tableOf(book)].slice(0, 2)).toEqual([
    ['SKU', 'Item', 'Problem', 'Weight'],
    ['A', '', expect.stringMatching(/^Weight: .*number with a unit/), 'heavy'],
  ]);
});

test('an emptied cell takes nothing away, and is told', () => {
  const { cells, emptied } = brought(['SKU', 'Weight', 'Country of origin'], ['A', '', ''], ['B', '', '']);
  expect([cells, emptied]).toEqual([[], 2]);
});

test('values as people read them come back unchanged: countries by name, lists by their strokes', () => {
  expect(
    brought(
      ['SKU', 'Country of origin', 'Pictures'],
      ['B', 'Portugal', ''],
      ['A', 'pt', 'https://a.example/1 | https://a.example/2'],
    ).cells,
  ).toEqual([{ sku: 'A', attribute: 'countryOfOrigin', text: 'pt' }]);
});

test('a table without SKUs is refused with the headings that it has', () => {
  expect(() => brought(['Article', 'Price'], ['A', '1'])).toThrow('The first headings are Article, Price');
  expect(() => skusIn([])).toThrow('The first headings are empty');
});

test('any workbook brought back as it went out changes nothing and refuses nothing', () => {
  const text = fc.string({ unit: 'grapheme', maxLength: 12 });
  fc.assert(
    fc.property(
      fc.array(fc.record({ name: text, brand: text, material: text }), { maxLength: 8 }),
      (values) => {
        const items = new Map(
          values.map((one, at) => [
            `S${at}`,
            Object.fromEntries(Object.entries(one).filter(([, value]) => value.trim() !== '')),
          ]),
        );
        const columns = ['name', 'brand', 'material'].map((attribute) => ({
          attribute,
          label: startingAttributes.find(({ code }) => code === attribute)?.label ?? '',
          notes: [],
          choices: [],
        }));
        const book: Workbook = {
          title: '',
          columns,
          rows: [...items].map(([sku, own]) => ({
            sku,
            name: '',
            wrong: '',
            cells: columns.map(({ attribute }) => own[attribute] ?? ''),
          })),
        };
        const rows = [...tableOf(book)].map((cells, at) => ({ row: at + 1, cells }));
        const back = readBack(rows, startingAttributes, (sku) => items.get(sku));
        expect([back.cells, back.refused, back.emptied, back.items]).toEqual([[], [], 0, items.size]);
      },
    ),
    { numRuns: 300 },
  );
});

test('a choice that is none is refused with those there are, and nothing is written', () => {
  const { cells, refused } = brought(
    ['SKU', 'Availability', 'Weight'],
    ['A', 'perhaps', '1.5 kg'],
    ['B', 'in stock', ''],
  );
  expect(cells.map(({ sku, attribute }) => [sku, attribute])).toEqual([
    ['A', 'weight'],
    ['B', 'availability'],
  ]);
  expect(refused).toMatchObject([{ row: 2, sku: 'A', attribute: 'availability', text: 'perhaps' }]);
  expect(refused[0]?.why).toMatch(/not one of its choices: .*in stock/i);
});
