import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { eq } from 'drizzle-orm';
import { fromAttribute } from '@/core/compose/composition';
import { db } from '@/server/db/connection';
import { item, rejection, source } from '@/server/db/schema';
import { changeForm, editMapping } from '@/server/import/runs';
import { listRejections, listStaged, takeFile } from '@/server/import/sources';
import { settings } from '@/server/runtime/settings';
import { bringIn, checked, pass, wholeCatalog } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const csv =
  'Code;Name;EAN;Price;Brand;Category\nWP-1;Wall pot;9520000990015;12,90;Fernholm;Wall pots\nWP-2;Wall pot, large;9520000990022;1.019,90;Fernholm;Wall pots\n;no code;;1;;\nWP-3;Bad price;;dear;;\nWP-1;Again;;1;;\n';

test('new, rejected with reasons, then the same file changes nothing', async () => {
  const id = await takeFile('wall.csv', bodyOf(csv));
  const before = await wholeCatalog();
  const found = await pass(id, 'check');
  expect(found.state).toBe('checked');
  expect(found.counts).toEqual({ rows: 5, new: 2, changed: 0, unchanged: 0, missing: 0, rejected: 3 });
  expect((await listRejections(id)).map(({ row, reason }) => [row, reason])).toEqual([
    [4, 'has no SKU'],
    [5, 'price “dear” is not an amount'],
    [6, 'repeats the SKU WP-1 of row 2'],
  ]);
  expect(await wholeCatalog()).toBe(before);

  expect((await pass(id, 'apply')).state).toBe('done');
  const [stored] = await db.select().from(item).where(eq(item.sku, 'WP-2'));
  expect(stored?.values).toMatchObject({ name: 'Wall pot, large', price: '1019.90', gtin: '9520000990022' });
  expect(stored?.origins.price).toEqual({ file: 'wall.csv', row: 3, column: 'Price', cell: '1.019,90' });

  const after = await wholeCatalog();
  const again = await checked('wall.csv', csv);
  expect(again.counts).toEqual({ rows: 5, new: 0, changed: 0, unchanged: 2, missing: 0, rejected: 3 });
  await bringIn('wall.csv', csv);
  expect(await wholeCatalog()).toBe(after);
});

test('a changed cell is told field by field, and other values stay', async () => {
  const id = await takeFile(
    'wall.csv',
    bodyOf('Code;Name;EAN;Price;Brand;Category\nWP-1;Wall pot;;13,90;;\n'),
  );
  const found = await pass(id, 'check');
  expect(found.counts).toMatchObject({ changed: 1, missing: 1 });
  expect(await listStaged(id, 'changed')).toMatchObject([
    { sku: 'WP-1', row: 2, changes: [['price', '12.90', '13.90']] },
  ]);
  expect(await listStaged(id, 'missing')).toMatchObject([{ sku: 'WP-2', changes: [], chosen: false }]);
  await pass(id, 'apply');
  const [stored] = await db.select().from(item).where(eq(item.sku, 'WP-1'));
  expect(stored?.values).toMatchObject({ price: '13.90', gtin: '9520000990015', brand: 'Fernholm' });
});

test('a packed file comes in as what is packed, under its name; a broken one leaves nothing', async () => {
  const plain = Buffer.from('sku,name\nGZ-1,Pot\nGZ-2,Can\n');
  const id = await takeFile('packed.csv.gz', bodyOf(gzipSync(plain)));
  expect(await pass(id, 'check')).toMatchObject({ state: 'checked', counts: { new: 2, rejected: 0 } });
  const [found] = await db.select().from(source).where(eq(source.name, 'packed'));
  expect(found).toBeDefined();
  await expect(takeFile('broken.csv.gz', bodyOf(gzipSync(plain).subarray(0, 20)))).rejects.toThrow(
    /cannot be unpacked/,
  );
  expect(await db.select().from(source).where(eq(source.name, 'broken'))).toEqual([]);
});

