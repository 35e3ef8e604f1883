import { spawnSync } from 'node:child_process';
import { appendFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildSync } from 'esbuild';
import ExcelJS from 'exceljs';
import type { HostileOutcome } from '../support/hostile';
import { wholeCatalog } from '../support/runs';
import { closeDatabase, freshDemo, temporaryFolder } from '../support/stack';

const folder = temporaryFolder();
/** The heap of the process that takes the files in, in MB: an ordinary file needs less than half of it. */
const heap = 180;
const outcomes = new Map<string, HostileOutcome>();
let before = '';

/** Writes a file of many megabytes piece by piece. */
function write(name: string, head: string, piece?: (i: number) => string, pieces = 0, tail = ''): void {
  const path = join(folder, name);
  writeFileSync(path, head);
  for (let i = 1; i <= pieces; i += 100)
    appendFileSync(
      path,
      Array.from({ length: Math.min(100, pieces - i + 1) }, (_, n) => piece?.(i + n) ?? '').join(''),
    );
  appendFileSync(path, tail);
}

const python = (lines: string) => expect(spawnSync('python3', ['-c', lines]).status).toBe(0);
const wide = `{${Array.from({ length: 1_000_000 }, (_, i) => `"k${i}":1`).join(',')}}]`;

async function writeAll(): Promise<void> {
  write(
    'entities.xml',
    `<!DOCTYPE a [<!ENTITY a "ha">${'bcdefghij'.replace(/./g, (c, i) => `<!ENTITY ${c} "${`&${String.fromCharCode(97 + i)};`.repeat(10)}">`)}]><a><i><sku>&j;</sku></i></a>`,
  );
  write(
    'reads-file.xml',
    '<!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/hostname">]><a><i><sku>&b;</sku></i></a>',
  );
  write('deep.xml', `${'<a>'.repeat(10_000)}x${'</a>'.repeat(10_000)}`);
  write('deep-lists.json', `${'['.repeat(10_000)}${']'.repeat(10_000)}`);
  write('deep-objects.json', `${'{"a":'.repeat(10_000)}1${'}'.repeat(10_000)}`);
  write(
    'million-columns.csv',
    `${Array.from({ length: 1_000_000 }, (_, i) => `c${i}`).join(',')}\n${'x,'.repeat(999_999)}\n`,
  );
  write(
    'deep-later.json',
    '[{"sku":"A","name":"b"},',
    (i) => `{"sku":"A${i}","name":"${'x'.repeat(20_000)}"},`,
    700,
    '['.repeat(10_000),
  );
  write('wide.json', `[{"sku":"A"},${wide}`);
  write(
    'late-wide.json',
    '[{"sku":"A","name":"b"},',
    (i) => `{"sku":"A${i}","name":"${'x'.repeat(30_000)}"},`,
    200,
    wide,
  );
  python(`
import zipfile
z = zipfile.ZipFile('${join(folder, 'bomb.xlsx')}', 'w', zipfile.ZIP_DEFLATED)
z.writestr('xl/workbook.xml', '<workbook/>')
with z.open('xl/worksheets/sheet1.xml', 'w', force_zip64=True) as f:
    for _ in range(60): f.write(b'0' * 1048576)
z.close()
z = zipfile.ZipFile('${join(folder, 'words.xlsx')}', 'w', zipfile.ZIP_DEFLATED, compresslevel=1)
z.writestr('xl/workbook.xml', '<workbook/>')
import os
with z.open('xl/sharedStrings.xml', 'w', force_zip64=True) as f:
    for _ in range(220): f.write(os.urandom(65536).hex().encode() * 8)
z.close()
with zipfile.ZipFile('${join(folder, 'other.xlsx')}', 'w') as z: [z.writestr(n, 'hello') for n in ('a.png', 'b.png')]
open('${join(folder, 'half.xlsx')}', 'wb').write(open('demo/sources/quillmoss-stockroom.xlsx', 'rb').read()[:9000])
`);
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Items').addRows([
    ['sku', 'name', 'price'],
    ['F1', 'Pot', 12],
    ['F2', { formula: 'HYPERLINK("http://x.example","Pot")', result: 'Pot' }, 12],
    ['F3', { formula: 'HYPERLINK("http://x.example","Pan")' }, 12],
  ]);
  writeFileSync(join(folder, 'formula.xlsx'), new Uint8Array(await book.xlsx.writeBuffer()));
  // Longer than the heap; one column of it is taken.
  const remark = `"${'a long remark about a pot '.repeat(1500)}"`;
  write('long.csv', 'sku,name,zz internal\n', (i) => `L${i},Pot ${i},${remark}\n`, 6200);
  write('formula.csv', `sku,name\nF1,Pot\nF2,"=cmd|'/c calc'!A1"\nF3,= 1 + 2\n`);
  const rows = Array.from({ length: 60_000 }, (_, i) => `Z${i},Größe ${i}`).join('\n');
  writeFileSync(
    join(folder, 'bytes.csv'),
    Buffer.concat([Buffer.from(`sku,name\n${rows}\n`), Buffer.from([0x5a, 0xff, 0xfe, 0x2c, 0x41, 0x0a])]),
  );
  writeFileSync(
    join(folder, 'noise.csv'),
    Buffer.from(Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256)),
  );
  // Each was quadratic once.
  write('quotes.csv', `sku,name\nQ1,x${'"'.repeat(32_000)}\nQ2,Pot\n`);
  write('inches.csv', 'sku,name,size\nQ3,12" wheel,5\nQ4,Pot,6\n');
  write(
    'long-number.csv',
    `sku,name,price\nN1,Pot,${'9'.repeat(20_000)}\nN2,Pot,${'1,'.repeat(10_000)}\nN3,Pot,5.00\n`,
  );
  write(
    'long-word.csv',
    `sku,name,color\n${Array.from({ length: 50 }, (_, i) => `W${i},Pot,${'w'.repeat(20_000)}${i}`).join('\n')}\n`,
  );
  write(
    'one-name.csv',
    `sku,name,${Array.from({ length: 1997 }, () => 'price').join(',')}\nO1,Pot,${'1,'.repeat(1996)}1\n`,
  );
  write('slashes.csv', `sku,name,category\nS1,Pot,${'a/'.repeat(150_000)}\nS2,Pot,Pots\n`);
  write(
    'blocks.txt',
    `SKU: B1\nName: Pot\nText: a\n${' '.repeat(500_000)}x\nSKU: B2\nName: Pan\nText: ${'a '.repeat(300_000)}\nSKU: B3\nName: Lid\nText: ${'y'.repeat(2_000_000)}\nSKU: B4\nName: Jar\nText: b\n`,
  );
  write(
    'backslashes.csv',
    `sku,name,description\nE1,Pot,\\N\nE2,Pan,"${'\\"'.repeat(200_000)}"\nE3,Lid,${'\\'.repeat(300_001)},\nE4,Jar,a\n`,
  );
  write(
    'drawn.txt',
    `|sku|name|\n|---|---|\n|D1|Pot|\n|${'-'.repeat(300_000)}x|${' '.repeat(300_000)}|\n|D2|Pan|\n`,
  );
  write(
    'keyed.json',
    '{"goods":{',
    (i) => `"K${i}":{"name":"Pot ${i}","price":${i}},`,
    30_000,
    '"K0":{"name":"Pan","price":1}}}',
  );
  write('rows.json', `{"columns":["sku","name"],"rows":[["R1","Pot"],["R2",${'"x",'.repeat(1500)}"y"]]}`);
  write('names.csv', 'sku,name,constructor,__proto__,toString\nP1,Pot,a,b,c\nP2,Pan,d,e,f\n');
  write(
    'names.json',
    '[{"sku":"P3","name":"Pot","constructor":"a","__proto__":"b"},{"sku":"P4","name":"Pan","hasOwnProperty":{"valueOf":"c"}}]',
  );
  write(
    'names.xml',
    '<r><i><sku>P5</sku><name>Pot</name><constructor>a</constructor><valueOf>b</valueOf></i><i><sku>P6</sku><name>Pan</name></i></r>',
  );
}

