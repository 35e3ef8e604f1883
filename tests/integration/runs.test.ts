import { readFileSync } from 'node:fs';
import { eq } from 'drizzle-orm';
import { axisCodes } from '@/core/catalog/attributes';
import { gatherFamilies } from '@/core/catalog/item';
import { readCatalogCsv } from '@/core/formats/catalogCsv';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { db } from '@/server/db/connection';
import { item, run } from '@/server/db/schema';
import { demoSources, importDemoFile } from '@/server/demo/load';
import { applyRun } from '@/server/import/applying';
import { editMapping, findRun, startRun } from '@/server/import/runs';
import {
  chooseRows,
  listKept,
  listRejections,
  listRunFamilies,
  listStaged,
  takeFile,
} from '@/server/import/sources';
import { unattended } from '@/server/jobs/queue';
import { today } from '@/server/runtime/calendarDay';
import { bringIn, checked, editItem, pass, wholeCatalog } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

describe('the six sources of the demo', () => {
  test('give the demo catalog, families and all', async () => {
    const { items, families } = await currentSnapshot();
    const wanted = gatherFamilies(readCatalogCsv(readFileSync('demo/catalog/items.csv', 'utf8')), axisCodes);
    const bySku = new Map(items.map((one) => [one.sku, one]));
    expect(items).toHaveLength(wanted.items.length);
    for (const one of wanted.items)
      expect(bySku.get(one.sku)).toEqual({
        ...one,
        values: { ...one.values, source: expect.stringMatching(/^[a-z-]+$/) },
        changedOn: today(),
      });
    expect([...families.values()].sort((a, b) => (a.code < b.code ? -1 : 1))).toEqual(
      wanted.families.sort((a, b) => (a.code < b.code ? -1 : 1)),
    );
  });

  test.each(demoSources)('%s imported again changes nothing', async (name) => {
    const before = await wholeCatalog();
    const id = await importDemoFile('demo', name);
    const found = await findRun(id);
    expect(found?.state).toBe('checked');
    expect(found?.counts).toMatchObject({ new: 0, changed: 0, missing: 0 });
    expect(found?.counts.unchanged).toBeGreaterThan(9);
    await pass(id, 'apply');
    expect(await wholeCatalog()).toBe(before);
  });

  test('one row of the spreadsheet’s file is refused: its sum', async () => {
    const id = await importDemoFile('demo', 'verrin-lights.csv');
    expect(await listRejections(id)).toMatchObject([{ row: 33, reason: 'is probably a sum, “Summe”' }]);
  });
});

describe('undo', () => {
  test('gives back the earlier catalog exactly', async () => {
    await bringIn(
      'undo.csv',
      'sku,name,price,family,color\nU1,Pot,10.00,UF,moss\nU2,Pot,11.00,UF,chalk\nU3,Can,5.00,,\n',
    );
    const before = await wholeCatalog();
    const second = await bringIn(
      'undo.csv',
      'sku,name,price,family,color\nU1,Pot,12.00,UF,moss\nU2,Pot big,11.00,UF,ink\nU3,Can,5.00,UG,red\nU4,Can,6.00,UG,blue\nU5,New,1.00,,\n',
    );
    expect(second.counts).toMatchObject({ new: 2, changed: 3 });
    expect(await wholeCatalog()).not.toBe(before);
    const undone = await pass(second.id, 'undo');
    expect(undone.state).toBe('undone');
    expect(await listKept(second.id)).toEqual([]);
    expect(await wholeCatalog()).toBe(before);
    expect((await currentSnapshot()).positionOf('U5')).toBeUndefined();
  });

  test('names the values changed since, and leaves them', async () => {
    await bringIn('kept.csv', 'sku,name,price,brand\nK1,Pot,10.00,Fernholm\nK2,Can,5.00,Fernholm\n');
    const { id } = await bringIn(
      'kept.csv',
      'sku,name,price,brand\nK1,Pot,12.00,Holm\nK2,Can,6.00,Holm\nK3,New,1.00,Holm\n',
    );
    await editItem('K1', 'price', '99');
    await editItem('K3', 'color', 'red');
    await pass(id, 'undo');
    expect(await listKept(id)).toEqual([
      { sku: 'K1', kept: ['price'] },
      { sku: 'K3', kept: ['color'] },
    ]);
    const rows = await db.select().from(item).where(eq(item.brand, 'Fernholm'));
    expect(
      rows.filter(({ sku }) => sku.startsWith('K')).map(({ sku, values }) => [sku, values.price]),
    ).toEqual([
      ['K1', '99'],
      ['K2', '5.00'],
    ]);
    expect((await currentSnapshot()).positionOf('K3')).toBeDefined();
  });

  test('a catalog that was grouped comes back ungrouped', async () => {
    await bringIn('loose.csv', 'sku,name,brand,color\nL1,Bowl,Fernholm,moss\nL2,Bowl,Fernholm,ink\n');
    const before = await wholeCatalog();
    const { id } = await bringIn(
      'grouping.csv',
      'sku,name,color\nL1,Bowl,moss\nL2,Bowl,ink\n',
      (mapping) => ({ ...mapping, grouping: { by: 'sameName' } }),
    );
    const { families } = await currentSnapshot();
    expect(families.get('L1')).toMatchObject({
      variesBy: ['color'],
      values: { name: 'Bowl', brand: 'Fernholm' },
    });
    await pass(id, 'undo');
    // Only the source that brought them last is another.
    expect(JSON.parse(await wholeCatalog())[1]).toEqual(JSON.parse(before)[1]);
    expect(await wholeCatalog()).toBe(before);
  });
});

