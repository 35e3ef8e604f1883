import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Head, readHead } from '@/files/head';
import { readSource, type SourceRow } from '@/files/reading';
import { readHeadApart, readSourceApart } from '@/server/import/reader';
import { settings } from '@/server/runtime/settings';
import { temporaryFolder } from '../support/stack';

/** Uploaded files are read in a process of their own, as they would be here; what is over its limits is ended. */
const folder = temporaryFolder();
const kept = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
beforeAll(() => {
  settings.reader = join(process.cwd(), 'dist/reader.js');
});
afterAll(() => {
  settings.reader = undefined;
});

const all = async (rows: AsyncIterable<SourceRow[]>) => {
  const found: SourceRow[] = [];
  for await (const some of rows) found.push(...some);
  return found;
};

test.each([
  'tarnholt-price-list.xml',
  'verrin-lights.csv',
  'quillmoss-stockroom.xlsx',
  'sprigwell-titles.json',
])('%s: the same apart as here', async (name) => {
  const path = join(process.cwd(), 'demo/sources', name);
  const here: Head = await readHead(path);
  expect(await readHeadApart(path)).toEqual(here);
  const read = async (reading: typeof readSource) => {
    let bytes = 0;
    const rows = await all(
      reading(path, here.form, 50, (count) => {
        bytes = count;
      }),
    );
    return { rows, bytes };
  };
  expect(await read(readSourceApart)).toEqual(await read(readSource));
});

test('a refusal comes through with its code; who stops early leaves no process behind', async () => {
  await expect(readHeadApart(kept('empty.csv', ''))).rejects.toMatchObject({ code: expect.any(String) });
  const path = kept(
    'many.csv',
    `SKU;Name\n${Array.from({ length: 20_000 }, (_, at) => `A-${at};Pot`).join('\n')}\n`,
  );
  const { form } = await readHeadApart(path);
  for await (const rows of readSourceApart(path, form, 100, () => undefined)) {
    expect(rows).toHaveLength(100);
    break;
  }
});

test('a reader that ends, or takes for ever, is told as a file that takes too much', async () => {
  const ours = settings.reader;
  for (const program of [
    'process.exit(7)',
    'for (const all = []; ; ) all.push(Buffer.alloc(1e6).toString())',
  ]) {
    settings.reader = kept('bad.mjs', `process.on('message', () => { ${program} });`);
    await expect(readHeadApart(join(folder, 'many.csv'))).rejects.toMatchObject({ code: 'readingTooMuch' });
  }
  settings.reader = ours;
});

test('while a file is read that takes long, this process answers at once', async () => {
  const cells = 'A;"b""";'.repeat(2_000_000);
  const path = kept('slow.csv', `SKU;Name\n${cells}\n`);
  const lags: number[] = [];
  let last = performance.now();
  const beat = setInterval(() => {
    lags.push(performance.now() - last - 20);
    last = performance.now();
  }, 20);
  try {
    await readHeadApart(path).catch(() => undefined);
  } finally {
    clearInterval(beat);
  }
  expect(lags.length).toBeGreaterThan(5);
  // Nearly all: what else runs on the machine may hold one up.
  const late = lags.filter((lag) => lag > 300);
  expect(late.length / lags.length).toBeLessThan(0.05);
});
