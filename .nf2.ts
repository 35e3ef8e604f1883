import { readFileSync } from 'node:fs';
import { searchTree, suggestCategories } from './src/core/categories/search';
import { readTree } from './src/core/categories/tree';
import { expanderWith } from './src/files/words';
import { labelledTrees, placeLabels } from './tests/support/placeLabels';
const e = expanderWith();
const lines = readFileSync('/tmp/nofit.tsv', 'utf8').trimEnd().split('\n').map((l) => l.split('\t'));
const hist = (xs: number[]) => [0, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80].map((t) => `${t}:${xs.filter((x) => x >= t).length}`).join(' ');
const no: number[] = []; const right: number[] = []; const wrong: number[] = [];
for (const t of labelledTrees) {
  const tree = readTree(readFileSync(`src/channels/${t}/taxonomy.csv`, 'utf8'));
  const s = searchTree(tree, e);
  for (const [name, items] of lines) { const f = suggestCategories(s, tree, { name: name!, itemNames: items!.split(';') }); if ((f[0]?.score ?? 0) >= 95) { no.push((globalThis as any).dbg.alone); console.log(name, f[0]!.score, (globalThis as any).dbg); } }
  for (const l of placeLabels('tuning', t, tree)) { if (!l.items.length) continue; const f = suggestCategories(s, tree, { name: l.name, itemNames: l.items }); if ((f[0]?.score ?? 0) >= 95) (l.right.includes(f[0]!.code) ? right : wrong).push((globalThis as any).dbg.alone); }
}
console.log('nofit', hist(no)); console.log('right', hist(right)); console.log('wrong', hist(wrong));
