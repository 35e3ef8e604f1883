import { trialField, trialSheet } from '../../../tests/support/sheets';
import type { Listing } from './evaluate';
import { checkExpectations, type Expectation } from './expectations';
import { Listings } from './listings';

const sheet = trialSheet([
  trialField('key', 'text', { role: 'id' }),
  trialField('title', 'text', { label: 'Title' }),
]);
const listing = (sku: string, title: string | undefined, state: Listing['state']): Listing => ({
  sku,
  state,
  reason: state === 'leftOut' ? 'not sold here' : undefined,
  values: [sku, title],
  issues: [],
});
const listings = [
  listing('A', 'Ridge pot', 'ready'),
  listing('B', undefined, 'blocked'),
  listing('C', 'Book', 'leftOut'),
];
const categories = ['Pots', 'Books', 'Books'];

test.each<[Expectation, boolean, string]>([
  [{ expect: 'value', sku: 'A', field: 'title', value: 'Ridge pot' }, true, ''],
  [{ expect: 'value', sku: 'A', field: 'title', value: 'Fen pot' }, false, 'it is “Ridge pot”'],
  [{ expect: 'value', sku: 'B', field: 'title', value: 'Fen pot' }, false, 'it is empty'],
  [{ expect: 'value', sku: 'B', field: 'title', value: '' }, true, ''],
  [{ expect: 'value', sku: 'C', field: 'title', value: 'Book' }, false, 'it is excluded: not sold here'],
  [{ expect: 'value', sku: 'D', field: 'title', value: 'x' }, false, 'the item was deleted'],
  [{ expect: 'ready', least: 1 }, true, ''],
  [{ expect: 'ready', least: 2 }, false, '1 are'],
  [{ expect: 'noneBlocked', category: 'Pots' }, true, ''],
  [{ expect: 'noneBlocked', category: 'Books' }, false, '1 is'],
])('%j: %s', (expectation, holds, instead) => {
  const [found] = checkExpectations([expectation], {
    sheet,
    listings: new Listings(listings, []),
    positionOf: (sku) => {
      const at = listings.findIndex((one) => one.sku === sku);
      return at < 0 ? undefined : at;
    },
    categoryAt: (at) => categories[at] ?? '',
  });
  expect([found?.holds, found?.instead]).toEqual([holds, instead]);
  expect(found?.words).not.toBe('');
});
