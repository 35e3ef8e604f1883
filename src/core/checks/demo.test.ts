import { readFileSync } from 'node:fs';
import { compileDemo, demoCatalog, demoPlan } from '../../../tests/support/demo';
import { fromAttribute } from '../compose/composition';
import { evaluateAll } from '../listing/evaluate';
import { applyEdit, type PlanEdit } from '../plans/edit';

/** What the demo's plan leaves open: words, fields and places that are the merchant's to map, and are no mistakes of items. */
const open: readonly PlanEdit[] = [
  { edit: 'words', field: 'colour', table: 'colours', words: { moss: 'green', ash: 'grey' } },
  {
    edit: 'fields',
    fields: {
      energy_class: fromAttribute('energyClass'),
      age_group: fromAttribute('ageGroup', [{ step: 'lookUp', table: 'ages', otherwise: 'keep' }]),
    },
  },
  { edit: 'table', name: 'ages', table: { adults: 'adult' } },
  {
    edit: 'place',
    placements: {
      'Moisture meters': { category: '7302' },
      'Seed kits': { category: '7302' },
      Printables: { category: '7302' },
    },
  },
];
const mistakes = readFileSync('demo/mistakes.csv', 'utf8')
  .trim()
  .split('\n')
  .slice(1)
  .map((line) => line.split(','))
  .map(([sku = '', , check = '']) => `${sku} ${check}`);

test('each mistake of the demo is found by the check it is labelled with, and nothing else blocks', () => {
  const listings = evaluateAll(compileDemo(open.reduce(applyEdit, demoPlan)), demoCatalog);
  const blockers = listings.flatMap(({ sku, issues }) =>
    issues
      .filter(({ severity }) => severity === 'blocker')
      .map(({ check, field }) => `${sku} ${check}:${field}`),
  );
  // Three items were never given a category; without it they have no place.
  const unplaced = demoCatalog.skus.filter(
    (_, at) => demoCatalog.rows[at]?.[compileDemo().index.slotOf('category') ?? -1] === undefined,
  );
  expect(unplaced).toHaveLength(3);
  expect(blockers.sort()).toEqual([...mistakes, ...unplaced.map((sku) => `${sku} missing:place`)].sort());
});
