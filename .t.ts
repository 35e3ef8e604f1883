import { recordsOf, outlineOf } from './src/core/import/tables/records';
import { readFileSync } from 'node:fs';
const t = JSON.parse(readFileSync('/tmp/setC/files/fi-saunatuotteet.json', 'utf8'), (k, v) => typeof v === 'number' ? String(v) : v);
for (const r of t.osastot) console.log(JSON.stringify(recordsOf(r, 'tuotteet', 'osastot-1')));
