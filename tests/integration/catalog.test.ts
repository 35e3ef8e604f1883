import { readFileSync } from 'node:fs';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { fromAttribute } from '@/core/compose/composition';
import { skuPattern } from '@/core/variants/variants';
import {
  findAttribute,
  listAttributes,
  previewRename,
  removeAttribute,
  renameTerm,
  saveAttribute,
  setTerms,
} from '@/server/catalog/attributes';
import { undoEdit } from '@/server/catalog/editing';
import { foundOf } from '@/server/catalog/externalFacts';
import {
  copyFamily,
  createFamily,
  editFamilyValue,
  findFamily,
  makeVariants,
  mergeItems,
  moveItems,
  previewVariants,
  removeFamily,
  splitFamily,
} from '@/server/catalog/families';
import {
  applyBulk,
  archiveItems,
  copyItem,
  createItem,
  editCells,
  listArchived,
  previewBulk,
} from '@/server/catalog/itemEdits';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { db } from '@/server/db/connection';
import { item, picture } from '@/server/db/schema';
import { findItem, itemTable, matchingSkus, queryItems } from '@/server/items/items';
import { listViews, removeView, saveView } from '@/server/items/savedViews';
import { measureAll, nearDuplicates } from '@/server/pictures/duplicates';
import { addPicture, orderPictures, setAlternativeText, takePicture } from '@/server/pictures/editing';
import { picturesOf } from '@/server/pictures/pictures';
import { bringIn, editItem, wholeCatalog } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const itemOf = async (sku: string) => {
  const found = await findItem(sku);
  if (!found) throw new Error(`no item ${sku}`);
  return found;
};

describe('families', () => {
  const axes = [
    { axis: 'color', terms: ['fern', 'oat', 'ink', 'plum'] },
    { axis: 'size', terms: ['S', 'M', 'L'] },
    { axis: 'material', terms: ['Linen', 'Cotton'] },
  ];
  const request = { axes, sku: skuPattern(['color', 'size', 'material']), name: undefined };

  test('four colours, three sizes and two materials make 24; a term more adds only what is missing', async () => {
    await createFamily('HAT', 'Sun hat', []);
    const { words } = await makeVariants('HAT', request);
    expect(words).toBe('made 24 variants of HAT');
    const made = await findFamily('HAT');
    expect(made?.members).toHaveLength(24);
    expect(made?.variesBy).toEqual(['color', 'size', 'material']);
    expect(made?.members[0]).toEqual({
      sku: 'HAT-FERN-S-LINEN',
      values: { color: 'fern', size: 'S', material: 'Linen' },
    });
    await editItem('HAT-FERN-S-LINEN', 'price', '19.90');
    const more = {
      ...request,
      axes: [...axes.slice(0, 1), { axis: 'size', terms: ['S', 'M', 'L', 'XL'] }, ...axes.slice(2)],
    };
    const planned = await previewVariants('HAT', more);
    expect(planned.filter(({ existing }) => existing === undefined)).toHaveLength(8);
    await makeVariants('HAT', more);
    const grown = await findFamily('HAT');
    expect(grown?.members).toHaveLength(32);
    expect(grown?.members[0]?.values.price).toBe('19.90');
  });

  test('a pattern that gives an SKU twice, or one that is taken, makes nothing', async () => {
    const before = await wholeCatalog();
    await createFamily('CAP', 'Cap', []);
    await expect(
      makeVariants('CAP', {
        axes: [{ axis: 'size', terms: ['S', 'M'] }],
        sku: fromAttribute('family'),
        name: undefined,
      }),
    ).rejects.toThrow('gives the SKU CAP twice');
    await createItem('CAP-S', { name: 'In the way' }, null);
    await expect(
      makeVariants('CAP', {
        axes: [{ axis: 'size', terms: ['S', 'M'] }],
        sku: skuPattern(['size']),
        name: undefined,
      }),
    ).rejects.toThrow('The SKU CAP-S belongs to another item');
    await undoEdit();
    await undoEdit();
    expect(await wholeCatalog()).toBe(before);
  });

  test('a family’s value is every item’s but those that say otherwise', async () => {
    await editFamilyValue('HAT', 'brand', 'Fernholm');
    await editItem('HAT-OAT-S-LINEN', 'brand', 'Other');
    await editFamilyValue('HAT', 'brand', 'Quillmoss');
    const { rows, index, positionOf } = await currentSnapshot();
    const brand = (sku: string) => rows[positionOf(sku) ?? -1]?.[index.slotOf('brand') ?? -1];
    expect([brand('HAT-FERN-S-LINEN'), brand('HAT-OAT-S-LINEN')]).toEqual(['Quillmoss', 'Other']);
    const [stored] = await db.select().from(item).where(eq(item.sku, 'HAT-FERN-S-LINEN'));
    expect(stored?.brand).toBe('Quillmoss');
    await editItem('HAT-OAT-S-LINEN', 'brand', '');
    expect((await itemOf('HAT-OAT-S-LINEN')).own.brand).toBeUndefined();
  });

  test('items keep every value they show when they move, split or are merged', async () => {
    const shown = async (sku: string) => {
      const { own, shared } = await itemOf(sku);
      return { ...shared, ...own };
    };
    const before = await shown('QM-POT-RDG-MOS-14');
    const whole = await wholeCatalog();
    await moveItems(['QM-POT-RDG-MOS-14'], null);
    expect(await shown('QM-POT-RDG-MOS-14')).toEqual(before);
    await undoEdit();
    await splitFamily('POT-RDG', 'glaze');
    expect(await shown('QM-POT-RDG-MOS-14')).toEqual(before);
    expect((await itemOf('QM-POT-RDG-INK-14')).family?.code).toBe('POT-RDG-INK');
    expect((await findFamily('POT-RDG-INK'))?.variesBy).toEqual(['diameter']);
    await undoEdit();
    expect(await wholeCatalog()).toBe(whole);

    await bringIn('merge.csv', 'sku,name,brand,color\nME1,Hook,Holm,red\nME2,Hook,Holm,blue\n');
    await mergeItems(['ME1', 'ME2'], 'HOOK');
    expect(await findFamily('HOOK')).toMatchObject({
      variesBy: ['color'],
      values: { name: 'Hook', brand: 'Holm' },
      members: [
        { sku: 'ME1', values: { color: 'red' } },
        { sku: 'ME2', values: { color: 'blue' } },
      ],
    });
    await expect(mergeItems(['ME1', 'HAT-FERN-S-LINEN'], 'NO')).rejects.toThrow('belongs to HAT already');
    await expect(removeFamily('HOOK')).rejects.toThrow('still has 2 items');
    await copyFamily('HOOK', 'HOOK2');
    expect(await findFamily('HOOK2')).toMatchObject({ variesBy: ['color'], members: [] });
    await removeFamily('HOOK2');
    expect(await findFamily('HOOK2')).toBeUndefined();
  });
});

