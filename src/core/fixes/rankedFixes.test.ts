import { compileDemo, demoCatalog, demoPlan, lanternry } from '../../../tests/support/demo';
import type { Issue } from '../checks/issue';
import { evaluateAll, type Listing } from '../listing/evaluate';
import { Listings } from '../listing/listings';
import { atOnce } from '../listing/steps';
import { applyEdit } from '../plans/edit';
import { blockerIndexOf } from './blockerIndex';
import { rankedFixes } from './rankedFixes';

const fields = [...lanternry.sheet.fields, { code: 'sizes' }, { code: 'colours' }];
const fixes = (listings: readonly Listing[]) =>
  rankedFixes(
    new Listings(listings, fields),
    atOnce(blockerIndexOf(new Listings(listings, fields))),
    (field) => field,
    () => 'fields',
  );

const broken = applyEdit(demoPlan, { edit: 'fields', fields: { price: null, barcode: null } });

test.each([
  ['the demo', demoPlan],
  ['a plan that lacks much', broken],
])('%s: each cause once, with all that have it and those that have no other', (_name, plan) => {
  const listings = evaluateAll(compileDemo(plan), demoCatalog);
  const causesOf = ({ issues }: Listing) =>
    new Set(
      issues.filter(({ severity }) => severity === 'blocker').map(({ check, field }) => `${check}:${field}`),
    );
  const all = new Set(listings.flatMap((one) => [...causesOf(one)]));
  const found = fixes(listings);
  expect(found.map(({ key }) => key).sort()).toEqual([...all].sort());
  expect(all.size).toBeGreaterThan(3);
  for (const { key, count, frees } of found) {
    const mine = listings.filter((one) => causesOf(one).has(key));
    expect(count).toBe(mine.length);
    expect(frees).toBe(mine.filter((one) => causesOf(one).size === 1).length);
  }
  // What frees most comes first.
  expect(found.map(({ frees }) => frees)).toEqual(found.map(({ frees }) => frees).sort((a, b) => b - a));
});

test('what one check says twice of a field is one cause, and what is no blocker is none', () => {
  const issue = (severity: Issue['severity'], field: string): Issue => ({
    check: 'entryTwice',
    severity,
    field,
    facts: { found: 'x' },
  });
  const listing = (sku: string, ...issues: Issue[]): Listing => ({
    sku,
    state: issues.some(({ severity }) => severity === 'blocker') ? 'blocked' : 'ready',
    reason: undefined,
    values: [],
    issues,
  });
  const found = fixes([
    listing('A', issue('blocker', 'sizes'), issue('blocker', 'sizes')),
    listing('B', issue('tip', 'sizes')),
    listing('C', issue('blocker', 'colours'), issue('risk', 'sizes')),
  ]);
  expect(found.map(({ key, count, frees }) => [key, count, frees])).toEqual([
    ['entryTwice:colours', 1, 1],
    ['entryTwice:sizes', 1, 1],
  ]);
});
