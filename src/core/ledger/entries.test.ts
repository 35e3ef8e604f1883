import { startingAttributes } from '../catalog/attributes';
import { InputError } from '../errors/inputError';
import { readEntries } from './entries';

const shape = {
  byNumber: '/entries?number={number}',
  entries: 'found.list',
  entry: 'no',
  says: { name: 'title', brand: 'by.maker', gtin: 'ean', volume: 'contents', price: 'asked' },
  field: 'entry',
  asked: ['price'],
  rate: { count: 60, seconds: 60 },
};
const read = (list: unknown) => readEntries({ found: { list } }, shape, startingAttributes);

test('entries say what they are, by attribute, in the forms in which the catalog keeps it', () => {
  expect(
    read([
      {
        no: 'E-1',
        title: ' A can ',
        by: { maker: 'Quillmoss' },
        ean: '9520000042530',
        contents: '1,5 l',
        asked: '38.00 EUR',
      },
      { no: 7, title: 'Another', contents: 'plenty' },
    ]),
  ).toEqual([
    {
      entry: 'E-1',
      values: {
        name: 'A can',
        brand: 'Quillmoss',
        gtin: '9520000042530',
        volume: '1.5 l',
        price: '38.00 EUR',
      },
    },
    // What cannot be read as its attribute stays as it is written.
    { entry: '7', values: { name: 'Another', volume: 'plenty' } },
  ]);
});

test('what is no entry is none, whatever it is', () => {
  expect(read([null, 4, 'E-1', [], { title: 'no number' }, { no: '' }, { no: { deep: 1 } }])).toEqual([]);
  expect(read([{ no: 'E-2', title: ['a'], by: 'x', ean: null, contents: { a: 1 } }])).toEqual([
    { entry: 'E-2', values: {} },
  ]);
  expect(read([])).toEqual([]);
});

test('of very many the first count, and long texts are cut', () => {
  const many = Array.from({ length: 500 }, (_, at) => ({ no: `E-${at}`, title: 'x'.repeat(5000) }));
  const found = read(many);
  expect(found.length).toBe(20);
  expect(String(found[0]?.values.name).length).toBe(1000);
});

test('a list that is not where the sheet says is told with its place', () => {
  for (const body of [undefined, null, {}, { found: {} }, { found: { list: { no: 1 } } }])
    expect(() => readEntries(body, shape, startingAttributes)).toThrow(InputError);
  expect(() => readEntries({}, shape, startingAttributes)).toThrow(/found\.list/);
});
