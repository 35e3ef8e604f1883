import fc from 'fast-check';
import type { Issue } from '../checks/issue';
import type { Listing } from './evaluate';
import { Listings, ListingsEdit } from './listings';
import { atOnce } from './steps';

const fields = [{ code: 'name' }, { code: 'colour' }, { code: 'barcode' }];

const issue = (field: string, severity: Issue['severity'], found: string): Issue => ({
  check: 'entryTwice',
  severity,
  field,
  facts: { found },
});
const shared = (severity: Issue['severity'], count: number): Issue => ({
  check: 'duplicate',
  severity,
  field: 'barcode',
  facts: { found: 'x', others: [], count },
});
const stateOf = (issues: readonly Issue[]) =>
  issues.some(({ severity }) => severity === 'blocker') ? 'blocked' : 'ready';
const listing = (
  sku: string,
  values: Listing['values'],
  issues: readonly Issue[],
  reason?: string,
): Listing => ({
  sku,
  state: reason === undefined ? stateOf(issues) : 'leftOut',
  reason,
  values,
  issues,
});

const severity = fc.constantFrom<Issue['severity']>('blocker', 'risk', 'tip');
const word = fc.constantFrom(undefined, 'a', 'b', ['a', 'b']);
const saidOf = (at: number) =>
  fc
    .array(fc.tuple(severity, fc.constantFrom('p', 'q')), { maxLength: 2 })
    .map((list) => list.map(([severity, found]) => issue(fields[at]?.code ?? '', severity, found)));
const sharing = fc
  .array(fc.tuple(severity, fc.nat(2)), { maxLength: 1 })
  .map((list) => list.map((one) => shared(...one)));
const complete = fc
  .tuple(word, word, word, saidOf(0), saidOf(1), saidOf(2), sharing, fc.boolean())
  .map(([name, colour, barcode, first, second, third, of, out]) =>
    out
      ? listing('', [name, colour, barcode], [], 'not here')
      : listing('', [name, colour, barcode], [...first, ...second, ...third, ...of]),
  );
/** What is done to one listing in an edit of the second field. */
const change = fc.oneof(
  fc.record({ at: fc.nat(11), put: fc.tuple(word, saidOf(1)) }),
  fc.record({ at: fc.nat(11), share: sharing }),
  fc.record({ at: fc.nat(11), replace: complete }),
);

/** The same done to a listing as a thing by itself. */
function changed(
  before: Listing,
  one: { put?: [Listing['values'][number], Issue[]]; share?: Issue[] },
): Listing {
  const [name, , barcode] = before.values;
  const own = before.issues.filter(({ check }) => check !== 'duplicate');
  const of = before.issues.filter(({ check }) => check === 'duplicate');
  if (one.share) return listing(before.sku, before.values, [...own, ...one.share], before.reason);
  const [value, said] = one.put ?? [undefined, []];
  const about = (field: string) => own.filter((issue) => issue.field === field);
  const issues = [...about('name'), ...said, ...about('barcode'), ...of];
  return listing(
    before.sku,
    [name, value, barcode],
    before.reason === undefined ? issues : [],
    before.reason,
  );
}

test('whatever is put, said, shared and replaced in edits upon edits, each stands as it was made', () => {
  fc.assert(
    fc.property(
      fc.array(complete, { minLength: 3, maxLength: 8 }),
      fc.array(
        fc.record({
          from: fc.nat(9),
          changes: fc.array(change, { maxLength: 6 }),
          more: fc.array(complete, { maxLength: 2 }),
          less: fc.nat(2),
          asked: fc.nat(2),
          settle: fc.boolean(),
        }),
        {
          maxLength: 6,
        },
      ),
      (first, edits) => {
        const start = first.map((one, i) => ({ ...one, sku: `S${i}` }));
        const versions = [{ listings: new Listings(start, fields), model: start as Listing[] }];
        for (const { from, changes, more, less, asked, settle } of edits) {
          const base = versions[from % versions.length] as (typeof versions)[number];
          const model = base.model.slice(0, Math.max(1, base.model.length - less));
          // Some have a column by now, and some have been parted.
          base.listings.column(asked);
          if (asked > 0) base.listings.parted();
          const edit = new ListingsEdit(base.listings, [1], model.length + more.length);
          for (const one of more) {
            const added = { ...one, sku: `S${model.length}` };
            edit.replace(model.length, added);
            model.push(added);
          }
          for (const one of changes) {
            const i = one.at % model.length;
            const before = model[i] as Listing;
            if ('replace' in one) {
              model[i] = { ...one.replace, sku: before.sku };
              edit.replace(i, model[i]);
            } else if (before.state === 'leftOut' && 'share' in one) continue;
            else {
              model[i] = changed(before, one as Parameters<typeof changed>[1]);
              if ('share' in one) edit.share(i, 2, edit.lists.numberOf(one.share));
              else {
                edit.put(i, model[i].values);
                if (before.state !== 'leftOut') edit.say(i, 1, edit.lists.numberOf(one.put[1]));
              }
            }
          }
          if (settle) atOnce(edit.settling());
          versions.push({ listings: edit, model });
        }
        for (const { listings, model } of versions) {
          expect([...listings]).toEqual(model);
          expect(fields.map((_field, at) => listings.column(at))).toEqual(
            fields.map((_field, at) => model.map(({ values }) => values[at])),
          );
          expect(listings.positions((i) => listings.stateAt(i) === 'blocked')).toEqual(
            model.flatMap(({ state }, i) => (state === 'blocked' ? [i] : [])),
          );
          const { lists } = listings;
          const stated = (i: number) =>
            listings.told.flatMap((slot) => lists.list(listings.saidIn(slot)?.[i] ?? 0));
          for (const [i, { issues }] of model.entries()) expect(new Set(stated(i))).toEqual(new Set(issues));
        }
        // What is told to be the same is.
        for (const { listings, model } of versions)
          for (const other of versions)
            for (let i = 0; i < Math.min(model.length, other.model.length); i++)
              if (listings.same(other.listings, i)) expect(model[i]).toEqual(other.model[i]);
      },
    ),
    { numRuns: 300 },
  );
});

test('what edits said that nobody has any more is let go of', () => {
  const start = ['A', 'B'].map((sku) => listing(sku, ['x', 'y', 'z'], [issue('name', 'tip', 'always')]));
  let listings = new Listings(start, fields);
  listings.parted();
  for (let n = 0; n < 10_500; n++) {
    const edit = new ListingsEdit(listings, [1]);
    edit.put(1, ['x', `y${n}`, 'z']);
    edit.say(1, 1, edit.lists.numberOf([issue('colour', 'blocker', String(n))]));
    listings = edit;
  }
  expect(listings.lists.size).toBeLessThan(1000);
  expect(listings.at(0)).toEqual(start[0]);
  expect(listings.at(1)).toMatchObject({ state: 'blocked', values: ['x', 'y10499', 'z'] });
  expect(listings.issuesAt(1).map(({ facts }) => facts)).toEqual([{ found: 'always' }, { found: '10499' }]);
});
