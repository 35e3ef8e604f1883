import { randomUUID } from 'node:crypto';
import { eq, like } from 'drizzle-orm';
import * as families from '@/actions/catalog/families';
import * as catalog from '@/actions/catalog/items';
import { carryOutOnce, deleteOldRequests } from '@/server/auth/requestOnce';
import { db } from '@/server/db/connection';
import { activity, catalogEdit, item, requestOnce } from '@/server/db/schema';
import { closeDatabase, freshDemo } from '../support/stack';

/** A press whose answer was lost on the way is sent again, and carried out once. */
beforeEach(freshDemo);
afterAll(closeDatabase);

const edits = async () => (await db.select({ id: catalogEdit.id }).from(catalogEdit)).length;

test('an item is added once, an edit taken back once, however often the press arrives', async () => {
  const press = { press: randomUUID() };
  const add = () => catalog.addItem('PRESS-1', { name: 'Pot' }, null, press);
  const [first, again] = await Promise.all([add(), add()]);
  expect(first).toMatchObject({ ok: true, words: 'Added PRESS-1' });
  expect([again, await add()]).toEqual([first, first]);
  const log = await db.select().from(activity).where(like(activity.what, '%added%'));
  expect(log).toHaveLength(1);
  expect(await db.select().from(item).where(eq(item.sku, 'PRESS-1'))).toHaveLength(1);

  await catalog.setCells([{ sku: 'PRESS-1', attribute: 'name', text: 'Can' }], { press: randomUUID() });
  const before = await edits();
  const undo = { press: randomUUID() };
  const undone = await catalog.undoCatalogEdit(undefined, undo);
  expect(await catalog.undoCatalogEdit(undefined, undo)).toEqual(undone);
  // Taken back twice the item would be gone.
  expect(await db.select().from(item).where(eq(item.sku, 'PRESS-1'))).toMatchObject([{ name: 'Pot' }]);
  expect(before - (await edits())).toBeLessThanOrEqual(1);
});

test('what was refused is tried again with the same press; another press is another', async () => {
  const press = { press: randomUUID() };
  const move = () => catalog.addItem('PRESS-2', {}, 'NO-FAMILY', press);
  expect(await move()).toMatchObject({ ok: false });
  await families.addFamily('NO-FAMILY', 'There now', []);
  expect(await move()).toMatchObject({ ok: true });
  expect(await catalog.addItem('PRESS-2', {}, null, { press: randomUUID() })).toMatchObject({ ok: false });
});

test('a press that ended in the middle is not carried out again; old presses are deleted', async () => {
  const press = randomUUID();
  await db.insert(requestOnce).values({ id: press, at: new Date(0), answer: null });
  const work = jest.fn(async () => ({ ok: true }));
  await expect(carryOutOnce(press, work, 300)).rejects.toThrow('The answer to this change was lost.');
  expect(work).not.toHaveBeenCalled();
  await deleteOldRequests(new Date());
  expect(await carryOutOnce(press, work)).toEqual({ ok: true });
  await expect(
    carryOutOnce(randomUUID(), async () => {
      throw new Error('it broke');
    }),
  ).rejects.toThrow('it broke');
  expect(await db.select().from(requestOnce)).toHaveLength(1);
});