describe('grouping, seen before anything is changed', () => {
  test('a parent row in the file becomes its family and no item', async () => {
    const found = await checked(
      'parents.csv',
      'sku;name;parent;brand;size\nP;Parent pot;;Fernholm;\nP-1;;P;;S\nP-2;;P;;M\nQ-1;Single;QQ;;S\nR;Alone;;;\n',
      (mapping) => {
        const { family: _family, ...fields } = mapping.fields;
        return { ...mapping, fields, grouping: { by: 'parentCode', column: 'parent' } };
      },
    );
    expect(found.counts).toMatchObject({ new: 4, rejected: 0 });
    expect(await listRunFamilies(found.id)).toMatchObject({
      families: [{ code: 'P', name: 'Parent pot', items: 2, axes: ['size'] }],
      loose: [{ sku: 'Q-1', misfit: 'noParent' }],
    });
    await pass(found.id, 'apply');
    const { families, positionOf } = await currentSnapshot();
    expect(positionOf('P')).toBeUndefined();
    expect(families.get('P')?.values).toEqual({ name: 'Parent pot', brand: 'Fernholm' });
    const again = await takeFile(
      'parents.csv',
      bodyOf(
        'sku;name;parent;brand;size\nP;Parent pot;;Fernholm;\nP-1;;P;;S\nP-2;;P;;M\nQ-1;Single;QQ;;S\nR;Alone;;;\n',
      ),
    );
    expect((await pass(again, 'check')).counts).toMatchObject({ new: 0, changed: 0, unchanged: 4 });
  });

  test('names that differ only in axis words', async () => {
    const found = await checked(
      'names.csv',
      'sku,name,size\nN1,Fern hook S,S\nN2,Fern hook M,M\nN3,Fern hook M,M\nN4,Moss hook,\n',
      (mapping) => ({ ...mapping, grouping: { by: 'names' } }),
    );
    expect(await listRunFamilies(found.id)).toMatchObject({
      count: 1,
      families: [{ code: 'N1', items: 2, axes: ['size'] }],
      loose: [
        { sku: 'N3', misfit: 'sameAxes' },
        { sku: 'N4', misfit: 'alone' },
      ],
    });
  });

  test('more groups than one chunk holds', async () => {
    const lines = Array.from({ length: 2500 }, (_, i) => `G${i},Pot,F${Math.floor(i / 3)},${'SML'[i % 3]}`);
    const found = await bringIn('many.csv', `sku,name,family,size\n${lines.join('\n')}\n`);
    const { families, items } = await currentSnapshot();
    expect((await listRunFamilies(found.id)).count).toBe(833);
    expect([...families.keys()].filter((code) => /^F\d+$/.test(code))).toHaveLength(833);
    expect(families.get('F832')).toMatchObject({ variesBy: ['size'], values: { name: 'Pot' } });
    expect(items.find(({ sku }) => sku === 'G4')).toEqual({
      sku: 'G4',
      family: 'F1',
      values: { size: 'M', source: 'many' },
      changedOn: today(),
    });
    expect(items.find(({ sku }) => sku === 'G2499')?.family).toBeUndefined();
    await pass(found.id, 'undo');
    expect((await currentSnapshot()).families.has('F832')).toBe(false);
  });
});

