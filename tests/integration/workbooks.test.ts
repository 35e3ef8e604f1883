import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tableOf } from '@/core/workbooks/workbook';
import { writeWorkbook } from '@/files/workbooks/workbook';
import { undoEdit } from '@/server/catalog/editing';
import { addDemoFeeds } from '@/server/demo/load';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { findItem } from '@/server/items/items';
import { importWorkbook, type WorkbookQuery, workbookOf } from '@/server/pages/workbook';
import { bodyOf, closeDatabase, freshDemo, temporaryFolder } from '../support/stack';

/** Listings out to a spreadsheet and back. Source: Debian's python3-openpyxl, an independent reader and writer of ECMA-376. */
const feed = 'flickerstall-de-en';
const folder = temporaryFolder();
const path = join(folder, 'book.xlsx');

beforeAll(async () => {
  await freshDemo();
  await addDemoFeeds('demo');
});
afterAll(closeDatabase);

async function saved(query: WorkbookQuery, of = feed) {
  const book = await workbookOf(of, query);
  if (!book) throw new Error('there is no such feed');
  writeFileSync(path, await writeWorkbook(book));
  return book;
}
const python = (code: string): unknown =>
  JSON.parse(
    execFileSync(
      '/usr/bin/python3',
      [
        '-c',
        `import json, openpyxl\nb = openpyxl.load_workbook(${JSON.stringify(path)})\ns = b.worksheets[0]\n${code}`,
      ],
      {
        encoding: 'utf8',
      },
    ) || 'null',
  );
const bring = (file = path) => importWorkbook(bodyOf(readFileSync(file)));
const blocked = async (cause: string) =>
  [...((await loadFeedContext(feed))?.draft.listings ?? [])].filter(({ issues }) =>
    issues.some(({ check, field, severity }) => severity === 'blocker' && `${check}:${field}` === cause),
  ).length;

test('what is wrong goes out with its lists, notes and a heading that stays, every cell a text', async () => {
  const book = await saved({ fix: 'missing:made_in' });
  expect(book.rows).toHaveLength((await blocked('missing:made_in')) ?? -1);
  expect(book.columns.map(({ attribute }) => attribute)).toContain('countryOfOrigin');
  const found = python(`
heading = [c.value for c in s[1]]
origin = heading.index('Country of origin') + 1
letter = openpyxl.utils.get_column_letter(origin)
lists = [(str(v.sqref), v.type, v.formula1) for v in s.data_validations.dataValidation]
print(json.dumps({
  'heading': heading,
  'frozen': s.freeze_panes,
  'note': s.cell(1, origin).comment.text,
  'lists': [one for one in lists if letter + '2' in one[0]],
  'kinds': sorted({c.data_type for row in b.worksheets[0].iter_rows() for c in row if c.value is not None}),
  'rows': s.max_row - 1,
  'choices': [c.value for c in b['Choices'][1]],
}))`) as Record<string, unknown>;
  expect(found).toMatchObject({
    heading: ['SKU', 'Item', 'Problem', ...book.columns.map(({ label }) => label)],
    frozen: 'B2',
    note: expect.stringContaining('required'),
    lists: [[expect.any(String), 'list', expect.stringMatching(/^Choices!\$[A-Z]+\$2:/)]],
    kinds: ['s'],
    rows: book.rows.length,
  });
  expect(found.choices).toContain('Country of origin');
});

test('mended by openpyxl it comes back: what fits is taken, what does not comes back in a file with its reason', async () => {
  const book = await saved({ fix: 'measure:weight' });
  const [first, second] = book.rows.map(({ sku }) => sku);
  expect(book.rows).toHaveLength(2);
  python(`
at = [c.value for c in s[1]].index('Weight') + 1
s.cell(2, at).value = 'quite heavy'
s.cell(3, at).value = '1.4 kg'
b.save(${JSON.stringify(path)})`);
  const report = await bring();
  expect(report).toMatchObject({
    words: 'changed 1 cell of 1 item',
    refusedCount: 1,
    refused: [{ row: 2, sku: first, label: 'Weight', text: 'quite heavy' }],
    ignored: [],
  });
  expect((await findItem(second ?? ''))?.own.weight).toBe('1.4 kg');
  expect(await blocked('measure:weight')).toBe(1);

  // The file of what was refused: mended in turn, it is taken as well.
  writeFileSync(path, Buffer.from(report.file ?? '', 'base64'));
  expect(python(`print(json.dumps([[c.value for c in row] for row in s.iter_rows()]))`)).toEqual([
    ['SKU', 'Item', 'Problem', 'Weight'],
    [first, expect.any(String), expect.stringContaining('is not a number with a unit'), 'quite heavy'],
  ]);
  python(`s.cell(2, 4).value = '1400 g'\nb.save(${JSON.stringify(path)})`);
  const again = await bring();
  expect(again).toMatchObject({ words: 'changed 1 cell of 1 item', refusedCount: 0, file: undefined });
  expect(await blocked('measure:weight')).toBe(0);
  await undoEdit(again.edit);
  expect(await blocked('measure:weight')).toBe(1);
});

