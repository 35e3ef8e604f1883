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

test('an old name as often as before passes; once more fails with the name to use instead', () => {
  const once = 'const told = 1;\n';
  expect(check(once, { 'name: told': 1 })).toMatchObject({ ok: true });
  const twice = check(`${once}{ const told = 2; }\n`, { 'name: told': 1 });
  expect(twice).toMatchObject({ ok: false });
  expect(twice.says).toMatch(/name: told: 2 times, 1 before. Say instead: the thing itself. In one.tsx/);
});

test.each([
  ['const told = 1;\n', false],
  ['const { a, told } = given;\n', false],
  ['function kept() {}\n', false],
  // Comments, imports, parts of words and members are no names that are given.
  ["// told\nimport { kept } from './kept';\nconst toldAt = given.told;\n", true],
])('%j', (text, ok) => {
  expect(check(text, {}).ok).toBe(ok);
});

/** What the check of texts says of one file. */
function checkText(code: string) {
  const path = join(temporaryFolder(), 'one.tsx');
  writeFileSync(path, code);
  const done = spawnSync(process.execPath, ['scripts/texts.mjs', '--check', path], { encoding: 'utf8' });
  return { ok: done.status === 0, says: done.stdout };
}

test.each([
  ["const label = 'Left out of this feed';", /one.tsx:1 .*Left out.*Say: exclude/],
  [
    'const page = () => (\n  <p>\n    Rejected, taken back\n  </p>\n);',
    /“Rejected, taken back” has “taken back”/,
  ],
  ['const page = <Button label="Place" />;', /has “Place”/],
  // biome-ignore lint/suspicious/noTemplateCurlyInString: code in a text
  ['const words = `${count} refused`;', /“… refused” has “refused”/],
  [`const words = 'One ${'word and another '.repeat(9)}end.';`, /a sentence of more than 25 words/],
  ['const page = <Button label="Save / Send" />;', /names two things/],
])('an old word, a long sentence or a label of two things is found: %s', (code, complaint) => {
  const { ok, says } = checkText(code);
  expect(ok).toBe(false);
  expect(says).toMatch(complaint);
});

test.each([
  "const label = 'Excluded from this feed';",
  // Comments, names, codes and types are no texts.
  "// left out\nimport { refused } from './refused';\nconst leftOut: 'left out' | undefined = given.leftOut;",
  "if (state === 'refused') run();",
])('what is no text, or a good one, passes: %s', (code) => {
  expect(checkText(code)).toMatchObject({ ok: true });
});
