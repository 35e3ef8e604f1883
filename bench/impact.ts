/**
 * What a person waits for after one edit at 100,000 items, or as many as are named (`npm run bench -- impact 200000`): the
 * draft evaluated, its coverage, and its impact against what is published, each over the whole catalog. The limit is doing all
 * of it in full.
 */
import { readFileSync } from 'node:fs';
import { readChannel } from '../src/core/channels/bundle';
import { fixedText, fromAttribute } from '../src/core/compose/composition';
import { compile } from '../src/core/listing/compile';
import { coverageIncrementally, coverageOf } from '../src/core/listing/coverage';
import { evaluateAll } from '../src/core/listing/evaluate';
import { countingBetween } from '../src/core/listing/impact';
import { evaluateIncrementally } from '../src/core/listing/incremental/incremental';
import { Listings } from '../src/core/listing/listings';
import { atOnce } from '../src/core/listing/steps';
import { applyEdit, type PlanEdit } from '../src/core/plans/edit';
import { type Plan, planSchema } from '../src/core/plans/plan';
import { largeCatalog } from './catalog';

const [count = process.argv.includes('--quick') ? 10_000 : 100_000] = process.argv
  .slice(2)
  .map(Number)
  .filter(Number.isFinite);
const rounds = 11;
const catalog = largeCatalog(count);
const { sheet, tree } = readChannel(
  readFileSync('src/channels/lanternry/requirements.json', 'utf8'),
  readFileSync('src/channels/lanternry/taxonomy.csv', 'utf8'),
);
const published = planSchema.parse(JSON.parse(readFileSync('demo/plans/lanternry-de.json', 'utf8')));
const compiled = (plan: Plan) => compile(plan, sheet, tree, catalog.index);

const edits: Record<string, PlanEdit> = {
  'a mapping (material)': { edit: 'fields', fields: { material: fromAttribute('color') } },
  'a mapping every listing shows (brand)': { edit: 'fields', fields: { brand: fixedText('Quillmoss') } },
  'a mapping that must be unique (barcode)': { edit: 'fields', fields: { barcode: fromAttribute('gtin') } },
  'a rule': {
    edit: 'addRule',
    rule: {
      id: 'rule-99',
      name: 'Clay pots',
      on: true,
      when: { all: [{ attribute: 'name', is: 'contains', value: 'pot' }] },
      then: [{ do: 'set', field: 'material', text: 'clay' }],
    },
  },
  'a rule on titles': {
    edit: 'addRule',
    rule: {
      id: 'rule-99',
      name: 'Loud ones',
      on: true,
      when: { all: [{ field: 'headline', is: 'contains', value: 'SALE' }] },
      then: [{ do: 'replace', field: 'headline', find: 'SALE', with: '' }],
    },
  },
  'a excluded category': {
    edit: 'place',
    placements: { 'Pots, glazed': { leaveOut: 'not here' } },
  },
  'a placement': { edit: 'place', placements: { 'Pots, glazed': { category: '3101' } } },
};

const median = (times: number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0;

const base = compiled(published);
const listings = new Listings(evaluateAll(base, catalog), sheet.fields);
const coverage = coverageOf(listings, sheet.fields);
console.log(`impact of one edit over ${count.toLocaleString('en')} items, median of ${rounds} rounds`);
for (const [name, edit] of Object.entries(edits)) {
  const plan = applyEdit(published, edit);
  const [again, full]: [number[], number[]] = [[], []];
  let share = 1;
  let changed = 0;
  for (let round = 0; round < rounds; round++) {
    let begun = performance.now();
    const result = evaluateIncrementally(base, listings, compiled(plan), catalog);
    const counted = result.touched
      ? coverageIncrementally(coverage, listings, result.listings, result.counted ?? sheet.fields.keys())
      : coverageOf(result.listings, sheet.fields);
    const { impact } = atOnce(
      countingBetween({ before: listings, after: result.listings, fields: result.touched?.fields }),
    );
    again.push(performance.now() - begun);
    share = (result.touched?.fields.size ?? sheet.fields.length) / sheet.fields.length;
    changed = impact.changed;
    // In full it takes so long that once is enough.
    if (round > 0) continue;
    begun = performance.now();
    const whole = new Listings(evaluateAll(compiled(plan), catalog), sheet.fields);
    const inFull = coverageOf(whole, sheet.fields);
    const { impact: other } = atOnce(countingBetween({ before: listings, after: whole }));
    full.push(performance.now() - begun);
    if (JSON.stringify([counted, impact]) !== JSON.stringify([inFull, other]))
      throw new Error(`${name}: what was computed again differs from what was computed in full.`);
  }
  const [short, long] = [median(again), median(full)];
  console.log(
    `  ${name}: ${Math.round(short)} ms (1,000 or less wanted), ${(share * 100).toFixed(0)} % of the fields recomputed, ${changed.toLocaleString('en')} listings change; in full ${Math.round(long)} ms   ratio ${(long / short).toFixed(1)}`,
  );
}
