import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import readXlsx from 'read-excel-file/node';
import { readHead } from './head';
import { readSource, type SourceRow } from './reading';
import { csvPieces, sheetPieces } from './workbooks/sheets';

const folder = mkdtempSync(join(tmpdir(), 'lively-files-'));
const stored = (name: string, bytes: string | Uint8Array): string => {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
};

async function complete(path: string): Promise<SourceRow[]> {
  const { form } = await readHead(path);
  const rows: SourceRow[] = [];
  for await (const chunk of readSource(path, form, 3, () => undefined)) rows.push(...chunk);
  return rows;
}

const nasty = [
  ['0012345', '9520000030148', 'Größe “L”', '-5'],
  ['=1+1', '+49 30', '@home', 'a,b;c\t"d"'],
  ['', '1e5', '2026-11-23', 'line\nend'],
];
const headings = ['SKU', 'GTIN', 'Name', 'Note'];

async function written(pieces: Iterable<Uint8Array> | AsyncIterable<Uint8Array>): Promise<Buffer> {
  const all: Uint8Array[] = [];
  for await (const piece of pieces) all.push(piece);
  return Buffer.concat(all);
}

describe('a written workbook', () => {
  // Source: Debian's python3-openpyxl, an independent reader.
  test('is read back by openpyxl cell for cell, all of them text and none a formula', async () => {
    const path = stored('out.xlsx', await written(sheetPieces('Items', headings, nasty)));
    const { stdout, stderr } = spawnSync('/usr/bin/python3', [
      '-c',
      `import json, openpyxl\nb = openpyxl.load_workbook(${JSON.stringify(path)})\ns = b['Items']\nprint(json.dumps([[[c.value or '', c.data_type] for c in r] for r in s.iter_rows()]))`,
    ]);
    expect(stderr.toString()).toBe('');
    const cells: [string, string][][] = JSON.parse(stdout.toString());
    expect(cells.map((row) => row.map(([value]) => value))).toEqual([headings, ...nasty]);
    expect(cells.flat().some(([, type]) => type === 'f')).toBe(false);
  });

  // Source: npm's read-excel-file, another reader.
  test('is read back by a second parser, and by our own', async () => {
    const bytes = await written(sheetPieces('Items', headings, nasty));
    const [sheet] = await readXlsx(Buffer.from(bytes));
    const rows = (
      Array.isArray(sheet) ? await readXlsx(Buffer.from(bytes)) : (sheet as { data: unknown[][] }).data
    ) as unknown[][];
    expect(rows.map((row) => row.map((cell) => cell ?? ''))).toEqual([headings, ...nasty]);
    const ours = await complete(stored('again.xlsx', bytes));
    expect(ours.map(({ record }) => Object.values(record?.cells ?? {}))).toEqual(nasty);
  });
});

// Source: Python's csv module (RFC 4180).
test('written CSV is read back by Python, formulas disarmed, however many rows', async () => {
  const many = Array.from({ length: 400 }, () => nasty).flat();
  const path = stored('out.csv', await written(csvPieces(headings, many)));
  const { stdout } = spawnSync('python3', [
    '-c',
    `import csv, json\nprint(json.dumps(list(csv.reader(open(${JSON.stringify(path)}, encoding='utf-8-sig', newline='')))))`,
  ]);
  const disarmed = many.map((row) => row.map((cell) => (/^[=+\-@]/.test(cell) ? `'${cell}` : cell)));
  expect(JSON.parse(stdout.toString())).toEqual([headings, ...disarmed]);
});

/** A stockroom's workbook: a title above the table, numbers, a date, rich text, a link. */
async function stockBook(...before: string[]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  for (const name of before) book.addWorksheet(name).addRow(['nothing here']);
  const sheet = book.addWorksheet('Stock');
  sheet.addRows([['Stock of the week'], [], ['sku', 'price', 'since', 'name']]);
  sheet.addRow([
    'A',
    12.5,
    new Date('2026-03-12T00:00:00Z'),
    { richText: [{ text: 'Pot ' }, { text: 'L' }] },
  ]);
  sheet.addRow([42, 0.1, null, { text: 'Link', hyperlink: 'https://a.example' }]);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

describe('reading', () => {
  test('a workbook: the sheet that looks like a table is found, and its heading row', async () => {
    const path = stored('stock.xlsx', await stockBook('Notes'));
    const first = await readHead(path);
    expect(first).toMatchObject({
      form: { kind: 'xlsx', sheet: 'Stock', headingRow: 3 },
      sheets: ['Notes', 'Stock'],
    });
  });

  test('a workbook’s chosen sheet', async () => {
    const path = stored('sheet.xlsx', await stockBook());
    expect((await readHead(path)).form).toMatchObject({ headingRow: 3 });
    expect((await complete(path)).map(({ row, record }) => [row, record?.cells])).toEqual([
      [4, { sku: 'A', price: '12.5', since: '2026-03-12', name: 'Pot L' }],
      [5, { sku: '42', price: '0.1', since: '', name: 'Link' }],
    ]);
    await expect(readHead(path, { sheet: 'Other' })).rejects.toThrow('no sheet “Other”; it has “Stock”');
  });

  test('delimited text with rows above its heading, in UTF-16, with tabs', async () => {
    const text = 'Price list\nvalid from Monday\nsku\tname\nA\tGröße\nB\tx\ty\n';
    const path = stored('list.tsv', Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]));
    const head = await readHead(path, { headingRow: 3, separator: '\t' });
    expect(head.form).toEqual({ kind: 'delimited', encoding: 'utf-16le', separator: '\t', headingRow: 3 });
    const rows: SourceRow[] = [];
    for await (const chunk of readSource(path, head.form, 10, () => undefined)) rows.push(...chunk);
    expect(rows).toMatchObject([
      { row: 4, record: { cells: { sku: 'A', name: 'Größe' } }, broken: undefined },
      { row: 5, broken: 'has 3 cells where the heading row has 2' },
    ]);
  });

  test('XML in Latin-1, as its first line says', async () => {
    const xml =
      '<?xml version="1.0" encoding="ISO-8859-1"?><l><i id="1"><n>Größe</n></i><i id="2"><n>b</n></i></l>';
    const rows = await complete(stored('latin.xml', Buffer.from(xml, 'latin1')));
    expect(rows.map(({ record }) => record?.cells)).toEqual([
      { '@id': '1', n: 'Größe' },
      { '@id': '2', n: 'b' },
    ]);
  });

  test('a list that holds no end within 16 MB is the wrong one', async () => {
    const path = stored(
      'long.json',
      `{"a":{"b":[${'{"x":"yyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyyy"},'.repeat(400_000)}{}]}}`,
    );
    const run = async () => {
      for await (const _rows of readSource(
        path,
        { kind: 'json', encoding: 'utf-8', separator: ',', list: 'c' },
        10,
        () => undefined,
      ));
    };
    await expect(run()).rejects.toThrow('No record ended within 16 MB');
  });
});
