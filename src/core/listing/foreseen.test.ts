import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { demoItems } from '../../../tests/support/demo';
import { type EditWorld, planEdits } from '../../../tests/support/planEdits';
import { bundled } from '../../../tests/support/sheets';
import { codesIn, rowOf } from '../catalog/item';
import { asText, attributeIndex, type Row, type Value } from '../catalog/value';
import { type Sheet, sheetSchema } from '../channels/sheet';
import { readKeywords } from '../keywords/keyword';
import { entryOfEach, shaped, sheetAsShown } from '../ledger/families';
import { applyEdit, type PlanEdit } from '../plans/edit';
import { type Plan, planSchema } from '../plans/plan';
import { compile } from './compile';
import type { CompiledPlan } from './compiling/compiledPlan';
import { coverageIncrementally, coverageOf } from './coverage';
import { type CatalogRows, evaluateAll } from './evaluate';
import { countingBetween, differences, type Pair, withEntries } from './impact';
import { evaluateIncrementally } from './incremental/incremental';
import { touchedBy } from './incremental/touched';
import { Listings } from './listings';
import { atOnce } from './steps';

/**
 * Every edit of a plan shows its true impact: what the evaluation after an edit, the impact and the differences foresee equals
 * what the plan gives when it is published, listing by listing and entry by entry of the file. `LIVELY_EDITS` sets how many.
 */
const editCount = Number(process.env.LIVELY_EDITS ?? 2000);
const editsPerChain = 5;

const german = planSchema.parse(JSON.parse(readFileSync('demo/plans/lanternry-de.json', 'utf8')));
const orrin = bundled('orrin-bazaar');
const lanternry = bundled('lanternry');
const joins = {
  byNumber: '/entries?number={number}',
  entry: 'number',
  says: { name: 'name' },
  field: 'author',
  asked: ['price', 'stock', 'condition', 'material'],
};
const world = (sheet: Sheet, tree: EditWorld['tree'], plan: Plan) => ({ sheet, tree, plan });
const worlds = {
  lanternry: world(lanternry.sheet, lanternry.tree, german),
  'with entries to join': world(
    sheetSchema.parse({ ...lanternry.sheet, delivery: { ...lanternry.sheet.delivery, joins } }),
    lanternry.tree,
    german,
  ),
  'orrin-bazaar': world(orrin.sheet, orrin.tree, {
    ...german,
    channel: 'orrin-bazaar',
    fields: {},
    placements: {},
    rules: [],
  }),
};

/** A sample of the demo's items, with values that item checks find fault with. */
const strange: Readonly<Record<string, string>> = {
  countryOfOrigin: 'Atlantis',
  customsCode: '77',
  plug: 'type 9',
  dangerousGoods: 'yes',
  weight: '900 kg',
  packageWeight: '1 g',
  gtin: '123',
  name: '',
};
const items = demoItems
  .filter((_item, at) => at % 5 === 0)
  .map((item, at) => {
    const odd = Object.entries(strange)[at % (2 * Object.keys(strange).length)];
    return odd ? { ...item, values: { ...item.values, [odd[0]]: odd[1] } } : item;
  });
const index = attributeIndex([...new Set([...codesIn(items, []), 'family', ...Object.keys(strange)])]);
const rows: readonly Row[] = items.map((item) => rowOf(item, undefined, index));
const catalog: CatalogRows = { skus: items.map(({ sku }) => sku), rows };
const valuesOf = (code: string) => [
  ...new Set(rows.map((row) => asText(row[index.slotOf(code) ?? -1])).filter((text) => text !== '')),
];
const keywords = new Map([['de', readKeywords(readFileSync('demo/keywords.csv', 'utf8'), 'de').keywords]]);

type Values = readonly (Value | undefined)[];