describe('items', () => {
  test('are added, copied without what names one item, archived and brought back', async () => {
    await createItem('NEW-1', { name: 'Trowel', price: '12,50', gtin: '9520000030148' }, null);
    await expect(createItem('NEW-1', { name: 'Again' }, null)).rejects.toThrow('already an item NEW-1');
    await copyItem('NEW-1', 'NEW-2');
    expect((await itemOf('NEW-2')).own).toEqual({ name: 'Trowel', price: '12.50' });
    await archiveItems(['NEW-1'], true);
    expect((await currentSnapshot()).positionOf('NEW-1')).toBeUndefined();
    expect(await listArchived()).toMatchObject([{ sku: 'NEW-1', name: 'Trowel' }]);
    await archiveItems(['NEW-1'], false);
    expect((await currentSnapshot()).positionOf('NEW-1')).toBeDefined();
  });

  test.each([
    ['price', 'dear', /not an amount/],
    ['price', '-3', /below zero/],
    ['inventoryLevel', 'ca. 20', /not a number/],
    ['weight', '3', null],
    ['weight', 'heavy', /number with a unit/],
    ['sowBy', '2026-13-01', /not a date/],
    ['digital', 'perhaps', /neither yes nor no/],
    ['gtin', '12', /not a GTIN/],
  ])('%s “%s”', async (attribute, text, refusal) => {
    const { ok, words } = await editItem('NEW-2', attribute, text);
    if (refusal) {
      expect(ok).toBe(false);
      expect(words).toMatch(refusal);
    } else {
      expect(ok).toBe(true);
      expect((await itemOf('NEW-2')).own[attribute]).toBe('3 kg');
    }
  });

  test('rich text is kept clean', async () => {
    await editItem(
      'NEW-2',
      'description',
      '<p onclick="x()">Good <b>steel</b><script>alert(1)</script></p><p></p><a href="javascript:x()">here</a><iframe src="x"></iframe>',
    );
    expect((await itemOf('NEW-2')).own.description).toBe('<p>Good <b>steel</b></p><a>here</a>');
  });

  test('a block of cells is taken whole or not at all', async () => {
    const before = await wholeCatalog();
    await expect(
      editCells([
        { sku: 'NEW-2', attribute: 'price', text: '1,00' },
        { sku: 'NEW-1', attribute: 'price', text: 'dear' },
      ]),
    ).rejects.toThrow(/Price of NEW-1: “dear” is not an amount.*Nothing was changed/);
    expect(await wholeCatalog()).toBe(before);
    const { words } = await editCells([
      { sku: 'NEW-2', attribute: 'price', text: '1,00' },
      { sku: 'NEW-1', attribute: 'color', text: 'red' },
    ]);
    expect(words).toBe('changed 2 cells of 2 items');
    await undoEdit();
    expect(await wholeCatalog()).toBe(before);
  });

  test('a bulk edit shows what it does, does that, and can be undone unless something changed since', async () => {
    const before = await wholeCatalog();
    const all = {
      columns: ['sku', 'brand'],
      search: '',
      filters: { brand: 'tarnholt' },
      sort: '',
      descending: false,
    };
    const skus = await matchingSkus(all);
    expect(skus).toHaveLength(60);
    const composition = {
      alternatives: [
        {
          parts: [
            { attribute: 'brand', glue: ' ', steps: [] },
            { attribute: 'name', glue: ' ', steps: [] },
          ],
          steps: [],
        },
      ],
      steps: [],
    };
    const preview = await previewBulk('name', composition, skus);
    expect(preview).toMatchObject({ count: 60, same: 0, refused: 0 });
    expect(preview.examples[0]).toEqual({
      sku: 'QM-POT-RDG-MOS-10',
      before: 'Ridge pot with drip tray and felt feet',
      after: 'Tarnholt Ridge pot with drip tray and felt feet',
      refused: undefined,
    });
    expect(await wholeCatalog()).toBe(before);
    const done = await applyBulk('name', composition, skus);
    expect((await itemOf('QM-POT-RDG-MOS-10')).own.name).toBe(
      'Tarnholt Ridge pot with drip tray and felt feet',
    );
    await editItem('QM-POT-RDG-MOS-10', 'name', 'Mine');
    await expect(undoEdit(done.id)).rejects.toThrow(/QM-POT-RDG-MOS-10 changed since/);
    await undoEdit();
    await undoEdit();
    expect(await wholeCatalog()).toBe(before);
    expect(await previewBulk('price', fromAttribute('name'), skus.slice(0, 5))).toMatchObject({
      count: 0,
      refused: 5,
    });
  });

  test('filters take parts, whole values and empty cells; the export holds what is seen', async () => {
    const query = (filters: Record<string, string>, only: string[] = []) =>
      queryItems({
        columns: ['sku', 'brand'],
        search: '',
        filters,
        sort: '',
        descending: false,
        only,
        from: 0,
        count: 500,
      });
    expect((await query({ brand: '=Tarnholt' })).total).toBe(60);
    expect((await query({ brand: '=Tarn' })).total).toBe(0);
    expect((await query({}, ['NEW-1', 'NEW-2'])).total).toBe(2);
    const { headings, rows: read } = await itemTable({
      columns: ['sku', 'name', 'price'],
      search: '',
      filters: { sku: 'sp-bok' },
      sort: 'price',
      descending: true,
    });
    const rows = [...read];
    expect(headings).toEqual(['SKU', 'Name', 'Price']);
    expect(rows).toHaveLength(19);
    expect(Number(rows[0]?.[2])).toBeGreaterThanOrEqual(Number(rows[18]?.[2]));
  });

  test('measures are sorted by size whatever their unit, and punctuation in a search counts', async () => {
    const made = { 'AU-1': '1.5 kg', 'AU-2': '1.25 kg', 'AU-3': '900 g', 'AU-4': '10 kg', 'AU-5': '' };
    for (const [sku, weight] of Object.entries(made))
      await createItem(sku, { name: `Saucer, crème ${sku.slice(-1)}`, weight }, null);
    const asked = async (search: string, descending = false) =>
      (
        await queryItems({
          columns: ['sku', 'name', 'weight'],
          search,
          filters: {},
          sort: 'weight',
          descending,
          only: Object.keys(made),
          from: 0,
          count: 10,
        })
      ).rows.map(({ sku }) => sku);
    expect(await asked('')).toEqual(['AU-3', 'AU-2', 'AU-1', 'AU-4', 'AU-5']);
    expect(await asked('', true)).toEqual(['AU-4', 'AU-1', 'AU-2', 'AU-3', 'AU-5']);
    expect(await asked('au')).toHaveLength(5);
    expect(await asked('AU-')).toHaveLength(5);
    expect(await asked('SA-')).toEqual([]);
    expect(await asked('creme, AU-2')).toEqual(['AU-2']);
    expect(await asked('1.25')).toEqual(['AU-2']);
    await archiveItems(Object.keys(made), true);
  });

  test('views are kept under their name', async () => {
    await saveView('Pots', 'f.category=Pots');
    await saveView('Pots', 'f.category=pots');
    const [view, ...others] = await listViews();
    expect([view?.query, others]).toEqual(['f.category=pots', []]);
    await removeView(view?.id ?? 0);
    expect(await listViews()).toEqual([]);
  });
});

