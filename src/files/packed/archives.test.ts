import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { InputError } from '../../core/errors/inputError';
import { withPlainFile } from './unpacking';

const folder = mkdtempSync(join(tmpdir(), 'lively-archives-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** An archive as Python's zipfile writes it. */
function archive(files: Readonly<Record<string, string>>): string {
  const path = join(folder, 'some.zip');
  execFileSync(
    '/usr/bin/python3',
    [
      '-c',
      'import json,sys,zipfile\nz=zipfile.ZipFile(sys.argv[1],"w",zipfile.ZIP_DEFLATED)\nfor n,t in json.loads(sys.argv[2]).items(): z.writestr(n,t)\nz.close()',
      path,
      JSON.stringify(files),
    ],
    { stdio: 'pipe' },
  );
  return path;
}

const plainOf = (path: string) => withPlainFile(path, async (plain) => readFileSync(plain, 'utf8'));
const refusalOf = async (path: string) => {
  const error: unknown = await plainOf(path).catch((refused: unknown) => refused);
  return error instanceof InputError ? error.message : error;
};
const table = 'SKU,Name\nA,Pot\n';

describe('a file in an archive', () => {
  test.each<[string, Record<string, string>]>([
    ['alone', { 'items.csv': table }],
    ['in a folder', { 'export/2026/items.csv': table }],
    [
      'beside notes, pictures and what a desktop leaves',
      {
        'README.txt': 'Hello',
        'a/one.jpg': '…',
        '__MACOSX/._items.csv': 'rubbish',
        '.DS_Store': 'rubbish',
        'items.csv': table,
      },
    ],
    ['without a name that says what it is', { EXPORT0815: table }],
    ['as plain text beside pictures', { 'items.txt': table, 'one.png': '…' }],
  ])('%s is what is read', async (_name, files) => {
    expect(await plainOf(archive(files))).toBe(table);
  });

  test('where several could be meant they are named, and nothing is guessed', async () => {
    expect(await refusalOf(archive({ 'items.csv': table, 'prices.xml': '<a/>' }))).toBe(
      'The archive holds 2 files that could be meant: “items.csv”, “prices.xml”. Unpack it and bring them in one by one. Nothing was changed.',
    );
  });

  test('where nothing could be meant it is said what is there', async () => {
    expect(await refusalOf(archive({ 'one.png': '…', 'two.png': '…' }))).toBe(
      'The archive holds no file that items could be in, but “one.png”, “two.png”. Nothing was changed.',
    );
    expect(await refusalOf(archive({}))).toMatch(/^The archive is (?:empty|not a readable archive)/);
  });

  test('what is locked, broken off or damaged is refused in words', async () => {
    const complete = readFileSync(archive({ 'items.csv': table.repeat(2000) }));
    const locked = Buffer.from(complete);
    locked.writeUInt16LE(locked.readUInt16LE(6) | 1, 6);
    const directory = locked.indexOf('PK\x01\x02', 0, 'latin1');
    locked.writeUInt16LE(locked.readUInt16LE(directory + 8) | 1, directory + 8);
    const damaged = Buffer.from(complete).fill(0x55, 60, 100);
    for (const [bytes, words] of [
      [locked, /is locked with a password/],
      [complete.subarray(0, 90), /is not a readable archive/],
      [damaged, /cannot be unpacked/],
    ] as const) {
      const path = join(folder, 'bad.zip');
      writeFileSync(path, bytes);
      expect(await refusalOf(path)).toMatch(words);
    }
  });

  test('a workbook and a file that is not packed are left as they are', async () => {
    for (const name of ['fr-hiver.ods', 'de-sommer.xls', 'fr-stock.csv']) {
      const path = join(process.cwd(), 'tests/data/sources', name);
      expect(await withPlainFile(path, async (plain) => readFileSync(plain).equals(readFileSync(path)))).toBe(
        true,
      );
    }
  });
});
