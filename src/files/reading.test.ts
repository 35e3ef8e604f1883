import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import iconv from 'iconv-lite';
import { readHead } from './head';
import { readSource, type SourceRow } from './reading';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'lively-reading-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** A file as the application reads it: how it was found to be written, and its rows. */
async function read(content: string | Buffer) {
  const path = join(folder, 'file');
  writeFileSync(path, content);
  const head = await readHead(path);
  const rows: SourceRow[] = [];
  for await (const chunk of readSource(path, head.form, 100, () => undefined)) rows.push(...chunk);
  return { ...head, rows, cells: rows.map(({ record }) => ({ ...record?.cells })) };
}

const plain = [
  { sku: 'A1', name: 'Pot', price: '1,50' },
  { sku: 'A2', name: 'Box', price: '2,50' },
];

describe('a table as others write it', () => {
  test.each([
    ['semicolons', 'sku;name;price\nA1;Pot;1,50\nA2;Box;2,50\n'],
    ['tabs', 'sku\tname\tprice\nA1\tPot\t1,50\nA2\tBox\t2,50\n'],
    ['bars', 'sku|name|price\nA1|Pot|1,50\nA2|Box|2,50'],
    ['commas, quoted', 'sku,name,price\nA1,Pot,"1,50"\nA2,Box,"2,50"'],
    ['CR alone', 'sku;name;price\rA1;Pot;1,50\rA2;Box;2,50\r'],
    ['mixed line ends', 'sku;name;price\r\nA1;Pot;1,50\nA2;Box;2,50\r'],
    ['sep= above', 'sep=;\r\nsku;name;price\r\nA1;Pot;1,50\r\nA2;Box;2,50\r\n'],
    [
      'a title and a note above',
      'Price list\nas of 12.11.2026;;\n\nsku;name;price\nA1;Pot;1,50\nA2;Box;2,50\n',
    ],
    [
      'separators too many at the ends',
      'sku;name;price;\nA1;Pot;1,50;;\nA2;Box;2,50;\n'.replace('price;', 'price'),
    ],
    [
      'UTF-16 with its mark',
      Buffer.concat([
        Buffer.from([0xff, 0xfe]),
        iconv.encode('sku;name;price\nA1;Pot;1,50\nA2;Box;2,50\n', 'utf-16le'),
      ]),
    ],
    [
      'UTF-16 the other way, without',
      iconv.encode('sku;name;price\nA1;Pot;1,50\nA2;Box;2,50\n', 'utf-16be', { addBOM: false }),
    ],
    ['UTF-8 with its mark', '\ufeffsku;name;price\nA1;Pot;1,50\nA2;Box;2,50\n'],
  ])('%s', async (_name, content) => {
    const { cells, rows } = await read(content);
    expect(rows.filter(({ broken }) => broken)).toEqual([]);
    expect(cells).toEqual(plain);
  });

  test('a heading in two rows gives joined names', async () => {
    const { form, cells, columns } = await read(
      'Article;;Price;\nCode;Name;net;gross\nA1;Pot;1,00;1,19\nA2;Box;2,00;2,38\n',
    );
    expect(form).toMatchObject({ headingLines: 2 });
    expect(columns).toEqual(['Article Code', 'Article Name', 'Price net', 'Price gross']);
    expect(cells[1]).toEqual({
      'Article Code': 'A2',
      'Article Name': 'Box',
      'Price net': '2,00',
      'Price gross': '2,38',
    });
  });

  test('the heading can stand where a person says', async () => {
    const path = join(folder, 'said');
    writeFileSync(path, 'sku;name\nnumber;called\nA1;Pot\n');
    expect((await readHead(path, { headingRow: 2 })).columns).toEqual(['number', 'called']);
  });
});

describe('broken rows', () => {
  const file = (count: number, bad: number) =>
    [
      'sku,name,stock',
      ...Array.from({ length: count }, (_, i) =>
        i + 2 === bad ? `S${i},"broken,${i}` : `S${i},"pot, no ${i}",${i}`,
      ),
    ].join('\n');

  test.each([
    [6, 2],
    [5000, 4000],
    [40_000, 39_001],
  ])(
    'of %i rows a mark that never closes, in row %i, costs that row alone and is told with its line',
    async (count, bad) => {
      const { rows } = await read(file(count, bad));
      expect(rows).toHaveLength(count);
      const broken = rows.filter((row) => row.broken);
      expect(broken.map(({ row, broken: why }) => [row, why])).toEqual([
        [bad, `opens a quotation mark in line ${bad} that is never closed. Close or double it`],
      ]);
      expect(rows.at(-1)?.record?.cells).toMatchObject({ sku: `S${count - 1}`, stock: String(count - 1) });
    },
  );

  test('an inch mark is text', async () => {
    const { cells, rows } = await read('sku,name,stock\nA1,12" wheel,5\nA2,"9"" wheel",6\n');
    expect(rows.some(({ broken }) => broken)).toBe(false);
    expect(cells.map(({ name }) => name)).toEqual(['12" wheel', '9" wheel']);
  });

  test('a row with other cells than the heading is told, the others are read', async () => {
    const { rows } = await read('sku,name,stock\nA1,Pot,5\nA2,Box\nA3,Tin,6,7\nA4,Jar,8\n');
    expect(rows.map(({ broken }) => broken)).toEqual([
      undefined,
      'has 2 cells where the heading row has 3',
      'has 4 cells where the heading row has 3',
      undefined,
    ]);
  });

  test('a line longer than a megabyte is left out, the rest is read', async () => {
    const { rows } = await read(`sku,name\nA1,Pot\nA2,${'x'.repeat(3_000_000)}\nA3,Jar\n`);
    expect(rows.map(({ broken }) => broken)).toEqual([
      undefined,
      expect.stringContaining('longer than 1 MB'),
      undefined,
    ]);
    expect(rows[2]?.record?.cells).toEqual({ sku: 'A3', name: 'Jar' });
  });
});
