/**
 * 200 rules against 20 on the same fields, at 100,000 items, evaluation and all: what a merchant with many rules waits longer
 * than one with few. Conditions are of the kinds that merchants write: a brand, a category, a word in the name, a price, a branch.
 */
import { readFileSync } from 'node:fs';
import { asText } from '../src/core/catalog/value';
import { readChannel } from '../src/core/channels/bundle';
import { type Condition, conditionSchema } from '../src/core/conditions/conditions';
import { compile } from '../src/core/listing/compile';
import { evaluateAll } from '../src/core/listing/evaluate';
import { type Plan, planSchema } from '../src/core/plans/plan';
import { type Rule, ruleSchema } from '../src/core/rules/rule';
import { largeCatalog } from './catalog';

const count = process.argv.includes('--quick') ? 10_000 : 100_000;
const rounds = 3;
const catalog = largeCatalog(count);
const { sheet, tree } = readChannel(
  readFileSync('src/channels/lanternry/requirements.json', 'utf8'),
  readFileSync('src/channels/lanternry/taxonomy.csv', 'utf8'),
);
const plan = planSchema.parse(JSON.parse(readFileSync('demo/plans/lanternry-de.json', 'utf8')));

const valuesOf = (code: string): string[] => {
  const slot = catalog.index.slotOf(code) ?? -1;
  return [...new Set(catalog.rows.slice(0, 4000).map((row) => asText(row[slot])))].filter(
    (text) => text !== '',
  );
};
const [brands, categories, names] = [valuesOf('brand'), valuesOf('category'), valuesOf('name')];
const pick = (list: readonly string[], n: number) => list[n % list.length] ?? '';
const word = (n: number) => pick(pick(names, n * 7).split(' '), n);
const fields = ['headline', 'material', 'pattern', 'details'].filter((code) =>
  sheet.fields.some((field) => field.code === code),
);

function rule(n: number): Rule {
  const conditions: Condition[] = [
    {
      all: [
        { attribute: 'brand', is: 'equals', value: pick(brands, n) },
        { attribute: 'price', is: 'moreThan', value: String(n) },
      ],
    },
    { all: [{ attribute: 'category', is: 'oneOf', value: [pick(categories, n), pick(categories, n + 3)] }] },
    { all: [{ attribute: 'sku', is: 'startsWith', value: `QM-${n}` }] },
    {
      all: [
        { attribute: 'category', is: 'equals', value: pick(categories, n) },
        { attribute: 'name', is: 'contains', value: word(n) },
      ],
    },
    {
      any: [
        { attribute: 'sku', is: 'equals', value: `SKU-${n}` },
        { attribute: 'name', is: 'equals', value: pick(names, n) },
      ],
    },
  ];
  return ruleSchema.parse({
    id: `rule-${n}`,
    name: `Rule ${n}`,
    when: conditionSchema.parse(conditions[n % conditions.length]),
    then: [{ do: 'replace', field: pick(fields, n), find: word(n + 1), with: word(n + 2) }],
  });
}

const withRules = (rules: number): Plan => ({
  ...plan,
  rules: Array.from({ length: rules }, (_, n) => rule(n)),
});
const timed = (rules: number): number => {
  const compiled = compile(withRules(rules), sheet, tree, catalog.index);
  const begun = performance.now();
  evaluateAll(compiled, catalog);
  return performance.now() - begun;
};
const median = (times: number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0;

timed(20);
const [few, many, none]: [number[], number[], number[]] = [[], [], []];
for (let round = 0; round < rounds; round++) {
  none.push(timed(0));
  few.push(timed(20));
  many.push(timed(200));
}
const [a, b, c] = [median(none), median(few), median(many)];
console.log(`rules over ${count.toLocaleString('en')} items, median of ${rounds} rounds`);
console.log(`  none ${a.toFixed(0)} ms, 20 rules ${b.toFixed(0)} ms, 200 rules ${c.toFixed(0)} ms`);
console.log(`  200 to 20: ${(c / b).toFixed(2)} times, evaluation and all (wanted at most 3)`);
console.log(`  rules alone: ${((c - a) / Math.max(1, b - a)).toFixed(2)} times`);
