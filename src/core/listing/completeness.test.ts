import fc from 'fast-check';
import { compileDemo, demoCatalog, demoIndex } from '../../../tests/support/demo';
import { asText } from '../catalog/value';
import { completenessOf, completing, needWeights, shareOf } from './completeness';
import { evaluateAll, type Listing } from './evaluate';
import { Listings } from './listings';
import { atOnce } from './steps';

const compiled = compileDemo();
const listings = evaluateAll(compiled, demoCatalog);
const categorySlot = demoIndex.slotOf('category') ?? -1;
const complete = atOnce(
  completing(compiled, new Listings(listings, []), demoCatalog.rows, (row) => asText(row[categorySlot])),
);
const { fields } = compiled.sheet;

test('a listing with all that helps is complete; a value that is refused, or lacks, is not there', () => {
  const row = demoCatalog.rows[0] ?? [];
  const full: Pick<Listing, 'values' | 'issues'> = { values: fields.map(() => 'x'), issues: [] };
  expect(shareOf(completenessOf(compiled, full, row))).toBe(1);
  const musts = fields.filter(({ need }) => need === 'must').length;
  const shoulds = fields.filter(({ need }) => need === 'should').length;
  const empty = completenessOf(compiled, { values: fields.map(() => undefined), issues: [] }, row);
  expect(empty.completed).toBe(0);
  expect(empty.total).toBeGreaterThanOrEqual(
    musts * needWeights.must + shoulds * needWeights.should - shoulds,
  );
  const [first] = fields.filter(({ need }) => need === 'must');
  const refused = completenessOf(
    compiled,
    {
      ...full,
      issues: [{ check: 'missing', severity: 'blocker', field: first?.code ?? '', facts: {} } as never],
    },
    row,
  );
  expect([refused.total - refused.completed, refused.lacking]).toEqual([needWeights.must, [first?.code]]);
});

test('the feed and its categories are the sums of their listings, and filling a field everywhere raises it by what is said', () => {
  const open = listings.flatMap((listing, at) =>
    listing.state === 'leftOut' ? [] : [{ listing, row: demoCatalog.rows[at] ?? [] }],
  );
  const own = open.map(({ listing, row }) => completenessOf(compiled, listing, row));
  expect(complete.completed).toBe(own.reduce((sum, { completed }) => sum + completed, 0));
  expect(complete.total).toBe(own.reduce((sum, { total }) => sum + total, 0));
  const sums = [...complete.categories.values()].reduce(
    (sum, { completed, total }) => [sum[0] + completed, sum[1] + total] as [number, number],
    [0, 0] as [number, number],
  );
  expect(sums).toEqual([complete.completed, complete.total]);
  for (const { code, lacking, gain } of complete.fields) {
    expect(own.filter((one) => one.lacking.includes(code))).toHaveLength(lacking);
    expect(gain).toBeGreaterThan(0);
  }
  expect(complete.fields.reduce((sum, { gain }) => sum + gain, 0)).toBeCloseTo(1 - shareOf(complete), 9);
});

test('filling a value never makes a listing less complete', () => {
  fc.assert(
    fc.property(fc.nat({ max: listings.length - 1 }), fc.nat({ max: fields.length - 1 }), (item, at) => {
      const listing = listings[item] as Listing;
      const row = demoCatalog.rows[item] ?? [];
      // Fields on which no condition depends: filling one of those asks for more.
      const before = completenessOf(compiled, listing, row);
      const values = listing.values.map((value, n) => (n === at ? (value ?? 'x') : value));
      const after = completenessOf(compiled, { ...listing, values }, row);
      if (after.total === before.total) expect(after.completed).toBeGreaterThanOrEqual(before.completed);
    }),
    { numRuns: 500 },
  );
});