test('an archive comes in as the one file in it that items can be in; a refused one leaves nothing behind', async () => {
  const folder = join(settings.dataFolder, 'uploads');
  const isKept = (bytes: Uint8Array) =>
    readdirSync(folder).some(
      (name) => existsSync(join(folder, name)) && readFileSync(join(folder, name)).equals(bytes),
    );
  const zip = readFileSync('tests/data/sources/nl-levering.zip');
  const id = await takeFile('levering.csv.zip', bodyOf(zip));
  expect(isKept(zip)).toBe(false);
  expect(await pass(id, 'check')).toMatchObject({ state: 'checked', counts: { new: 3, rejected: 0 } });
  expect(await db.select().from(source).where(eq(source.name, 'levering'))).toHaveLength(1);
  const half = zip.subarray(0, 200);
  await expect(takeFile('half.zip', bodyOf(half))).rejects.toThrow(/not a readable archive/);
  expect(isKept(half)).toBe(false);
  const xls = readFileSync('tests/data/sources/de-sommer.xls');
  const old = await takeFile('sommer.xls', bodyOf(xls));
  expect(isKept(xls)).toBe(true);
  expect(await pass(old, 'check')).toMatchObject({ state: 'checked', counts: { new: 5, rejected: 0 } });
});

test('where columns of fixed width begin is found, and can be said', async () => {
  const id = await takeFile('tools.txt', bodyOf(readFileSync('tests/data/sources/en-tools.txt')));
  const found = await pass(id, 'check');
  expect(found.mapping).toMatchObject({ kind: 'fixed', starts: [0, 9, 27, 41, 50, 60] });
  expect(found.counts).toMatchObject({ new: 22, rejected: 0 });
  await changeForm(id, { starts: [0, 9, 27, 60] });
  const { mapping } = await pass(id, 'check');
  expect(mapping.starts).toEqual([0, 9, 27, 60]);
  expect(Object.keys(mapping.fields)).not.toContain('price');
  // It is taken for delimited text where that is said, and back.
  await changeForm(id, { kind: 'delimited', separator: ',' });
  const split = (await pass(id, 'check')).mapping;
  expect([split.kind, split.starts]).toEqual(['delimited', undefined]);
  await changeForm(id, { kind: 'fixed' });
  expect((await pass(id, 'check')).mapping.starts).toEqual([0, 9, 27, 41, 50, 60]);
  // Said wrongly, each row tells where.
  await changeForm(id, { starts: [0, 5, 27] });
  expect((await pass(id, 'check')).counts).toMatchObject({ new: 0 });
  expect((await listRejections(id))[0]?.reason).toMatch(
    /^has no blank before column 2, which starts at character 6/,
  );
});

test('sizes across, items side by side and lines of values are found, come in, and can be said to be otherwise', async () => {
  const sourceOf = (name: string) => bodyOf(readFileSync(`tests/data/sources/${name}`));
  const sizes = await takeFile('sizes.csv', sourceOf('en-sizes.csv'));
  const found = await pass(sizes, 'check');
  expect(found.mapping).toMatchObject({ across: ['36', '37', '38', '39', '40', '41'] });
  expect(found.counts).toMatchObject({ new: 13, rejected: 0 });
  expect((await listStaged(sizes, 'new', 100)).map(({ row }) => row)).toHaveLength(13);
  await changeForm(sizes, { across: [] });
  // Nothing tells the rows apart then: two share their style.
  expect((await pass(sizes, 'check')).counts).toMatchObject({ new: 0, rejected: 3 });
  const beside = await takeFile('beside.csv', sourceOf('de-nebeneinander.csv'));
  expect((await pass(beside, 'check')).counts).toMatchObject({ new: 4, rejected: 0 });
  await changeForm(beside, { turned: false });
  const plain = await pass(beside, 'check');
  expect(plain.mapping.turned).toBeFalsy();
  await changeForm(beside, { turned: true });
  expect((await pass(beside, 'check')).counts).toMatchObject({ new: 4, rejected: 0 });
  const lamps = await takeFile('lamps.txt', sourceOf('nl-lampen.txt'));
  expect((await pass(lamps, 'check')).mapping).toMatchObject({ kind: 'blocks', begins: 'Artikelcode' });
  await changeForm(lamps, { kind: 'delimited', separator: ';' });
  expect((await pass(lamps, 'check')).mapping.kind).toBe('delimited');
  await changeForm(lamps, { kind: 'blocks' });
  expect((await pass(lamps, 'check')).counts).toMatchObject({ new: 3, rejected: 0 });
});