beforeAll(async () => {
  await freshDemo();
  before = await wholeCatalog();
  await writeAll();
  const program = join(folder, 'hostile.mjs');
  buildSync({
    entryPoints: ['tests/support/hostile.ts'],
    outfile: program,
    bundle: true,
    packages: 'external',
    platform: 'node',
    target: 'node20',
    format: 'esm',
    logLevel: 'error',
  });
  // Packages are looked for from where the program stands.
  spawnSync('ln', ['-s', join(process.cwd(), 'node_modules'), join(folder, 'node_modules')]);
  const names = [
    ...'entities.xml reads-file.xml deep.xml deep-lists.json deep-objects.json million-columns.csv'.split(
      ' ',
    ),
    ...'deep-later.json wide.json late-wide.json bomb.xlsx words.xlsx other.xlsx half.xlsx formula.xlsx'.split(
      ' ',
    ),
    ...'formula.csv bytes.csv noise.csv quotes.csv inches.csv long-number.csv long-word.csv one-name.csv'.split(
      ' ',
    ),
    ...'long.csv slashes.csv names.csv names.json names.xml'.split(' '),
    ...'blocks.txt backslashes.csv drawn.txt keyed.json rows.json'.split(' '),
  ];
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    [`--max-old-space-size=${heap}`, program, ...names.map((name) => join(folder, name))],
    { encoding: 'utf8', maxBuffer: 64 * 1024 ** 2, env: process.env },
  );
  for (const line of stdout.split('\n').filter((one) => one.startsWith('{'))) {
    const outcome: HostileOutcome = JSON.parse(line);
    outcomes.set(outcome.file.split('/').at(-1) ?? '', outcome);
  }
  // A file that is not there when the process has ended is the one that ended it.
  expect([status, names.filter((name) => !outcomes.has(name)), stderr.slice(-2000)]).toEqual([0, [], '']);
});
afterAll(closeDatabase);