describe('attributes', () => {
  test('one can be added at any time, for one family only, and taken away while it is empty', async () => {
    await saveAttribute(
      { code: 'brim', label: 'Brim', kind: 'measure', unit: 'cm', synonyms: [], family: 'HAT' },
      true,
    );
    await expect(
      saveAttribute({ code: 'brim', label: 'Brim 2', kind: 'text', synonyms: [] }, true),
    ).rejects.toThrow('already an attribute brim');
    await editItem('HAT-FERN-S-LINEN', 'brim', '7');
    expect((await itemOf('HAT-FERN-S-LINEN')).own.brim).toBe('7 cm');
    await expect(removeAttribute('brim')).rejects.toThrow('1 item has a value');
    await expect(
      saveAttribute({ code: 'brim', label: 'Brim', kind: 'text', synonyms: [] }, false),
    ).rejects.toThrow('its kind cannot change');
    await editItem('HAT-FERN-S-LINEN', 'brim', '');
    await removeAttribute('brim');
    expect(await findAttribute('brim')).toBeUndefined();
  });

  test('renaming a term says what it touches and keeps the old word as a synonym', async () => {
    expect(await previewRename('glaze', 'moss', 'forest')).toEqual({
      items: 17,
      families: 0,
      feeds: [],
      merges: false,
    });
    expect((await previewRename('glaze', 'chalk', 'lime')).feeds).toEqual(['lanternry-de']);
    const before = await wholeCatalog();
    await renameTerm('glaze', 'moss', 'forest');
    const found = await findAttribute('glaze');
    expect(found?.termLines.find(({ term }) => term === 'forest')).toMatchObject({
      count: 17,
      synonyms: ['moss'],
    });
    // A source that still says the old word brings the term.
    await bringIn('glazes.csv', 'sku,name,glaze\nGZ-1,Cup,Moss\n');
    expect((await itemOf('GZ-1')).own.glaze).toBe('forest');
    expect((await previewRename('glaze', 'forest', 'ink')).merges).toBe(true);
    await archiveItems(['GZ-1'], true);
    await undoEdit();
    await undoEdit();
    expect(await wholeCatalog()).toContain('"glaze":"moss"');
    expect(before).toContain('"glaze":"moss"');
  });

  test('terms keep the order they are given', async () => {
    await setTerms('size', [
      { term: 'S', synonyms: ['small'] },
      { term: 'XS', synonyms: [] },
    ]);
    const found = await findAttribute('size');
    expect(found?.termLines.slice(0, 2).map(({ term }) => term)).toEqual(['S', 'XS']);
  });

  test('the mistakes of the demo are seen at a glance', async () => {
    const { lines } = await listAttributes();
    const odd = (code: string) => lines.find((line) => line.code === code)?.quality.odd ?? [];
    expect(odd('gtin')).toContainEqual({
      kind: 'shared',
      values: ['9520000030773'],
      skus: ['QM-POT-RDG-TER-10', 'QM-POT-RDG-TER-14'],
    });
    expect(odd('price')).toContainEqual(expect.objectContaining({ kind: 'unreadable', values: ['0.00'] }));
    expect(odd('weight')).toContainEqual(expect.objectContaining({ kind: 'unreadable', values: ['1400'] }));
  });
});

