import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { temporaryFolder } from '../support/stack';

const cart = (words: string[], input = '') =>
  spawnSync(process.execPath, ['dist/cart.js', ...words], {
    encoding: 'utf8',
    input,
    env: { ...process.env, INIT_CWD: process.cwd() },
  });
const plan = 'demo/plans/lanternry-de.json';

test('identifiers: one code a line in, CSV out', () => {
  const { stdout, status } = cart(
    ['identifiers'],
    '6291041500213\n0-306-40615-2\n\n12\n"quoted, code"\n9520000030149\n',
  );
  expect(status).toBe(0);
  expect(stdout.trimEnd().split('\n')).toEqual([
    'input,kind,normal,verdict',
    '6291041500213,GTIN-13,06291041500213,valid',
    '0-306-40615-2,ISBN-10,09780306406157,valid',
    ',unknown,,empty',
    '12,unknown,,length',
    '"""quoted, code""",unknown,,characters',
    '9520000030149,GTIN-13,,checkdigit',
  ]);
});

test('evaluate: 0 when all can be sent, with lineage on request', () => {
  const out = temporaryFolder();
  const catalog = join(out, 'good.csv');
  const [heading, ...rows] = readFileSync('demo/catalog/items.csv', 'utf8').split('\n');
  writeFileSync(
    catalog,
    `${heading}\n${rows.filter((row) => row.startsWith('QM-POT-RDG-CHA')).join('\n')}\n`,
  );
  const done = cart(['evaluate', '--plan', plan, '--catalog', catalog, '--out', out, '--lineage']);
  expect([done.status, done.stderr]).toEqual([0, '']);
  const [first] = readFileSync(join(out, 'listings.ndjson'), 'utf8')
    .split('\n')
    .map((line) => JSON.parse(line || '{}'));
  expect(first.lineage.price.map(({ kind }: { kind: string }) => kind)).toEqual(['attribute', 'step']);
  expect(JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'))).toMatchObject({
    items: 3,
    ready: 3,
    blocked: 0,
  });
  expect(spawnSync('xmllint', ['--noout', join(out, 'feed.xml')]).status).toBe(0);
});

test.each([
  [['evaluate', '--plan', plan], /--catalog is missing/],
  [
    ['evaluate', '--plan', 'nowhere.json', '--catalog', 'demo/catalog/items.csv', '--out', '/tmp/x'],
    /nowhere\.json cannot be read/,
  ],
  [
    ['evaluate', '--plan', 'README.md', '--catalog', 'demo/catalog/items.csv', '--out', '/tmp/x'],
    /is not JSON/,
  ],
  [
    ['evaluate', '--plan', 'package.json', '--catalog', 'demo/catalog/items.csv', '--out', '/tmp/x'],
    /is not valid at/,
  ],
  [['evaluate', '--plam', plan], /--plam is not an option/],
  [['sell'], /no command "sell"/],
  [[], /Which command/],
])('bad input ends with 2 and a reason: %j', (words, reason) => {
  const { status, stderr } = cart(words);
  expect(status).toBe(2);
  expect(stderr).toMatch(reason);
  expect(stderr).not.toMatch(/at .*\.js:\d+/);
});
