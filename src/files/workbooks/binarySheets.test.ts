import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { utils, write } from '@e965/xlsx';
import { readHead } from '../head';
import { readSheets } from './xlsx';

// Files that LibreOffice wrote are read in `sources.test.ts` as well (`de-sommer.xls`, `fr-hiver.ods`).
const folder = mkdtempSync(join(tmpdir(), 'lively-sheets-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const bookOf = (cells: unknown[][]) => {
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet(cells, { UTC: true }), 'Items');
  return book;
};
const stored = (bytes: Uint8Array, name = 'book') => {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
};

test.each(['biff8', 'biff5', 'xlsb', 'ods'] as const)(
  '%s: texts, numbers, days and yes stay what they are',
  async (bookType) => {
    const day = new Date(Date.UTC(2027, 2, 31));
    const path = stored(
      write(
        bookOf([
          ['SKU', 'Name', 'Price', 'From', 'Sold'],
          ['007', 'Pot', 12.5, day, true],
          [],
          ['008', 'a\nb', 9520000005030, '', false],
        ]),
        { type: 'buffer', bookType },
      ),
    );
    const head = await readHead(path);
    expect(head.form.kind).toBe('xlsx');
    const rows: (readonly string[])[] = [];
    for await (const { row, cells } of readSheets(path, 'Items')) rows[row] = cells;
    expect(rows[2]).toEqual(['007', 'Pot', '12.5', '2027-03-31', 'true']);
    expect(rows[4]?.slice(0, 3)).toEqual(['008', 'a\nb', '9520000005030']);
  },
);

test.each(['formula.xls', 'formula.ods'])(
  '%s, written by LibreOffice: the stored result of a formula counts, and its column is told',
  async (file) => {
    const rows = [];
    for await (const row of readSheets(join(process.cwd(), 'tests/data/sheets', file))) rows.push(row);
    expect(rows).toEqual([
      { sheet: 'Items', row: 1, cells: ['SKU', 'Name', 'Price', 'Sum'], formula: undefined, calculated: [] },
      { sheet: 'Items', row: 2, cells: ['A', 'Töpfchen', '12.5', '25'], formula: undefined, calculated: [3] },
      { sheet: 'Items', row: 3, cells: ['B', 'Łańcuch', '4', '1'], formula: undefined, calculated: [] },
    ]);
  },
);

test.each<[string, () => Uint8Array]>([
  [
    'broken off',
    () =>
      (write(bookOf([['SKU'], ['A']]), { type: 'buffer', bookType: 'biff8' }) as Uint8Array).slice(0, 700),
  ],
  [
    'rubbish behind its first bytes',
    () => Buffer.concat([Buffer.from('d0cf11e0a1b11ae1', 'hex'), Buffer.alloc(3000, 7)]),
  ],
])('%s is refused in words', async (_name, bytes) => {
  await expect(readHead(stored(bytes(), 'bad'))).rejects.toMatchObject({ code: 'workbookRefused' });
});

test('text that is said to be a workbook is no workbook', async () => {
  const text = stored(Buffer.from('SKU,From\nA,3-4\n'), 'text');
  await expect(readHead(text, { kind: 'xlsx' })).rejects.toMatchObject({ code: 'workbookRefused' });
});