/** The file as it would leave: each entry with its values, and by listing the entry it is in. */
function fileOf(compiled: CompiledPlan, listings: Listings) {
  const sheet = sheetAsShown(compiled.sheet, compiled.plan.families);
  const ready = listings.whole((state) => state === 'ready');
  const entries = new Map<string, Values>();
  for (const { sku, values } of shaped(sheet, ready, new Set(listings.skus()))) entries.set(sku, values);
  return { entries, entryOf: entryOfEach(sheet, ready) };
}

describe.each(Object.entries(worlds))('%s', (_name, { sheet, tree, plan: start }) => {
  const compiledOf = (plan: Plan) => compile(plan, sheet, tree, index, { keywords, day: '2026-12-01' });
  const evaluated = (compiled: CompiledPlan) => new Listings(evaluateAll(compiled, catalog), sheet.fields);
  const edits = planEdits(
    {
      sheet,
      tree,
      attributes: index.codes.filter((code) => !code.startsWith('#')),
      categories: valuesOf('category'),
      families: valuesOf('family'),
      skus: catalog.skus,
      words: ['moss', 'pot', 'chalk', 'M', 'Quillmoss', 'stoneware'],
    },
    start,
  );
  const kinds = Object.entries(edits).map(([kind, arbitrary]) => ({
    // What most drafts are made of, and where most of the ways meet.
    weight: ['fields', 'perCategory', 'families'].includes(kind) ? 3 : 1,
    arbitrary,
  }));
  const published = compiledOf(start);
  const base = evaluated(published);

  test('what is foreseen is what is published', () => {
    const chain = fc.array(fc.oneof(...(kinds as [(typeof kinds)[number]])), {
      minLength: editsPerChain,
      maxLength: editsPerChain,
      size: 'max',
    });
    const nothing: Pair = { before: base, after: base, fields: [] };
    const run = (sequence: readonly PlanEdit[]) => {
      let plan = start;
      let before = { compiled: published, listings: base };
      let known = { between: atOnce(countingBetween(nothing)), of: nothing };
      for (const edit of sequence) {
        plan = applyEdit(plan, edit);
        const compiled = compiledOf(plan);
        const again = evaluateIncrementally(before.compiled, before.listings, compiled, catalog);
        const { listings } = again;
        const complete = evaluated(compiled);
        expect([...listings]).toEqual([...complete]);
        expect(
          coverageIncrementally(
            coverageOf(before.listings, sheet.fields),
            before.listings,
            listings,
            again.counted ?? sheet.fields.keys(),
          ),
        ).toEqual(coverageOf(complete, sheet.fields));

        const pair = { before: base, after: listings, fields: touchedBy(published, compiled)?.fields };
        const between = atOnce(countingBetween(pair, known));
        expect(between).toEqual(atOnce(countingBetween({ before: base, after: complete })));
        const found = differences(base, listings);
        expect(found.length).toBe(between.impact.changed);

        const [then, now] = [fileOf(published, base), fileOf(compiled, complete)];
        const shown = withEntries(
          found,
          { sheet, families: start.families, listings: base },
          { sheet, families: plan.families, listings },
        );
        if (shown.entries)
          expect(shown.entries).toEqual({ before: then.entries.size, after: now.entries.size });
        // What differs in the file stands among the differences: an entry's own listing, or one of its family.
        const reported = new Set(shown.found.map(({ sku }) => sku));
        for (const [sku, values] of now.entries) {
          if (JSON.stringify(then.entries.get(sku)) === JSON.stringify(values)) continue;
          const within = [...now.entryOf].filter(([, entry]) => entry === sku || entry === `family ${sku}`);
          const members = within.length > 0 ? within.map(([one]) => one) : catalog.skus;
          expect(members.some((one) => reported.has(one))).toBe(true);
        }
        for (const sku of then.entries.keys())
          if (!now.entries.has(sku) && then.entryOf.has(sku))
            expect([sku, reported.has(sku)]).toEqual([sku, true]);

        known = { between, of: pair };
        before = { compiled, listings };
      }
    };
    fc.assert(fc.property(chain, run), {
      numRuns: Math.ceil(editCount / editsPerChain / Object.keys(worlds).length),
    });
  });
});
