/** The demo feed and catalog, for tests of the whole pipeline. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { codesIn, type Item, rowOf } from '../../src/core/catalog/item';
import { attributeIndex } from '../../src/core/catalog/value';
import { readCatalogCsv } from '../../src/core/formats/catalogCsv';
import { compile } from '../../src/core/listing/compile';
import { type Plan, planSchema } from '../../src/core/plans/plan';
import { bundled } from './sheets';

const file = (path: string) => readFileSync(join(process.cwd(), path), 'utf8');

export const demoItems: readonly Item[] = readCatalogCsv(file('demo/catalog/items.csv')).map((item) => ({
  ...item,
  values: item.family ? { ...item.values, family: item.family } : item.values,
}));
export const demoPlan: Plan = planSchema.parse(JSON.parse(file('demo/plans/lanternry-de.json')));
export const lanternry = bundled('lanternry');
export const demoIndex = attributeIndex([...codesIn(demoItems, []), 'family']);
export const demoRows = demoItems.map((item) => rowOf(item, undefined, demoIndex));
export const demoCatalog = { skus: demoItems.map(({ sku }) => sku), rows: demoRows };
export const compileDemo = (plan: Plan = demoPlan) =>
  compile(plan, lanternry.sheet, lanternry.tree, demoIndex);