describe('pictures', () => {
  const draw = (colour: string, side = 1200, format: 'jpeg' | 'png' = 'jpeg') =>
    sharp(
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect width="100" height="100" fill="#fff"/><path d="M20 80 L50 10 L80 80 Z" fill="${colour}"/><circle cx="30" cy="30" r="9" fill="#222"/></svg>`,
      ),
    )
      .resize(side, side)
      .toFormat(format)
      .toBuffer();

  test('an uploaded one is measured; order, words and near-duplicates', async () => {
    await takePicture({ sku: 'NEW-2' }, 'front view.jpg', bodyOf(await draw('#446644')));
    await takePicture({ sku: 'NEW-2' }, 'side.png', bodyOf(await draw('#aa3311', 300, 'png')));
    const links = (await itemOf('NEW-2')).own.image as string[];
    expect(links).toHaveLength(2);
    expect(links[0]).toMatch(/^https:\/\/quillmoss\.example\/pictures\/front-view-[0-9a-f]{12}\.jpg$/);
    const [front, side] = await picturesOf(links);
    expect(front?.facts).toMatchObject({ width: 1200, height: 1200, format: 'jpeg' });
    expect(front?.facts?.whiteBorder).toBeGreaterThan(0.98);
    expect(side?.facts).toMatchObject({ width: 300, format: 'png' });
    await orderPictures({ sku: 'NEW-2' }, [...links].reverse());
    expect((await itemOf('NEW-2')).own.image).toEqual([...links].reverse());
    await setAlternativeText(links[0] ?? '', 'A trowel from the front');
    expect((await picturesOf(links))[0]?.alternativeText).toBe('A trowel from the front');

    // The same picture smaller and saved anew, on another item.
    await takePicture({ sku: 'NEW-1' }, 'copy.jpg', bodyOf(await draw('#446644', 640)));
    const [copy] = await picturesOf((await itemOf('NEW-1')).own.image as string[]);
    await measureAll();
    // There another colour comes first, which is another picture.
    expect(await nearDuplicates('NEW-1', copy?.link ?? '')).toEqual([]);
    await orderPictures({ sku: 'NEW-2' }, links);
    expect(await nearDuplicates('NEW-1', copy?.link ?? '')).toEqual(['NEW-2']);
  });

  test('what was found is looked up by any address, of whatever signs and length, and no other is', async () => {
    const facts = { width: 900, height: 700, bytes: 9000, format: 'jpeg', whiteBorder: 0 } as const;
    const links = ['gießkanne', 'レモン', "o'clock \\ %_", `long-${'ä'.repeat(600)}`].map(
      (name) => `https://quillmoss.example/${name}.jpg`,
    );
    await db.insert(picture).values(links.map((link) => ({ link, facts, revision: 1 })));
    await db.insert(picture).values({ link: `${links[0]}?large`, facts, revision: 1 });
    const found = await foundOf([{ sku: 'NEW-1', row: [links], hints: null }], (code) =>
      code === 'image' ? 0 : undefined,
    );
    expect(found.pictures.map(({ link }) => link).sort()).toEqual([...links].sort());
    expect(found.hints).toEqual([]);
  });

  test('what is no picture is refused, and nothing is kept', async () => {
    const before = await wholeCatalog();
    await expect(takePicture({ sku: 'NEW-2' }, 'x.jpg', bodyOf('<svg onload="x()"/>'))).rejects.toThrow(
      'not a JPEG, PNG',
    );
    await expect(
      takePicture({ sku: 'NEW-2' }, 'x.jpg', bodyOf(readFileSync('package.json'))),
    ).rejects.toThrow('not a JPEG');
    for (const address of [
      'http://127.0.0.1:9/x.jpg',
      'http://[::1]/x.jpg',
      'http://10.0.0.1/x.jpg',
      'file:///etc/hostname',
    ])
      await expect(addPicture({ sku: 'NEW-2' }, address)).rejects.toThrow(/network|Only http/);
    expect(await wholeCatalog()).toBe(before);
  });
});