test('columns that pairs name may come far below, or not at all', async () => {
  const rows = (named: string) =>
    Array.from({ length: 400 }, (_, i) => `PR-${i};Pot ${i};${i === 350 ? named : 'Farbe'};v${i}`).join('\n');
  const id = await takeFile('pairs.csv', bodyOf(`Code;Name;Merkmal 1;Wert 1\n${rows('Größe')}\n`));
  const mapped = await pass(id, 'check');
  expect(mapped).toMatchObject({ state: 'checked', counts: { new: 400, rejected: 0 } });
  expect(Object.keys(mapped.mapping.fields)).toContain('color');
  await editMapping(id, { edit: 'field', attribute: 'size', composition: fromAttribute('Größe') });
  expect(await pass(id, 'check')).toMatchObject({ state: 'checked', counts: { new: 400, rejected: 0 } });
});

test('damage is told with its count; only the accepted kind is repaired', async () => {
  const id = await takeFile('other-lights.csv', bodyOf(readFileSync('tests/data/verrin-lights.csv')));
  const looked = await pass(id, 'check');
  const brief = (repairs: typeof looked.repairs) =>
    repairs?.map(({ damage, attribute, count, repairable }) => [damage, attribute, count, repairable]);
  const wanted = [
    ['date', 'mpn', 1, 1],
    ['scientific', 'gtin', 1, 0],
    ['leadingZeros', 'gtin', 1, 1],
    ['encoding', 'color', 1, 1],
  ];
  expect(brief(looked.repairs)).toEqual(wanted);
  await editMapping(id, { edit: 'repair', damage: 'leadingZeros', accepted: true });
  expect(brief((await pass(id, 'check')).repairs)).toEqual(wanted);
  await pass(id, 'apply');
  const [stored] = await db.select().from(item).where(eq(item.sku, 'VR-N-3'));
  expect(stored?.values).toMatchObject({ gtin: '012345678905', color: 'GrÃ¼n' });
  expect(stored?.origins.gtin).toMatchObject({ cell: '12345678905' });
  const [rounded] = await db.select().from(item).where(eq(item.sku, 'VR-N-2'));
  expect(rounded?.values.gtin).toBe('9,52E+12');
});

describe('files that cannot be used', () => {
  let before = '';
  let sources = 0;
  const count = async () => (await db.select().from(source)).length;
  beforeAll(async () => {
    before = await wholeCatalog();
    sources = await count();
  });
  afterEach(async () => {
    expect(await wholeCatalog()).toBe(before);
  });

  test.each<[string, string | Uint8Array, RegExp]>([
    ['an empty file', '', /The file is empty.*Nothing was changed/],
    ['a file of zeros', new Uint8Array(4096), /zero bytes.*Nothing was changed/],
    ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 0, 1]), /not delimited text/],
    ['a broken archive', new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 1]), /not a readable archive/],
    ['only a heading row', 'sku,name\n', /nothing below it/],
    ['too many columns', `${Array.from({ length: 3000 }, (_, i) => `c${i}`).join(',')}\nA\n`, /3000 columns/],
  ])('%s', async (_name, bytes, words) => {
    await expect(takeFile('bad.csv', bodyOf(bytes))).rejects.toThrow(words);
    expect(await count()).toBe(sources);
  });

  test('a column that is missing is named', async () => {
    const id = await takeFile('short.csv', bodyOf('Code;Name\nWP-9;Pot\n'));
    const price = {
      alternatives: [{ parts: [{ attribute: 'Price', glue: ' ', steps: [] }], steps: [] }],
      steps: [],
    };
    await editMapping(id, { edit: 'field', attribute: 'price', composition: price });
    const failed = await pass(id, 'check');
    expect(failed.state).toBe('failed');
    expect(failed.error).toMatch(/no column “Price”, the source of Price.*Nothing was changed/);
  });

  test('a mark that never closes, also far beyond the preview, costs its own row and is told with its line', async () => {
    const rows = Array.from({ length: 40_000 }, (_, i) => `Z${i},Pot number ${i}`).join('\n');
    const id = await takeFile('late.csv', bodyOf(`sku,name\n${rows}\nZZ,"open\nlast,one\n`));
    expect(await pass(id, 'check')).toMatchObject({ state: 'checked', counts: { new: 40_001, rejected: 1 } });
    const [refused] = await db.select().from(rejection).where(eq(rejection.runId, id));
    expect(refused).toMatchObject({ row: 40_002, record: ['ZZ', '"open'] });
    expect(refused?.reason).toContain('opens a quotation mark in line 40002 that is never closed');
  });
});
