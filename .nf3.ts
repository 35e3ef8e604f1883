import { readFileSync } from 'node:fs';
import { searchTree, suggestCategories } from './src/core/categories/search';
import { readTree } from './src/core/categories/tree';
import { expanderWith } from './src/files/words';
import { labelledTrees, placeLabels } from './tests/support/placeLabels';
const e = expanderWith();
const lines = readFileSync('/tmp/nofit.tsv', 'utf8').trimEnd().split('\n').map((l) => l.split('\t'));
for (const withItems of [false, true]) {
  const bins: Record<string, [number, number, number, number]> = {};
  const put = (alone: number, k: 0 | 1 | 2, conf: number) => { const b = String(Math.floor(alone / 10) * 10).padStart(3); bins[b] ??= [0, 0, 0, 0]; bins[b][k]++; if (conf >= 80) bins[b][3]++; };
  for (const t of labelledTrees) {
    const tree = readTree(readFileSync(`src/channels/${t}/taxonomy.csv`, 'utf8'));
    const s = searchTree(tree, e);
    for (const [name, items] of lines) { const f = suggestCategories(s, tree, { name: name!, itemNames: withItems ? items!.split(';') : [] }); put((globalThis as any).dbg.alone ?? 0, 2, f[0]?.score ?? 0); }
    for (const l of placeLabels('tuning', t, tree)) { const f = suggestCategories(s, tree, { name: l.name, itemNames: withItems ? l.items : [] }); put((globalThis as any).dbg.alone ?? 0, l.right.includes(f[0]?.code ?? '') ? 0 : 1, f[0]?.score ?? 0); }
  }
  console.log(withItems, 'alone: right wrong nofit conf80+'); for (const k of Object.keys(bins).sort()) console.log(k, bins[k]!.join(' '));
}
