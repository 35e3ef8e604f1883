import fc from 'fast-check';
import type { Row } from '../../core/catalog/value';
import type { Listing } from '../../core/listing/evaluate';
import { Listings, ListingsEdit } from '../../core/listing/listings';
import { atOnce } from '../../core/listing/steps';
import type { FeedContext } from './feedContext';
import { countIncrementally, countingIncrementally, countWord } from './incrementalCount';

const [index, channel] = [{}, {}];
let feeds = 0;
const workOf = (listings: Listings, rows: readonly Row[], code: string) =>
  ({
    plans: { head: { code } },
    channel,
    draft: { listings },
    snapshot: { rows, index },
  }) as unknown as FeedContext;
const listing = (sku: string, state: Listing['state']) =>
  ({ sku, state, values: [], issues: [] }) as unknown as Listing;

/** How many listings stand in each state, with the first value of their items. */
const count = (work: FeedContext, by = '') =>
  new Map(
    countIncrementally(
      work,
      'states',
      by,
      () => new Map<string, number>(),
      (counts, { state }, row, times) => countWord(counts, `${by}${state} ${row[0]}`, times),
    ),
  );

test('whatever has changed of listings and items, the count is as from nothing', () => {
  const one = fc.tuple(fc.constantFrom('ready', 'blocked', 'leftOut'), fc.constantFrom('moss', 'chalk'));
  const all = fc.array(one, { maxLength: 12 });
  fc.assert(
    fc.property(fc.array(all, { minLength: 1, maxLength: 6 }), fc.boolean(), (versions, another) => {
      const code = `feed ${++feeds}`;
      let before = new Listings([], []);
      const items = new Map<string, Row>();
      // What is the same as before is known to be, as evaluations share it.
      const shared = versions.map((version) => ({
        listings: version.reduce(
          (edit, [state], at) => {
            if (at >= before.length || before.stateAt(at) !== state)
              edit.replace(at, listing(String(at), state as Listing['state']));
            if (at === version.length - 1) before = edit;
            return edit;
          },
          new ListingsEdit(before, [], version.length),
        ),
        rows: version.map(([, value], at) => {
          const key = `${at} ${value}`;
          const known = items.get(key) ?? [value];
          items.set(key, known);
          return known;
        }),
      }));
      for (const [at, { listings, rows }] of shared.entries()) {
        const by = another && at % 2 === 1 ? 'another way ' : '';
        expect(count(workOf(listings, rows, code), by)).toEqual(
          count(workOf(listings, rows, `anew ${++feeds}`), by),
        );
      }
    }),
  );
});

test('after a count that failed half way the next begins anew', () => {
  const [work, broken] = [[listing('A', 'ready')], [listing('A', 'ready'), listing('B', 'ready')]].map(
    (listings) => workOf(new Listings(listings, []), [['moss'], ['chalk']], 'failing'),
  ) as [FeedContext, FeedContext];
  expect([...count(work)]).toEqual([['ready moss', 1]]);
  expect(() =>
    countIncrementally(
      broken,
      'states',
      '',
      () => new Map<string, number>(),
      (counts, { sku, state }, row, times) => {
        if (sku === 'B') throw new Error('broken');
        countWord(counts, `${state} ${row[0]}`, times);
      },
    ),
  ).toThrow('broken');
  expect([...count(work)]).toEqual([['ready moss', 1]]);
});

test('of two counts under way at once neither goes on with what the other has half done', () => {
  const versions = [['ready'], ['blocked', 'ready'], ['ready', 'ready', 'blocked']].map((states) =>
    workOf(
      new Listings(
        states.map((state, at) => listing(String(at), state as Listing['state'])),
        [],
      ),
      states.map((_state, at) => [`item ${at}`]),
      'two at once',
    ),
  ) as [FeedContext, FeedContext, FeedContext];
  const states = (work: FeedContext) =>
    countingIncrementally(
      work,
      'states',
      '',
      () => new Map<string, number>(),
      (counts, { state }, _row, times) => countWord(counts, state, times),
    );
  atOnce(states(versions[0]));
  const slow = states(versions[1]);
  slow.next();
  expect([...atOnce(states(versions[2]))].sort()).toEqual([
    ['blocked', 1],
    ['ready', 2],
  ]);
  expect([...atOnce(slow)].sort()).toEqual([
    ['blocked', 1],
    ['ready', 1],
  ]);
  expect([...atOnce(states(versions[0]))]).toEqual([['ready', 1]]);
});
