import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { temporaryFolder } from '../support/stack';

/** What the vocabulary check says of one file, where each old word may stand so often. */
function check(text: string, allowed: Readonly<Record<string, number>>) {
  const folder = temporaryFolder();
  mkdirSync(join(folder, 'src'));
  writeFileSync(join(folder, 'src/one.tsx'), text);
  writeFileSync(join(folder, 'vocabulary.json'), JSON.stringify(allowed));
  const done = spawnSync(
    process.execPath,
    ['scripts/vocabulary.mjs', join(folder, 'src'), join(folder, 'vocabulary.json')],
    { encoding: 'utf8' },
  );
  return { ok: done.status === 0, says: done.stderr + done.stdout };
}

test('a word that stands as often as before passes, once more it fails with the word to say instead', () => {
  const once = 'export const Page = () => <h1>Outbox</h1>;\n';
  expect(check(once, { 'text: Outbox': 1 })).toMatchObject({ ok: true });
  const twice = check(`${once}const label = 'Outbox';\n`, { 'text: Outbox': 1 });
  expect(twice).toMatchObject({ ok: false });
  expect(twice.says).toMatch(/text: Outbox: 2 times, 1 before. Say instead: Submissions. In one.tsx/);
});

test.each([
  ['const told = 1;\n', false],
  ['const { a, told } = given;\n', false],
  ['function kept() {}\n', false],
  // Comments, imports, parts of words and members are no names that are given.
  ["// told\nimport { kept } from './kept';\nconst toldAt = given.told;\n", true],
  ['/** Outbox */\nconst outbox = 1;\n', true],
])('%j', (text, ok) => {
  expect(check(text, {}).ok).toBe(ok);
});