test.each<[string, RegExp]>([
  ['entities.xml', /defines entities of its own/],
  ['reads-file.xml', /defines entities/],
  ['deep.xml', /more than 64 levels/],
  ['deep-lists.json', /more than 64 levels/],
  ['deep-objects.json', /more than 64 levels/],
  ['million-columns.csv', /columns; 2000 are the most/],
  ['wide.json', /more than 20,000 values/],
  ['bomb.xlsx', /unpacks to more than 150 times its size/],
  ['words.xlsx', /more than 192 MB of words|150 times/],
  ['other.xlsx', /holds no file that items could be in, but “a.png”, “b.png”/],
  ['half.xlsx', /not a readable archive/],
  ['noise.csv', /not delimited text/],
])('%s is refused, and nothing is kept', (file, words) => {
  expect(outcomes.get(file)?.refused).toMatch(words);
});

test.each<[string, RegExp]>([
  ['deep-later.json', /more than 64 levels/],
  ['late-wide.json', /more than 20,000 values/],
  ['bytes.csv', /About line 6000\d the file holds bytes that are not UTF-8.*Nothing was changed/],
])('%s ends where it cannot be read, with words', (file, words) => {
  expect(outcomes.get(file)).toMatchObject({ state: 'failed', error: expect.stringMatching(words) });
});

test('formulas are never run: a stored result counts, and without one the row is refused with its cell', () => {
  expect(outcomes.get('formula.xlsx')).toMatchObject({
    counts: { new: 2, rejected: 1 },
    reasons: [expect.stringContaining('a formula without a result in cell B4')],
  });
  expect(outcomes.get('formula.csv')).toMatchObject({
    counts: { new: 1, rejected: 2 },
    reasons: [expect.stringMatching(/“name” holds a formula/), expect.any(String)],
  });
});

test.each<[string, object]>([
  ['long.csv', { new: 6200, rejected: 0 }],
  ['quotes.csv', { new: 2, rejected: 0 }],
  ['inches.csv', { new: 2, rejected: 0 }],
  ['long-number.csv', { new: 1, rejected: 2 }],
  ['long-word.csv', { new: 50, rejected: 0 }],
  ['one-name.csv', { new: 1, rejected: 0 }],
  ['slashes.csv', { new: 1, rejected: 1 }],
  ['blocks.txt', { new: 2, rejected: 2 }],
  ['backslashes.csv', { new: 2, rejected: 2 }],
  ['drawn.txt', { new: 2, rejected: 1 }],
  ['keyed.json', { new: 30_001, rejected: 0 }],
  ['rows.json', { new: 2, rejected: 0 }],
  ['names.csv', { new: 2, rejected: 0 }],
  ['names.json', { new: 2, rejected: 0 }],
  ['names.xml', { new: 2, rejected: 0 }],
])('%s is read to its end', (file, counts) => {
  expect(outcomes.get(file)).toMatchObject({ state: 'checked', error: null, counts });
});

test('the catalog is as it was', async () => {
  expect(await wholeCatalog()).toBe(before);
});