test('all who ask at once are given one catalog; an earlier one knows nothing of what came after it', async () => {
  await createItem('LATER-1', { name: 'Dibber', price: '4,50' }, null);
  const before = await currentSnapshot();
  await createItem('LATER-2', { name: 'Rake', price: '14,50' }, null);
  await editCells([{ sku: 'LATER-1', attribute: 'name', text: 'Long dibber' }]);
  const [after, again] = await Promise.all([currentSnapshot(), currentSnapshot()]);
  expect(again).toBe(after);
  expect(before.positionOf('LATER-2')).toBeUndefined();
  const [first, second] = ['LATER-1', 'LATER-2'].map((sku) => after.positionOf(sku) ?? -1) as [
    number,
    number,
  ];
  expect([after.skus[second], after.items[second]?.sku, after.rows.length]).toEqual([
    'LATER-2',
    'LATER-2',
    before.rows.length + 1,
  ]);
  const name = after.index.slotOf('name') ?? -1;
  expect([before.rows[first]?.[name], after.rows[first]?.[name]]).toEqual(['Dibber', 'Long dibber']);
  // What has not changed is the same row.
  expect(after.rows.filter((row, i) => row !== before.rows[i])).toHaveLength(2);
  await archiveItems(['LATER-1', 'LATER-2'], true);
  expect((await currentSnapshot()).positionOf('LATER-2')).toBeUndefined();
  expect(after.positionOf('LATER-2')).toBe(second);
});
