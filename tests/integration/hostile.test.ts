import { spawnSync } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { listRejections, takeFile } from '@/server/sources/sources';
import { checked, pass, wholeCatalog } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo, temporaryFolder } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const folder = temporaryFolder();
// No measurement of speed: what does not end by then is taken never to end, however busy the machine is.
const seconds = 60;
const megabytes = 350;

/** Runs something that must end soon and must not fill memory, whatever it is given. */
async function soon<T>(work: () => Promise<T>): Promise<T> {
  const before = process.memoryUsage().rss;
  const begun = Date.now();
  try {
    return await work();
  } finally {
    expect((Date.now() - begun) / 1000).toBeLessThan(seconds);
    expect((process.memoryUsage().rss - before) / 1024 ** 2).toBeLessThan(megabytes);
  }
}

/** A file of many megabytes, made piece by piece. */
function stream(
  head: string,
  piece: (i: number) => string,
  pieces: number,
  tail = '',
): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let at = -1;
  return new ReadableStream({
    pull(controller) {
      at++;
      if (at === 0) controller.enqueue(encoder.encode(head));
      else if (at <= pieces) controller.enqueue(encoder.encode(piece(at)));
      else {
        if (tail) controller.enqueue(encoder.encode(tail));
        controller.close();
      }
    },
  });
}

let before = '';
beforeAll(async () => {
  before = await wholeCatalog();
});
afterEach(async () => {
  expect(await wholeCatalog()).toBe(before);
});

test.each<[string, string, RegExp]>([
  [
    'entities that multiply',
    `<!DOCTYPE a [<!ENTITY a "ha">${'bcdefghij'.replace(/./g, (c, i) => `<!ENTITY ${c} "${`&${String.fromCharCode(97 + i)};`.repeat(10)}">`)}]><a><i><sku>&j;</sku></i></a>`,
    /defines entities of its own/,
  ],
  [
    'an entity that reads a file',
    '<!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/hostname">]><a><i><sku>&b;</sku></i></a>',
    /defines entities/,
  ],
  ['XML nested 10,000 deep', `${'<a>'.repeat(10_000)}x${'</a>'.repeat(10_000)}`, /more than 64 levels/],
  ['JSON lists nested 10,000 deep', `${'['.repeat(10_000)}${']'.repeat(10_000)}`, /more than 64 levels/],
  [
    'JSON objects nested 10,000 deep',
    `${'{"a":'.repeat(10_000)}1${'}'.repeat(10_000)}`,
    /more than 64 levels/,
  ],
  [
    '1 million columns',
    `${Array.from({ length: 1_000_000 }, (_, i) => `c${i}`).join(',')}\n${'x,'.repeat(999_999)}\n`,
    /columns; 2000 are the most/,
  ],
])('%s', async (_name, text, words) => {
  await soon(() => expect(takeFile('hostile', bodyOf(text))).rejects.toThrow(words));
});

test('deep nesting far down in a large file', async () => {
  const file = stream(
    '[{"sku":"A","name":"b"},',
    (i) => `{"sku":"A${i}","name":"${'x'.repeat(50_000)}"},`,
    300,
    `${'['.repeat(10_000)}`,
  );
  const id = await soon(() => takeFile('deep.json', file));
  const found = await soon(() => pass(id, 'check'));
  expect(found.state).toBe('failed');
  expect(found.error).toMatch(/more than 64 levels/);
});

const wide = `{${Array.from({ length: 1_000_000 }, (_, i) => `"k${i}":1`).join(',')}}]`;

test('a record with a million values, at the start and far down', async () => {
  await soon(() =>
    expect(takeFile('wide.json', bodyOf(`[{"sku":"A"},${wide}`))).rejects.toThrow(/2000 are the most/),
  );
  const file = stream(
    '[{"sku":"A","name":"b"},',
    (i) => `{"sku":"A${i}","name":"${'x'.repeat(30_000)}"},`,
    200,
    wide,
  );
  const id = await takeFile('late-wide.json', file);
  const found = await soon(() => pass(id, 'check'));
  expect(found.error).toMatch(/more than 20,000 values/);
});

test('a workbook that unpacks to ten thousand times its size', async () => {
  const path = join(folder, 'bomb.xlsx');
  const made = spawnSync('python3', [
    '-c',
    `
import zipfile
z = zipfile.ZipFile('${path}', 'w', zipfile.ZIP_DEFLATED)
z.writestr('xl/workbook.xml', '<workbook/>')
with z.open('xl/worksheets/sheet1.xml', 'w', force_zip64=True) as f:
    for _ in range(1500): f.write(b'0' * 1048576)
z.close()
`,
  ]);
  expect(made.status).toBe(0);
  await soon(() =>
    expect(takeFile('bomb.xlsx', createReadStream(path))).rejects.toThrow(
      /unpacks to more than 150 times its size/,
    ),
  );
});

test('an archive that is no workbook, and a workbook cut in the middle', async () => {
  const path = join(folder, 'other.zip');
  spawnSync('python3', [
    '-c',
    `import zipfile\nwith zipfile.ZipFile('${path}', 'w') as z: z.writestr('a.txt', 'hello')`,
  ]);
  await expect(takeFile('other.xlsx', createReadStream(path))).rejects.toThrow('it has no sheets');
  const half = createReadStream('demo/sources/quillmoss-stockroom.xlsx', { end: 9000 });
  await soon(() => expect(takeFile('half.xlsx', half)).rejects.toThrow(/not a readable archive/));
});

test('formulas are never run: the rows that hold one are refused with the cell', async () => {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Items');
  sheet.addRows([
    ['sku', 'name', 'price'],
    ['F1', 'Pot', 12],
    ['F2', { formula: 'HYPERLINK("http://x.example","Pot")', result: 'Pot' }, 12],
  ]);
  const workbook = await checked('formula.xlsx', new Uint8Array(await book.xlsx.writeBuffer()));
  expect(workbook.counts).toMatchObject({ new: 1, rejected: 1 });
  expect((await listRejections(workbook.id))[0]).toMatchObject({
    row: 3,
    reason: expect.stringContaining('a formula in cell B3'),
  });
  const text = await checked('formula.csv', `sku,name\nF1,Pot\nF2,"=cmd|'/c calc'!A1"\nF3,= 1 + 2\n`);
  expect(text.counts).toMatchObject({ new: 1, rejected: 2 });
  expect((await listRejections(text.id))[0]?.reason).toMatch(/“name” holds a formula/);
});

test('bytes that are no text of the encoding, at the start and far down', async () => {
  const rows = Array.from({ length: 60_000 }, (_, i) => `Z${i},Größe ${i}`).join('\n');
  const bytes = Buffer.concat([
    Buffer.from(`sku,name\n${rows}\n`),
    Buffer.from([0x5a, 0xff, 0xfe, 0x2c, 0x41, 0x0a]),
  ]);
  const found = await soon(() => checked('bytes.csv', bytes));
  expect(found.state).toBe('failed');
  expect(found.error).toMatch(
    /About line 6000\d the file holds bytes that are not UTF-8.*Nothing was changed/,
  );
  await expect(
    takeFile('noise.csv', bodyOf(Buffer.from(Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256)))),
  ).rejects.toThrow(/not delimited text/);
});
