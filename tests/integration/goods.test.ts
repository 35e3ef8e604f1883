import { readFileSync } from 'node:fs';
import { eq } from 'drizzle-orm';
import { fromAttribute } from '@/core/compose/composition';
import { InputError } from '@/core/errors/inputError';
import { undoEdit } from '@/server/catalog/editing';
import { archiveItems, editCells } from '@/server/catalog/itemEdits';
import { db } from '@/server/db/connection';
import { item, supplierRange } from '@/server/db/schema';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { addGtinBlock, assignGtins, registerView, removeGtinBlock } from '@/server/items/gtinRegister';
import { editDraft, feedPlans } from '@/server/plans/drafts';
import {
  applyToItems,
  decideMatch,
  importRange,
  listSuppliers,
  matchingView,
  previewRange,
  removeSupplier,
} from '@/server/suppliers/suppliers';
import { closeDatabase, freshDemo } from '../support/stack';

/** What others make or ship, the numbers that goods were bought, and the days on which what is said of them holds. */
beforeEach(async () => {
  await freshDemo();
});
afterAll(closeDatabase);

const values = async (sku: string) => {
  const [row] = await db.select({ values: item.values }).from(item).where(eq(item.sku, sku));
  return row?.values ?? {};
};

describe('a supplier’s range', () => {
  const file = readFileSync('demo/partners/dunmoor-depot.csv', 'utf8');
  const mapping = {
    'Item code': 'sku',
    Description: 'name',
    Finish: 'color',
    Dimension: 'size',
    'Unit cost EUR': 'cost',
    'On hand': 'inventoryLevel',
    EAN: 'gtin',
  };
  const pot = 'QM-POT-RDG-MOS-14';

  test('its columns are read, its sure pairs taken, and brought in again what was settled stays', async () => {
    const look = await previewRange(file);
    expect(look.columns.find(({ column }) => column === 'Item code')?.attribute).toBe('sku');
    const brought = await importRange('Dunmoor Depot', file, mapping);
    expect(brought).toMatchObject({ code: 'dunmoor-depot', variants: 90, refused: [] });
    expect(brought.sure).toBeGreaterThanOrEqual(55);
    const apron = 'QM-APR-LIN-FER-M';
    await decideMatch(brought.code, apron, 'DD-4296', true);
    await decideMatch(brought.code, 'QM-APR-LIN-OAT-S', 'DD-4331', false);
    await expect(decideMatch(brought.code, apron, 'DD-4338', true)).rejects.toThrow('are already matched');

    // A newer list without two of its variants.
    const shorter = file
      .split('\n')
      .filter((line) => !line.startsWith('DD-4114,') && !line.startsWith('DD-4121,'))
      .join('\n');
    await importRange('Dunmoor Depot', shorter, mapping);
    const view = await matchingView(brought.code);
    const pairs = new Map(view?.pairs.map(({ item: one, variant }) => [one.code, variant.code]));
    expect(pairs.get(apron)).toBe('DD-4296');
    expect(pairs.has(pot)).toBe(false);
    const offered = view?.doubts.flatMap(({ item: one, candidates }) =>
      candidates.map(({ variant }) => `${one.code} ${variant.code}`),
    );
    expect(offered).not.toContain('QM-APR-LIN-OAT-S DD-4331');
    // What was said no to stands there, and can be looked at again.
    expect(view?.refused.map(({ item: one, variant }) => [one.code, variant.code])).toEqual([
      ['QM-APR-LIN-OAT-S', 'DD-4331'],
    ]);
    await decideMatch(brought.code, 'QM-APR-LIN-OAT-S', 'DD-4331', undefined);
    expect((await matchingView(brought.code))?.refused).toEqual([]);
    expect(await listSuppliers()).toMatchObject([{ variants: 88 }]);
    await removeSupplier(brought.code);
    expect(await listSuppliers()).toEqual([]);
  });

  test('pairs give what the partner says, in its own currency; what cannot be read is told, and an item that is gone is passed over', async () => {
    const list = [
      'Code;Name;Colour;Size;Cost;Stock',
      'A1;Ridge pot with drip tray and felt feet;moss;14 cm;9,90;1.000 pcs',
      'A2;Ridge pot with drip tray and felt feet;chalk;14 cm;11.00 USD;many',
      'A3;Ridge pot with drip tray and felt feet;ink;14 cm;free;7',
      'A4;Ridge pot with drip tray and felt feet;chalk;18 cm;12.00;3',
    ].join('\n');
    const columns = {
      Code: 'sku',
      Name: 'name',
      Colour: 'color',
      Size: 'size',
      Cost: 'cost',
      Stock: 'inventoryLevel',
    };
    const { code, sure } = await importRange('Fennmoor', list, columns);
    expect(sure).toBe(4);
    await archiveItems(['QM-POT-RDG-CHA-18'], true);
    const before = await values('QM-POT-RDG-CHA-14');
    const done = await applyToItems(code, { stock: true, profit: 50 });
    expect(done.words).toContain('2 not read: A2 “many”, A3 “free”');
    expect(await values(pot)).toMatchObject({ partnerCode: 'A1', cost: '9.90', price: '19.80 EUR' });
    // A cost in another currency stays in it, and no price is made of it.
    expect(await values('QM-POT-RDG-CHA-14')).toMatchObject({
      partnerCode: 'A2',
      cost: '11.00 USD',
      price: before.price,
      inventoryLevel: before.inventoryLevel,
    });
    expect(await values('QM-POT-RDG-INK-14')).toMatchObject({ partnerCode: 'A3', inventoryLevel: '7' });
    expect(await values('QM-POT-RDG-CHA-18')).not.toHaveProperty('partnerCode');
    await undoEdit(done.id);
    expect(await values('QM-POT-RDG-CHA-14')).toEqual(before);
  });

  test('what is refused leaves nothing behind', async () => {
    await expect(importRange('Dunmoor Depot', file, { Description: 'name' })).rejects.toThrow(InputError);
    const many = `Code;Name\n${Array.from({ length: 19_000 }, (_, at) => `M${at};Pot apron gloves light seed book can`).join('\n')}`;
    await expect(importRange('Too many', many, { Code: 'sku', Name: 'name' })).rejects.toThrow('too many');
    expect(await db.select().from(supplierRange)).toEqual([]);
    expect(await matchingView('dunmoor-depot')).toBeUndefined();
    await importRange('Dunmoor Depot', 'Code;Name\nX1;Hose reel\n', { Code: 'sku', Name: 'name' });
    await expect(applyToItems('dunmoor-depot', { stock: false })).rejects.toThrow('No item is matched');
  });
});

