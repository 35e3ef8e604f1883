import { readFileSync } from 'node:fs';
import { searchTree, suggestCategories } from './src/core/categories/search';
import { readTree } from './src/core/categories/tree';
import { expanderWith } from './src/files/words';
import { labelledTrees, labelledResults } from './tests/support/placeLabels';
const e = expanderWith();
const lines = readFileSync('/tmp/nofit2b.tsv', 'utf8').trimEnd().split('\n').map((l) => l.split('\t'));
for (const withItems of [false, true]) {
  const hist: Record<string, number> = {}; let sure: string[] = []; let n = 0;
  for (const t of labelledTrees) {
    const tree = readTree(readFileSync(`src/channels/${t}/taxonomy.csv`, 'utf8'));
    const s = searchTree(tree, e);
    for (const [name, items] of lines) {
      const f = suggestCategories(s, tree, { name: name!, itemNames: withItems ? items!.split(';') : [] });
      const c = f[0]?.score ?? 0; n++;
      const k = c >= 95 ? '95+' : c >= 90 ? '90+' : c >= 70 ? '70+' : c > 0 ? '<70' : 'none';
      hist[k] = (hist[k] ?? 0) + 1;
      if (c >= 90) sure.push(`${c} ${name} → ${tree.byCode.get(f[0]!.code)?.names.en} (${t})`);
    }
  }
  console.log(withItems, n, hist, '\n' + sure.join('\n'));
}
for (const w of [false, true]) { const r = labelledResults('held', e, w); const s = r.filter((x) => x.confidence >= 95); console.log('held', w, r.length, 'sure', s.length, 'wrong', s.filter((x) => x.rank !== 0).length, 'first', r.filter(x=>x.rank===0).length / r.length); }
