import { trialField, trialSheet } from '../../../tests/support/sheets';
import { shaped } from './families';

const sheet = (families: string) =>
  trialSheet(
    [
      trialField('key', 'text', { role: 'id' }),
      trialField('name', 'text', { role: 'title' }),
      trialField('group', 'text', { role: 'group' }),
      trialField('gtin', 'identifier', { role: 'gtin' }),
      trialField('price', 'money', { role: 'price', notForFamilies: true }),
      trialField('pictures', 'pictures', { role: 'image', values: { most: 9 } }),
      trialField('maker', 'text', { role: 'brand' }),
      trialField('colour', 'text'),
    ],
    { format: 'csv', families },
  );
const listing = (sku: string, name: string, group: string | undefined, colour: string) => ({
  sku,
  values: [sku, name, group, `952${sku}`, '9.00', [`${sku}-1.jpg`, `${sku}-2.jpg`], 'Quillmoss', colour],
});
const pots = [
  listing('P-1', 'Ridge pot, moss', 'RIDGE', 'moss'),
  listing('P-2', 'Ridge pot, chalk', 'RIDGE', 'chalk'),
  listing('C-1', 'Can', undefined, 'copper'),
  listing('S-1', 'Saucer, ink', 'SAUCER', 'ink'),
];

test('singles stay as they are', () => {
  expect(shaped(sheet('singles'), pots).map(({ sku, relation }) => [sku, relation])).toEqual(
    pots.map(({ sku }) => [sku, undefined]),
  );
});

test('a lead stands before its members, with what they share and nothing that only they have', () => {
  const out = shaped(sheet('leads'), pots);
  expect(out.map(({ sku, relation }) => [sku, relation])).toEqual([
    ['RIDGE', 'lead'],
    ['P-1', 'member'],
    ['P-2', 'member'],
    ['C-1', undefined],
    // A family of one is a single listing.
    ['S-1', undefined],
  ]);
  expect(out[0]?.values).toEqual([
    'RIDGE',
    'Ridge pot',
    'RIDGE',
    undefined,
    undefined,
    ['P-1-1.jpg'],
    'Quillmoss',
    undefined,
  ]);
  // Members are not changed: the digest of their values stays what it was.
  expect(out[1]?.values).toBe(pots[0]?.values);
});

test('one entry a family has its first member’s values under the family’s key', () => {
  const out = shaped(sheet('oneEntry'), pots);
  expect(out.map(({ sku }) => sku)).toEqual(['RIDGE', 'C-1', 'S-1']);
  expect(out[0]?.values[0]).toBe('RIDGE');
});

test('a lead never takes the key of an item', () => {
  const out = shaped(sheet('leads'), [...pots, listing('RIDGE', 'Other', undefined, 'x')]);
  expect(out[0]?.sku).toBe('RIDGE-family');
  expect(shaped(sheet('leads'), pots, new Set(['RIDGE']))[0]?.sku).toBe('RIDGE-family');
});

test('titles that share no beginning give the first member’s', () => {
  const [lead] = shaped(sheet('leads'), [
    listing('A', 'Moss pot', 'G', 'a'),
    listing('B', 'Chalk pot', 'G', 'b'),
  ]);
  expect(lead?.values[1]).toBe('Moss pot');
});

test('a shared beginning ends at a word', () => {
  const [lead] = shaped(sheet('leads'), [
    listing('A', 'Pot 10 cm', 'G', 'a'),
    listing('B', 'Pot 14 cm', 'G', 'b'),
  ]);
  expect(lead?.values[1]).toBe('Pot');
});