describe('bought numbers', () => {
  const [first, second, third] = ['QM-APR-LIN-FER-S', 'QM-APR-LIN-FER-M', 'QM-APR-LIN-FER-L'] as const;

  test('the lowest free ones are given, in the order asked for; those that items have are used', async () => {
    await editCells([{ sku: third, attribute: 'gtin', text: '9520000091088' }]);
    await addGtinBlock('9520000091071', 4);
    await assignGtins([second, first, second, third]);
    expect([(await values(second)).gtin, (await values(first)).gtin]).toEqual([
      '9520000091071',
      '9520000091095',
    ]);
    expect((await values(third)).gtin).toBe('9520000091088');
    expect(await registerView()).toMatchObject({ left: 1, blocks: [{ used: 3, next: '9520000091101' }] });
  });

  test('a number counts however it is written', async () => {
    await editCells([
      { sku: third, attribute: 'gtin', text: '95200 0009 1088' },
      { sku: second, attribute: 'gtin', text: '09520000091071' },
      { sku: 'QM-POT-RDG-MOS-14', attribute: 'gtin', text: '030640615X' },
    ]);
    await addGtinBlock('9520000091071', 4);
    await addGtinBlock('9780306406157', 2);
    expect((await registerView()).blocks).toMatchObject([
      { used: 2, next: '9520000091095' },
      { used: 0, next: '9780306406157' },
    ]);
    await editCells([{ sku: 'QM-POT-RDG-MOS-14', attribute: 'gtin', text: '0306406152' }]);
    expect((await registerView()).blocks).toMatchObject([{ used: 2 }, { used: 1, next: '9780306406164' }]);
  });

  test('one that was given is never another’s, also where it was taken back or its item is gone', async () => {
    await addGtinBlock('9520000091071', 2);
    const done = await assignGtins([first]);
    await undoEdit(done.id);
    expect((await values(first)).gtin).toBeUndefined();
    await assignGtins([second]);
    expect((await values(second)).gtin).toBe('9520000091088');
    await expect(assignGtins([third])).rejects.toThrow('Only 0 GTINs are left for 1 item;');
    await assignGtins([first]);
    expect((await values(first)).gtin).toBe('9520000091071');
    await archiveItems([first], true);
    expect(await registerView()).toMatchObject({ left: 0 });
  });

  test('blocks do not overlap, too few give none, and a block that is taken out leaves items their numbers', async () => {
    await addGtinBlock('9520000091071', 2);
    await expect(addGtinBlock('9520000091088', 5)).rejects.toThrow('are already in the block');
    await expect(assignGtins([first, second, third])).rejects.toThrow('Only 2 GTINs are left for 3 items');
    expect((await values(first)).gtin).toBeUndefined();
    await assignGtins([first]);
    await expect(assignGtins([first])).rejects.toThrow('All of these items have a GTIN');
    const [block] = (await registerView()).blocks;
    await removeGtinBlock(block?.id ?? 0);
    expect((await values(first)).gtin).toBe('9520000091071');
    expect(await registerView()).toMatchObject({ left: 0, blocks: [] });
  });
});

test('what is said of a day is said from that day on, though nothing else has changed', async () => {
  const feed = 'lanternry-de';
  const plans = await feedPlans(feed);
  await editDraft(feed, plans?.revision ?? 0, {
    edit: 'fields',
    fields: { contents: fromAttribute('sowBy') },
  });
  const said = async () => {
    const work = await loadFeedContext(feed);
    return [...(work?.draft.listings ?? [])].filter(({ issues }) =>
      issues.some(({ check }) => check === 'over'),
    ).length;
  };
  expect(await said()).toBe(0);
  const then = new Date('2028-04-01T12:00:00Z').getTime() - Date.now();
  const clock = Date.now.bind(Date);
  const moved = jest.spyOn(Date, 'now').mockImplementation(() => clock() + then);
  const RealDate = Date;
  const day = jest
    .spyOn(global, 'Date')
    .mockImplementation(((...given: [number]) =>
      given.length > 0 ? new RealDate(...given) : new RealDate(RealDate.now())) as never);
  Object.assign(global.Date, { now: RealDate.now, UTC: RealDate.UTC, parse: RealDate.parse });
  try {
    // The seeds, and what was announced for 2027.
    expect(await said()).toBe(45);
  } finally {
    day.mockRestore();
    moved.mockRestore();
  }
});
