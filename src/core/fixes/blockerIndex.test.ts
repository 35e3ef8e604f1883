import fc from 'fast-check';
import { compileDemo, demoCatalog, demoPlan, lanternry } from '../../../tests/support/demo';
import { type Issue, issueKey } from '../checks/issue';
import { fixedText } from '../compose/composition';
import { evaluateAll, type Listing } from '../listing/evaluate';
import { causesOf } from '../listing/figures';
import { evaluateIncrementally } from '../listing/incremental/incremental';
import { Listings } from '../listing/listings';
import { atOnce } from '../listing/steps';
import { applyEdit, type PlanEdit } from '../plans/edit';
import { type BlockerIndex, blockerIndexOf } from './blockerIndex';

const all = (list: readonly Listing[]) => new Listings(list, [...lanternry.sheet.fields, { code: 'sizes' }]);

const evaluated = (fields: Record<string, null>) =>
  evaluateAll(compileDemo(applyEdit(demoPlan, { edit: 'fields', fields })), demoCatalog);

/** What holds listings up, listing by listing: straight and slow. */
function slowly(listings: readonly Listing[]) {
  const positions = (key: string, blocks: boolean) =>
    listings.flatMap(({ issues }, at) =>
      issues.some((issue) => issueKey(issue) === key && (issue.severity === 'blocker') === blocks)
        ? [at]
        : [],
    );
  const keys = new Set(listings.flatMap(({ issues }) => issues.map(issueKey)));
  const together = new Map<string, number>();
  for (const { state, issues } of listings)
    if (state === 'blocked') together.set(causesOf(issues), (together.get(causesOf(issues)) ?? 0) + 1);
  return {
    causes: [...keys].sort().map((key) => [key, positions(key, true), positions(key, false)]),
    together: [...together].sort(),
  };
}

const shown = ({ causes, together }: BlockerIndex) => ({
  causes: [...causes]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([key, { blocked, told }]) => [key, blocked, told]),
  together: [...together].sort(),
});

test('what holds up the demo is gathered as it is listing by listing', () => {
  const listings = evaluated({ price: null, barcode: null });
  // Some that say the same in another order.
  const turned = listings.map((one, at) => (at % 3 ? one : { ...one, issues: [...one.issues].reverse() }));
  const found = slowly(turned);
  expect(found.together.length).toBeGreaterThan(3);
  expect(shown(atOnce(blockerIndexOf(all(turned))))).toEqual(found);
});

test('after any changes it is as from nothing, with what has gone and what has come', () => {
  const versions = [evaluated({}), evaluated({ price: null }), evaluated({ barcode: null, about: null })];
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          of: fc.array(fc.nat({ max: 2 }), { minLength: 1, maxLength: 9 }),
          count: fc.nat({ max: demoCatalog.rows.length }),
        }),
        { minLength: 1, maxLength: 5 },
      ),
      (states) => {
        let known: { holding: BlockerIndex; of: Listings } | undefined;
        for (const { of, count } of states) {
          const listings = Array.from(
            { length: count },
            (_, at) => versions[of[at % of.length] as number]?.[at] as Listing,
          );
          const current = all(listings);
          const holding = atOnce(blockerIndexOf(current, known));
          expect(holding.causes).toEqual(atOnce(blockerIndexOf(all(listings))).causes);
          expect(shown(holding)).toEqual(slowly(listings));
          known = { holding, of: current };
        }
      },
    ),
    { numRuns: 40 },
  );
});

test('gathered on from draft to draft, each one edit after the other: as listing by listing', () => {
  const edits: readonly PlanEdit[] = [
    { edit: 'fields', fields: { price: null } },
    { edit: 'fields', fields: { brand: fixedText('Tarnholt') } },
    { edit: 'fields', fields: { barcode: null, about: fixedText('x') } },
    { edit: 'place', placements: { 'Pots, glazed': { leaveOut: 'not here' } } },
    { edit: 'place', placements: { 'Pots, glazed': { category: '3101' }, Books: null } },
    { edit: 'fields', fields: { price: demoPlan.fields.price ?? null } },
  ];
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...edits), { minLength: 2, maxLength: 6 }), (sequence) => {
      let plan = demoPlan;
      let compiled = compileDemo(plan);
      let listings = all(evaluateAll(compiled, demoCatalog));
      let known = { holding: atOnce(blockerIndexOf(listings)), of: listings };
      for (const edit of sequence) {
        plan = applyEdit(plan, edit);
        const next = compileDemo(plan);
        ({ listings } = evaluateIncrementally(compiled, listings, next, demoCatalog));
        compiled = next;
        known = { holding: atOnce(blockerIndexOf(listings, known)), of: listings };
        expect(shown(known.holding)).toEqual(slowly([...listings]));
      }
    }),
    { numRuns: 15 },
  );
});

test('how serious a cause is follows the last listing that it does not block', () => {
  const issue = (severity: Issue['severity']): Issue => ({
    check: 'entryTwice',
    severity,
    field: 'sizes',
    facts: { found: 'x' },
  });
  const listing = (...issues: Issue[]): Listing => ({
    sku: 'A',
    state: issues.some(({ severity }) => severity === 'blocker') ? 'blocked' : 'ready',
    reason: undefined,
    values: [],
    issues,
  });
  const severity = (holding: BlockerIndex) => holding.causes.get('entryTwice:sizes')?.severity;
  const before = [listing(issue('tip')), listing(issue('risk')), listing(issue('blocker'))];
  const known = all(before);
  const holding = atOnce(blockerIndexOf(known));
  expect(severity(holding)).toBe('risk');
  const after = [...before.slice(0, 1), listing(), listing(issue('blocker'))];
  expect(severity(atOnce(blockerIndexOf(all(after), { holding, of: known })))).toBe('tip');
});
