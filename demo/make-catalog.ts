/** Writes demo/catalog/items.csv, and the six source files it comes from, from demo/world.ts. Run with `npm run demo:catalog` after a change there. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { stringify } from 'csv-stringify/sync';
import { writeSources } from './make-sources';
import { demoItems } from './world';

const items = demoItems();
const columns = [...new Set(items.flatMap((item) => Object.keys(item)))];
mkdirSync('demo/catalog', { recursive: true });
writeFileSync('demo/catalog/items.csv', stringify(items, { header: true, columns }));
console.log(`${items.length} items in ${new Set(items.map((item) => item.family)).size} families`);
console.log(await writeSources(items));
