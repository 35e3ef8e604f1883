import { lanternry } from '../../../tests/support/demo';
import type { Values } from '../catalog/item';
import { rejectedBefore } from './rejectedBefore';

const { sheet } = lanternry;
const problem = (field: string | null, text: string) => ({ code: 'X', field, text });

test('values that the channel rejected on one listing are named before another is sent with them', () => {
  const rejected = [
    {
      sku: 'A',
      values: { brand: 'Harrow', picture: 'https://a.example/1.jpg?v=3', price: '9.00 EUR', colour: 'white' },
      problems: [
        problem('brand', 'Not allowed here'),
        problem('picture', 'Cannot be fetched'),
        problem('price', 'Page says 8'),
        problem('colour', 'Not on the picture'),
        problem(null, 'Try again'),
      ],
    },
  ];
  const going: { sku: string; values: Values }[] = [
    { sku: 'A', values: { brand: 'Harrow' } },
    { sku: 'B', values: { brand: 'Harrow', price: '9.00 EUR', colour: 'white' } },
    { sku: 'C', values: { brand: 'Harrow', picture: 'https://a.example/1.jpg?v=3' } },
    { sku: 'D', values: { brand: 'Tarnholt' } },
  ];
  // Others have the colour and were accepted: it is no reason by itself.
  const accepted = [{ values: { colour: 'white', brand: 'Tarnholt' } }];
  expect(rejectedBefore(sheet, rejected, going, accepted)).toEqual([
    { field: 'brand', value: 'Harrow', text: 'Not allowed here', on: 'A', skus: ['B', 'C'] },
    {
      field: 'picture',
      value: 'https://a.example/1.jpg?v=3',
      text: 'Cannot be fetched',
      on: 'A',
      skus: ['C'],
    },
  ]);
  expect(
    rejectedBefore(sheet, rejected, going, [{ values: { brand: 'Harrow' } }]).map(({ field }) => field),
  ).toEqual(['colour', 'picture']);
  expect(rejectedBefore(sheet, [], going, [])).toEqual([]);
});