test('a place goes out with all that the channel asks there, and comes back filled', async () => {
  const of = 'orrin-bazaar-de';
  const work = await loadFeedContext(of);
  const at = work?.sheet.fields.findIndex(({ kind }) => kind === 'category') ?? -1;
  const place = String(
    [...(work?.draft.listings ?? [])].find(({ issues }) =>
      issues.some(({ field }) => field === 'pot_diameter'),
    )?.values[at],
  );
  const book = await saved({ place }, of);
  expect(book.rows.length).toBeGreaterThan(0);
  const attributes = book.columns.map(({ attribute }) => attribute);
  expect(attributes).toEqual(expect.arrayContaining(['name', 'price', 'diameter']));
  expect(new Set(attributes).size).toBe(attributes.length);
  const wanting = book.rows.filter(({ cells }) => cells[attributes.indexOf('diameter')] === '');
  python(`
at = [c.value for c in s[1]].index('Diameter') + 1
for row in range(2, s.max_row + 1):
    if not s.cell(row, at).value: s.cell(row, at).value = '20 cm'
b.save(${JSON.stringify(path)})`);
  expect(await bring()).toMatchObject({
    words: `changed ${wanting.length} cells of ${wanting.length} items`,
    refusedCount: 0,
    emptied: 0,
  });
});

test('texts to translate go out beside what they are translated from, and come back in a language that nothing was written in', async () => {
  const of = 'lanternry-de';
  const book = await saved({ translations: '1' }, of);
  const labels = book.columns.map(({ label }) => label);
  expect(labels.slice(0, 2)).toEqual(['Name', 'Name in German']);
  const titleOf = async (sku: string) => {
    const work = await loadFeedContext(of);
    const at = work?.sheet.fields.findIndex(({ role }) => role === 'title') ?? -1;
    return String([...(work?.draft.listings ?? [])].find((one) => one.sku === sku)?.values[at]);
  };
  const sku = book.rows.find(({ name }) => name.startsWith('Ridge pot'))?.sku ?? '';
  expect(await titleOf(sku)).toContain('Ridge pot');
  python(`
at = [c.value for c in s[1]].index('Name in German') + 1
for row in s.iter_rows(min_row=2):
    if row[0].value == ${JSON.stringify(sku)}: row[at - 1].value = 'Rillentopf mit Untersetzer'
b.save(${JSON.stringify(path)})`);
  const report = await bring();
  expect(report).toMatchObject({ words: 'changed 1 cell of 1 item', refusedCount: 0, ignored: [] });
  expect(await titleOf(sku)).toContain('Rillentopf');
  // It is not asked for any more, as far as its name goes.
  const again = await workbookOf(of, { translations: '1' });
  expect(again?.rows.find((row) => row.sku === sku)?.cells.slice(0, 2)).toEqual([
    expect.stringContaining('Ridge pot'),
    'Rillentopf mit Untersetzer',
  ]);
});

test('as CSV it is the same table, in any encoding and with any separator that a spreadsheet writes', async () => {
  const book = await workbookOf(feed, { fix: 'missing:size' });
  const [heading = [], ...rows] = book ? [...tableOf(book)] : [];
  const size = heading.indexOf('Size');
  expect(size).toBeGreaterThan(2);
  const text = [heading, ...rows.map((cells) => cells.map((cell, at) => (at === size ? 'Größe L' : cell)))]
    .map((cells) => cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(';'))
    .join('\r\n');
  const file = join(folder, 'book.csv');
  writeFileSync(file, Buffer.from(text, 'latin1'));
  expect(await bring(file)).toMatchObject({ words: expect.stringMatching(/^changed 5 cells of 5 items/) });
  expect((await findItem(rows[0]?.[0] ?? ''))?.own.size).toBe('Größe L');
});

test('what is no table of items is refused in words, and nothing is changed', async () => {
  const file = join(folder, 'other.csv');
  writeFileSync(file, 'article;price\nA;1\n');
  await expect(bring(file)).rejects.toThrow('No column is called SKU');
  await expect(importWorkbook(bodyOf(new Uint8Array(31_000_000).fill(65)))).rejects.toThrow(
    'more than 20,000 rows',
  );
  writeFileSync(file, Buffer.from('PK\u0003\u0004 broken', 'latin1'));
  await expect(bring(file)).rejects.toThrow(/The workbook .*Nothing was changed/);
});
