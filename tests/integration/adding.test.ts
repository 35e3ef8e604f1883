import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** How many files name an entry of a registry by its code: what one touches who adds another. `docs/adding.md` says the same. */
const folders = ['src', 'tests'];
const filesIn = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory())
      return ['channels', 'data', 'migrations'].includes(entry.name) &&
        folder !== 'src/core' &&
        folder !== 'src/server' &&
        folder !== 'src/ui'
        ? []
        : filesIn(path);
    return /\.tsx?$/.test(entry.name) && entry.name !== 'adding.test.ts' ? [path] : [];
  });
const texts = folders.flatMap(filesIn).map((path) => [path, readFileSync(path, 'utf8')] as const);
const naming = (pattern: RegExp, within = /./) =>
  texts.filter(([path, text]) => within.test(path) && pattern.test(text)).map(([path]) => path);

// Each by a pattern for its code as data (`'code'`, `code:`) or as the name of its module; words in prose do not count.
test.each<[kind: string, code: string, pattern: RegExp, within: RegExp, most: number]>([
  [
    'check',
    'capitals',
    /'capitals'|\bcapitals[,:]| capitals }/,
    /^src\/core\/checks|^src\/server|^src\/ui/,
    3,
  ],
  [
    'check',
    'customsCode',
    /'customsCode'|\bcustomsCode[,:]? |\bcustomsCode\b.*from/,
    /^src\/core\/checks|^src\/ui\/checks/,
    4,
  ],
  [
    'rule action',
    'clear',
    /do: '?clear|do: z\.literal\('clear'\)|\bclear: define/,
    /^src\/core\/rules|^src\/ui\/rules|^src\/server/,
    3,
  ],
  [
    'rule action',
    'before',
    /do: 'before'|literal\('before'\)/,
    /^src\/core\/rules|^src\/ui\/rules|^src\/server/,
    2,
  ],
  [
    'step',
    'stripMarkup',
    /stripMarkup: |literal\('stripMarkup'\)/,
    /^src\/core\/compose|^src\/ui|^src\/server/,
    2,
  ],
  [
    'format',
    'ndjson',
    /\bndjson[:,]|'ndjson'|\bndjson\b.*from|const ndjson/,
    /^src\/core\/(?:channels|formats)|^src\/files\/(?:formats|readBack|parsers)|^src\/server/,
    4,
  ],
  ['transport', 'paced', /\bpaced: |'paced'/, /^src\/core\/channels|^src\/server|^src\/ui/, 4],
  ['job', 'resumePlanning', /resumePlanning: |'resumePlanning'/, /^src\/|^tests\/integration/, 4],
  ['procedure', 'importEffects', /'importEffects'/, /^src\/|^tests\//, 2],
  [
    'attribute kind',
    'money',
    /^ {2}money: /m,
    /^src\/core\/(?:catalog|import\/mapping|channels\/suggestions)|^src\/ui\/(?:grid|items|attributes|kit)|^src\/server\/(?:items|catalog)/,
    3,
  ],
  ['item column', '#complete', /'#complete'/, /./, 3],
  [
    'page',
    'gtins',
    /key: 'gtins'|['"]\/gtins['"]|^ {2}gtins: /m,
    /^src\/(?:app|core|server|ui\/(?:frame|gtins))|^tests/,
    4,
  ],
  [
    'stage',
    'families',
    /key: 'families'|\bfamilies: \{\n\s+words/,
    /^src\/core\/plans|^src\/server\/(?:stages|pages|evaluation)/,
    4,
  ],
])('%s %s is named in few files', (_kind, _code, pattern, within, most) => {
  const found = naming(pattern, within);
  expect(found.length).toBeGreaterThan(0);
  expect([found.length <= most, found]).toEqual([true, found]);
});