describe('keys, missing items, some rows only', () => {
  test('found by GTIN, however many zeros stand before it', async () => {
    const id = await takeFile('stock.csv', bodyOf('EAN;Preis\n09520000033293;41,00\n9520000099999;1,00\n'));
    await editMapping(id, { edit: 'key', key: 'gtin' });
    const result = await pass(id, 'check');
    expect(result.counts).toMatchObject({ changed: 1, rejected: 1 });
    expect(await listStaged(id, 'changed')).toMatchObject([
      { sku: 'VR-LGT-HAL-TYC-20', changes: expect.arrayContaining([['price', '39.00', '41.00']]) },
    ]);
    expect(await listRejections(id)).toMatchObject([{ reason: 'has no name' }]);
  });

  test('a GTIN that two items have is refused with both', async () => {
    const found = await checked('twice.csv', 'EAN;Preis\n9520000030773;1,00\n', (mapping) => ({
      ...mapping,
      key: 'gtin',
    }));
    expect(await listRejections(found.id)).toMatchObject([
      { reason: '9520000030773 belongs to 2 items, QM-POT-RDG-TER-10 and QM-POT-RDG-TER-14' },
    ]);
  });

  const full = 'sku,name,availability\nM1,Pot,InStock\nM2,Can,InStock\nM3,Tin,InStock\n';
  const short = 'sku,name,availability\nM1,Pot,InStock\n';

  test('items missing from the file are left, set out of stock, or archived', async () => {
    await bringIn('full.csv', full);
    const before = await wholeCatalog();
    expect((await bringIn('full.csv', short)).counts).toMatchObject({ unchanged: 1, missing: 2 });
    expect(await wholeCatalog()).toBe(before);

    const out = await bringIn('full.csv', short, (mapping) => ({ ...mapping, missing: 'outOfStock' }));
    const stock = async () =>
      (await db.select().from(item))
        .filter(({ sku }) => /^M\d$/.test(sku))
        .map(({ sku, values, archived }) => [sku, values.availability, archived]);
    expect(await stock()).toEqual([
      ['M1', 'InStock', false],
      ['M2', 'OutOfStock', false],
      ['M3', 'OutOfStock', false],
    ]);
    await pass(out.id, 'undo');
    expect(await wholeCatalog()).toBe(before);

    const gone = await bringIn('full.csv', short, (mapping) => ({ ...mapping, missing: 'archive' }));
    expect((await currentSnapshot()).positionOf('M2')).toBeUndefined();
    await pass(gone.id, 'undo');
    expect(await wholeCatalog()).toBe(before);
    expect((await currentSnapshot()).positionOf('M2')).toBeDefined();
  });

  test('only the rows that were chosen are imported', async () => {
    const found = await checked('some.csv', 'sku,name\nS1,One\nS2,Two\nS3,Three\n');
    await chooseRows(found.id, { kind: 'new' }, false);
    await chooseRows(found.id, { row: 3 }, true);
    await pass(found.id, 'apply');
    const { skus } = await currentSnapshot();
    expect(skus.filter((sku) => /^S\d$/.test(sku))).toEqual(['S2']);
  });
});

