import { alarmText } from './messages';
import { alarmsOf, type ChangedListing, limitsSchema, priceChange } from './review';

const limits = limitsSchema.parse({});
const fields = { price: 'price', title: 'title', category: 'place', fixed: ['code', 'gtin'] };
const change = (sku: string, field: string, before: string | undefined, after: string): ChangedListing => ({
  sku,
  changes: [{ field, before, after }],
});
const many = (count: number, field: string, before: string, after: string) =>
  Array.from({ length: count }, (_, at) => change(`S${at}`, field, before, after));

test.each([
  ['10.00 EUR', '15.00 EUR', 50],
  ['10', '5', -50],
  ['0', '5', undefined],
  ['soon', '5', undefined],
])('a price from %s to %s', (before, after, expected) => {
  expect(priceChange({ field: 'price', before, after })).toEqual(expected);
});

test.each<[string, ChangedListing[], { has: number; withdrawn: number }, string[]]>([
  ['nothing', [], { has: 100, withdrawn: 0 }, []],
  ['a price at the limit', [change('A', 'price', '10', '15')], { has: 100, withdrawn: 0 }, []],
  ['a price beyond it', [change('A', 'price', '10', '15.1')], { has: 100, withdrawn: 0 }, ['prices']],
  ['a price that falls', [change('A', 'price', '89.00', '8.90')], { has: 100, withdrawn: 0 }, ['prices']],
  ['a fifth withdrawn', [], { has: 100, withdrawn: 20 }, []],
  ['more than a fifth', [], { has: 100, withdrawn: 21 }, ['vanish']],
  [
    'a first sending',
    many(90, 'title', 'x', 'y').map((one) => ({ ...one, changes: [] })),
    { has: 0, withdrawn: 0 },
    [],
  ],
  ['a quarter moves', many(25, 'place', '1', '2'), { has: 100, withdrawn: 0 }, ['moved']],
  ['half the titles', many(50, 'title', 'x', 'y'), { has: 100, withdrawn: 0 }, ['titles']],
  ['a code', [change('A', 'code', 'A-1', 'A-2')], { has: 100, withdrawn: 0 }, ['fixed']],
  [
    'a number that was not there',
    [change('A', 'gtin', undefined, '9520000030148')],
    { has: 100, withdrawn: 0 },
    [],
  ],
  ['titles that were empty', many(50, 'title', undefined as never, 'y'), { has: 100, withdrawn: 0 }, []],
])('%s', (_words, changed, counts, expected) => {
  expect(alarmsOf(changed, counts, fields, limits).map(({ alarm }) => alarm)).toEqual(expected);
});

test('an alarm in words', () => {
  expect(alarmText({ alarm: 'prices', count: 1, limit: 50 })).toBe('1 price changes by more than 50 %');
  expect(alarmText({ alarm: 'fixed', count: 2, limit: 0, example: 'A' })).toBe(
    '2 listings change their ID at the channel, such as A',
  );
  expect(alarmText({ alarm: 'vanish', count: 30, of: 100, limit: 20 })).toContain('30 of 100');
});
