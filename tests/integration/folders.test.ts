import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { temporaryFolder } from '../support/stack';

/** What the folder rule says of a tree of files. */
function rule(files: Readonly<Record<string, string>>): { ok: boolean; said: string } {
  const folder = temporaryFolder();
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  const done = spawnSync(process.execPath, ['scripts/folders.mjs', folder], { encoding: 'utf8' });
  return { ok: done.status === 0, said: done.stderr };
}

test('a tree in layers passes', () => {
  expect(
    rule({
      'core/text/a.ts': 'export const a = 1;\n',
      'core/catalog/b.ts': "import { a } from '../text/a';\nexport const b = a;\n",
      'core/listing/c.ts':
        "import type { a } from '../text/a';\nimport { b } from '../catalog/b';\nexport const c = b;\n",
      'server/d.ts': "import { c } from '../core/listing/c';\nexport const d = c;\n",
      'ui/e.ts': "import type { d } from '../server/d';\nexport type E = typeof d;\n",
    }),
  ).toEqual({ ok: true, said: '' });
});

test('on the server a room takes from floors below, and none is in a circle with another', () => {
  const a = 'export const a = 1;\n';
  const takes = (from: string) => `import { a } from '../${from}/a';\nexport const b = a;\n`;
  expect(rule({ 'server/catalog/a.ts': a, 'server/stages/b.ts': takes('catalog') }).ok).toBe(true);
  expect(rule({ 'server/demo/a.ts': a, 'server/jobs/b.ts': takes('demo') }).said).toMatch(
    /server\/jobs\/b.ts takes from server\/demo\/a.ts, which is on a floor above/,
  );
  expect(rule({ 'server/jobs/a.ts': a, 'server/cellar/b.ts': takes('jobs') }).said).toMatch(
    /stands on no floor/,
  );
  const circle = {
    'server/catalog/a.ts': a,
    'server/catalog/b.ts': takes('plans'),
    'server/plans/a.ts': a,
    'server/plans/b.ts': takes('items'),
    'server/items/a.ts': a,
    'server/items/b.ts': takes('catalog'),
  };
  expect(rule(circle).said).toMatch(/rooms in a circle: catalog → plans → items → catalog/);
});

test('a file that grows beyond what may be is to be split', () => {
  const lines = (count: number) => ({ 'core/text/a.ts': '// a line\n'.repeat(count) });
  expect(rule(lines(300)).ok).toBe(true);
  expect(rule(lines(301)).said).toMatch(/core\/text\/a\.ts has 301 lines, 300 at most/);
});

test('a folder that grows beyond what may be is to be split', () => {
  const files = (count: number) =>
    Object.fromEntries(
      Array.from({ length: count }, (_, at) => [`server/jobs/a${at}.ts`, `export const a${at} = 1;\n`]),
    );
  expect(rule(files(12)).ok).toBe(true);
  expect(rule({ ...files(12), 'server/jobs/one.test.ts': '' }).ok).toBe(true);
  expect(rule(files(13)).said).toMatch(/server\/jobs has 13 files, 12 at most/);
});

test.each<[string, Record<string, string>, RegExp]>([
  [
    'a room that takes from one above it',
    {
      'core/text/a.ts': "import { b } from '../catalog/b';\nexport const a = b;\n",
      'core/catalog/b.ts': 'export const b = 1;\n',
    },
    /core\/text\/a\.ts stands below core\/catalog\/b\.ts/,
  ],
  [
    'a type from above',
    {
      'core/checks/a.ts': "import type { B } from '../listing/b';\nexport type A = B;\n",
      'core/listing/b.ts': 'export type B = string;\n',
    },
    /stands below/,
  ],
  [
    'a room beside it',
    {
      'core/text/a.ts': "import { b } from '../measures/b';\nexport const a = b;\n",
      'core/measures/b.ts': 'export const b = 1;\n',
    },
    /or beside it/,
  ],
  [
    'a circle of files in one room',
    {
      'core/text/a.ts': "import { b } from './b';\nexport const a = () => b;\n",
      'core/text/b.ts': "import { a } from './a';\nexport const b = () => a;\n",
    },
    /a circle: core\/text\/a\.ts → core\/text\/b\.ts → core\/text\/a\.ts/,
  ],
  [
    'a circle of types',
    {
      'core/text/a.ts': "import type { B } from './b';\nexport type A = B | 1;\n",
      'core/text/b.ts': "import type { A } from './a';\nexport type B = A | 2;\n",
    },
    /a circle: core\/text\/a\.ts → core\/text\/b\.ts/,
  ],
  [
    'a room without a layer',
    {
      'core/helpers/a.ts': "import { b } from '../text/b';\nexport const a = b;\n",
      'core/text/b.ts': 'export const b = 1;\n',
    },
    /stands in no layer/,
  ],
  [
    'the network in core',
    { 'core/text/a.ts': "import { get } from 'node:http';\nexport const a = get;\n" },
    /touches nothing outside/,
  ],
  [
    'code of the server in a component',
    {
      'ui/a.ts': "import { b } from '../server/b';\nexport const a = b;\n",
      'server/b.ts': 'export const b = 1;\n',
    },
    /ui\/a\.ts may not import server\/b\.ts/,
  ],
])('%s fails', (_what, files, words) => {
  const { ok, said } = rule(files);
  expect([ok, said]).toEqual([false, expect.stringMatching(words)]);
});