test('runs of one source never overlap', async () => {
  const first = await takeFile('same.csv', bodyOf('sku,name\nO1,One\n'));
  const second = await takeFile('same.csv', bodyOf('sku,name\nO1,Two\n'));
  const other = await takeFile('other.csv', bodyOf('sku,name\nO2,Two\n'));
  const started = await Promise.allSettled([
    startRun(first, 'check'),
    startRun(second, 'check'),
    startRun(other, 'check'),
  ]);
  expect(
    started
      .slice(0, 2)
      .map(({ status }) => status)
      .sort(),
  ).toEqual(['fulfilled', 'rejected']);
  expect(started[2]?.status).toBe('fulfilled');
  expect(started.find(({ status }) => status === 'rejected')).toMatchObject({
    reason: { message: expect.stringContaining('Start this one when it has ended') },
  });
});

test('a run stopped in the middle goes on behind its last chunk, and ends as an undisturbed one', async () => {
  const rows = Array.from({ length: 3200 }, (_, i) => `R${i},Pot ${i},${i}.50`);
  const { id } = await checked('stop.csv', `sku,name,price\n${rows.join('\n')}\n`);
  await startRun(id, 'apply');
  let beats = 0;
  const dies = async () => {
    beats++;
    if (beats === 2) throw new Error('the worker is gone');
  };
  await expect(applyRun(id, { ...unattended, progress: dies })).rejects.toThrow('the worker is gone');
  const [half] = await db.select().from(run).where(eq(run.id, id));
  expect(half?.state).toBe('applying');
  expect(half?.rowsDone).toBe(2000);
  await applyRun(id, unattended);
  expect((await findRun(id))?.state).toBe('done');
  const { skus } = await currentSnapshot();
  expect(skus.filter((sku) => /^R\d+$/.test(sku))).toHaveLength(3200);
});

test('a file of the same name is the same source, under its saved mapping', async () => {
  const first = await bringIn('weekly.csv', 'sku,name,price\nW1,Pot,1.00\n', (mapping) => ({
    ...mapping,
    repairs: ['invisible'],
  }));
  const second = await findRun(await takeFile('weekly.csv', bodyOf('sku,name,price\nW1,Pot,2.00\n')));
  expect(second?.sourceId).toBe(first.sourceId);
  expect(second?.mapping).toEqual(first.mapping);
});

describe('what a person mended by hand', () => {
  const file = (price: string, color: string) =>
    `sku,name,price,color\nHM-1,Hook,${price},${color}\nHM-2,Nail,${price},${color}\n`;
  const valuesOf = async (sku: string) => (await db.select().from(item).where(eq(item.sku, sku)))[0]?.values;

  test('stays when its source comes again, is told by the run, and is overwritten only where it is asked for', async () => {
    await bringIn('by-hand.csv', file('1.00', 'moss'));
    await editItem('HM-1', 'price', '9.00');
    await editItem('HM-1', 'color', '');
    const again = await checked('by-hand.csv', file('2.00', 'fern'));
    expect(again.held).toEqual({ price: 1, color: 1 });
    expect(await listStaged(again.id, 'changed')).toMatchObject([
      {
        sku: 'HM-2',
        changes: [
          ['price', '1.00', '2.00'],
          ['color', 'moss', 'fern'],
        ],
      },
    ]);
    await pass(again.id, 'apply');
    expect(await valuesOf('HM-1')).toEqual({ name: 'Hook', price: '9.00', source: 'by-hand' });
    expect(await valuesOf('HM-2')).toMatchObject({ price: '2.00', color: 'fern' });

    const told = await checked('by-hand.csv', file('3.00', 'ink'));
    await editMapping(told.id, { edit: 'overwrite', attribute: 'price', on: true });
    const looked = await pass(told.id, 'check');
    expect(looked.held).toEqual({ color: 1 });
    await pass(told.id, 'apply');
    expect(await valuesOf('HM-1')).toEqual({ name: 'Hook', price: '3.00', source: 'by-hand' });
    // From now on the price is the file's again, also where it is not asked for any more.
    const last = await checked(
      'by-hand.csv',
      file('4.00', 'ink'),
      ({ overwrite: _overwrite, ...mapping }) => mapping,
    );
    expect(last.held).toEqual({ color: 1 });
    await pass(last.id, 'apply');
    expect((await valuesOf('HM-1'))?.price).toBe('4.00');
  });
});
