import { eq } from 'drizzle-orm';
import { editCells } from '@/server/catalog/itemEdits';
import { db } from '@/server/db/connection';
import { ledger, submission } from '@/server/db/schema';
import { expectedOf, expectPresentValue, presentFigures } from '@/server/evaluation/expectations';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { listingLines } from '@/server/pages/listingList';
import { overviewView } from '@/server/pages/overview';
import { closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const feed = 'lanternry-de';
const work = async () => {
  const found = await loadFeedContext(feed);
  if (!found) throw new Error('the demo feed is gone');
  return found;
};

test('the Overview names what needs a person, in order, and nothing else', async () => {
  const kinds = async () => (await overviewView()).attention.map(({ kind, label }) => [kind, label]);
  const before = await kinds();
  expect(before.map(([kind]) => kind)).toEqual(['lowStock']);
  await db.insert(ledger).values({
    feed,
    sku: 'QM-POT-RDG-MOS-14',
    rejectedDigest: 'a'.repeat(32),
    problems: [],
    changedAt: new Date(),
  });
  await db.insert(submission).values({
    feed,
    version: 1,
    state: 'failed',
    total: 3,
    accepted: 0,
    refused: 0,
    createdAt: new Date(),
    createdBy: 'owner',
  } as typeof submission.$inferInsert);
  expect(await kinds()).toEqual([
    ['rejected', '1 listing rejected'],
    ['failed', '1 feed whose last sending failed'],
    ...before,
  ]);
  await db.delete(ledger).where(eq(ledger.feed, feed));
  await db.delete(submission).where(eq(submission.feed, feed));
});

test('a stock of nothing, of many or of words is not low', async () => {
  const count = async () =>
    Number.parseInt(
      (await overviewView()).attention.find(({ kind }) => kind === 'lowStock')?.label ?? '0',
      10,
    );
  const before = await count();
  const set = (text: string) => editCells([{ sku: 'QM-POT-RDG-MOS-14', attribute: 'inventoryLevel', text }]);
  for (const [text, more] of [
    ['0', 0],
    ['3', 1],
    ['4', 0],
    ['', 0],
  ] as const) {
    await set(text);
    expect([text, await count()]).toEqual([text, before + more]);
  }
});

test('a value is expected as the draft has it; an item that the feed does not have is refused', async () => {
  await expectPresentValue(feed, 'QM-POT-RDG-CHA-14', 'price');
  const [expected] = await expectedOf(await work());
  expect(expected).toMatchObject({
    holds: true,
    words: expect.stringMatching(/^Price of QM-POT-RDG-CHA-14 stays “\d/),
  });
  await editCells([{ sku: 'QM-POT-RDG-CHA-14', attribute: 'price', text: '99.00' }]);
  expect((await expectedOf(await work()))[0]).toMatchObject({ holds: false, found: '99.00 EUR' });
  await expect(expectPresentValue(feed, 'NO-SUCH', 'price')).rejects.toThrow('no listing of NO-SUCH');
  await expect(expectPresentValue(feed, 'QM-POT-RDG-CHA-14', 'no_field')).rejects.toThrow('no listing');
});

test('the figures of new expectations are those of the listings, counted one by one', async () => {
  const now = await work();
  const figures = presentFigures(now);
  const listings = [...now.draft.listings];
  expect(figures.ready).toBe(listings.filter(({ state }) => state === 'ready').length);
  expect(figures.categories.reduce((sum, { blocked }) => sum + blocked, 0)).toBeLessThanOrEqual(
    listings.filter(({ state }) => state === 'blocked').length,
  );
});

test('the list of listings finds by name, axis value and SKU, and names each differently', async () => {
  const now = await work();
  const all = listingLines(now, {});
  expect(all.total).toBe(now.draft.listings.length);
  expect(new Set(all.lines.map(({ sku, name }) => `${name} ${sku}`)).size).toBe(all.lines.length);
  expect(listingLines(now, { find: 'moss, 14' }).lines).toContainEqual(
    expect.objectContaining({ sku: 'QM-POT-RDG-MOS-14' }),
  );
  expect(listingLines(now, { find: 'zzqx' })).toEqual({ total: 0, lines: [] });
});
