import fc from 'fast-check';
import { compileDemo, demoCatalog, demoPlan } from '../../../tests/support/demo';
import { evaluateAll } from '../listing/evaluate';
import { causesOf } from '../listing/figures';
import { applyEdit } from '../plans/edit';
import { fixPlan, mostFreed } from './fixPlan';

type Causes = (readonly [string, number])[];
const freedBy = (causes: Causes, cleared: ReadonlySet<string>): number =>
  causes.reduce(
    (sum, [together, listings]) =>
      sum + (together.split('\n').every((cause) => cleared.has(cause)) ? listings : 0),
    0,
  );

/** The most that clearing so many causes can free, by trying every choice of them. */
function optimum(causes: Causes, most: number): number {
  const names = [...new Set(causes.flatMap(([together]) => together.split('\n')))];
  let best = 0;
  for (let mask = 0; mask < 1 << names.length; mask++) {
    const chosen = names.filter((_, at) => mask & (1 << at));
    if (chosen.length <= most) best = Math.max(best, freedBy(causes, new Set(chosen)));
  }
  return best;
}

const small = fc
  .uniqueArray(
    fc.tuple(
      fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g'), { minLength: 1, maxLength: 4 }),
      fc.integer({ min: 1, max: 40 }),
    ),
    { minLength: 1, maxLength: 12, selector: ([own]) => [...own].sort().join() },
  )
  .map((list): Causes => list.map(([own, listings]) => [[...own].sort().join('\n'), listings]));

test('on small random cases no choice beats the bound, the first set is the best for its cost, and the curve is a recount', () => {
  fc.assert(
    fc.property(small, (causes) => {
      const { sets, blocked } = fixPlan({ causes });
      const cleared = new Set<string>();
      for (const set of sets) {
        for (const cause of set.causes) cleared.add(cause);
        expect(set.freed).toBe(freedBy(causes, cleared));
        expect(set.cleared).toBe(cleared.size);
        const best = optimum(causes, set.cleared);
        expect(best).toBeLessThanOrEqual(mostFreed({ causes }, set.cleared) + 1e-9);
        expect(set.freed).toBeLessThanOrEqual(best);
      }
      expect(sets.at(-1)?.freed).toBe(blocked);
      // Nothing frees more for a change than the first set does, sets of any size considered.
      const [first] = sets;
      const names = [...new Set(causes.flatMap(([together]) => together.split('\n')))];
      for (let most = 1; most <= names.length && first; most++) {
        // A set that a listing needs is always among those that are tried; unions of them are not.
        const single = Math.max(
          ...causes.map(([together]) => {
            const own = together.split('\n');
            return own.length === most ? freedBy(causes, new Set(own)) / own.length : 0;
          }),
        );
        expect(first.frees / first.causes.length).toBeGreaterThanOrEqual(single - 1e-9);
      }
    }),
    { numRuns: Number(process.env.LIVELY_CASES ?? 400) },
  );
});

test('three blockers count only together, and what is dear comes later', () => {
  const causes: Causes = [
    ['a\nb\nc', 90],
    ['d', 20],
    ['a', 1],
  ];
  expect(fixPlan({ causes }).sets.map(({ causes: own, frees }) => [own, frees])).toEqual([
    [['a', 'b', 'c'], 91],
    [['d'], 20],
  ]);
  expect(fixPlan({ causes }, (cause) => (cause === 'b' ? 50 : 1)).sets[0]?.causes).toEqual(['d']);
  expect(fixPlan({ causes: [] })).toEqual({ sets: [], blocked: 0 });
});

test('on the demo each set, its checks not made, frees exactly what it says', () => {
  const counted = new Map<string, number>();
  const blockedWith = (plan: typeof demoPlan) =>
    evaluateAll(compileDemo(plan), demoCatalog).filter(({ state }) => state === 'blocked');
  const start = blockedWith(demoPlan);
  for (const { issues } of start) counted.set(causesOf(issues), (counted.get(causesOf(issues)) ?? 0) + 1);
  const { sets, blocked } = fixPlan({ causes: [...counted] });
  expect(blocked).toBe(start.length);
  expect(sets.length).toBeGreaterThan(3);
  let plan = demoPlan;
  let freed = 0;
  for (const set of sets) {
    // That a number stands on one listing only is not judged.
    if (set.causes.some((cause) => cause.startsWith('duplicate'))) break;
    const severity = Object.fromEntries(set.causes.map((cause) => [cause, 'off' as const]));
    plan = applyEdit(plan, { edit: 'checks', severity });
    freed += set.frees;
    expect(start.length - blockedWith(plan).length).toBe(freed);
  }
  expect(freed).toBeGreaterThan(50);
});

test('of more combinations than are tried each frees what it says, over all of them; no more sets than are wanted', () => {
  const causes = Array.from(
    { length: 900 },
    (_, at) => [[`a${at % 30}`, `b${Math.floor(at / 30)}`].sort().join('\n'), 1 + (at % 7)] as const,
  );
  const { sets, blocked } = fixPlan({ causes }, undefined, 12);
  expect(sets).toHaveLength(12);
  expect(blocked).toBe(causes.reduce((sum, [, listings]) => sum + listings, 0));
  const cleared = new Set<string>();
  for (const set of sets) {
    for (const cause of set.causes) cleared.add(cause);
    expect(set.freed).toBe(freedBy([...causes], cleared));
  }
});
