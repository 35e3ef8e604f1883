import { eq } from 'drizzle-orm';
import { undoEdit } from '@/server/catalog/editing';
import { letJoin, waitingFor } from '@/server/catalog/waiting';
import { db } from '@/server/db/connection';
import { item } from '@/server/db/schema';
import { type FeedContext, loadFeedContext } from '@/server/evaluation/feedContext';
import { findRun } from '@/server/import/runs';
import { setWaiting, takeFile } from '@/server/import/sources';
import { importEffects } from '@/server/pages/importEffect';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { pass } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

/** New items join a feed at once or wait, by source and feed; what an import adds to a feed is said before. */
beforeEach(freshDemo);
afterAll(closeDatabase);

const feed = 'lanternry-de';
const heading = 'SKU;Name;Price;Availability;Brand;Category;Glaze';
/** Two that may be ready, and two without a price or stock. */
const file = [
  heading,
  'JOIN-1;Ash pot;12.00 EUR;in stock;Tarnholt;Pots;moss',
  'JOIN-2;Ash bowl;9.00 EUR;in stock;Tarnholt;Pots;moss',
  'JOIN-3;Ash jug;;in stock;Tarnholt;Pots;moss',
  'JOIN-4;Ash cup;4.00 EUR;;Tarnholt;Pots;moss',
].join('\n');

const checked = async (name: string, text: string) => {
  const id = await takeFile(`${name}.csv`, bodyOf(text));
  await pass(id, 'check');
  return { id, source: (await findRun(id))?.sourceId ?? 0 };
};
const work = async () => (await loadFeedContext(feed)) as FeedContext;
async function standing() {
  const { published, snapshot } = await work();
  const mine = snapshot.skus.flatMap((sku, at) => (sku.startsWith('JOIN-') ? [at] : []));
  return {
    blocked: published.listings.positions((at) => published.listings.stateAt(at) === 'blocked').length,
    mine: mine.map((at) => [published.listings.skuAt(at), published.listings.reasonAt(at)]),
    ready: mine.filter((at) => published.listings.stateAt(at) === 'ready').length,
  };
}

test('what an import adds to a feed is said before it is brought in, and comes true', async () => {
  const before = await standing();
  const { id } = await checked('ash', file);
  const effects = await importEffects(id);
  const said = effects?.feeds.find((one) => one.feed === feed);
  expect([effects?.tried, effects?.of, said?.joins, said?.blockedNow]).toEqual([4, 4, 4, before.blocked]);
  await pass(id, 'apply');
  const after = await standing();
  expect([said?.ready, said?.blockedThen]).toEqual([after.ready, after.blocked]);
  expect(after.blocked).toBeGreaterThan(before.blocked);

  // A later file that breaks what was ready, and mends what was blocked, is foreseen as well.
  const later = await checked(
    'ash',
    file.replace('12.00 EUR', '0.00 EUR').replace('Ash jug;;', 'Ash jug;7.00 EUR;'),
  );
  const next = (await importEffects(later.id))?.feeds.find((one) => one.feed === feed);
  await pass(later.id, 'apply');
  expect([next?.joins, next?.blockedThen]).toEqual([0, (await standing()).blocked]);
});

test('new items of a source wait for a feed until they are let in; known ones stay', async () => {
  const first = await checked('ash', file.split('\n').slice(0, 2).join('\n'));
  await pass(first.id, 'apply');
  await setWaiting(first.source, feed, true);
  const before = await standing();
  const second = await checked('ash', file);
  expect((await importEffects(second.id))?.feeds.find((one) => one.feed === feed)).toMatchObject({
    waits: true,
    joins: 3,
  });
  await pass(second.id, 'apply');
  const waiting = 'new: held for this feed';
  const after = await standing();
  expect(after.mine).toEqual([
    ['JOIN-1', before.mine[0]?.[1]],
    ['JOIN-2', waiting],
    ['JOIN-3', waiting],
    ['JOIN-4', waiting],
  ]);
  expect([after.blocked, await waitingFor(feed)]).toEqual([before.blocked, [{ source: 'ash', count: 3 }]]);

  await expect(letJoin(feed, 'another')).rejects.toThrow('No new item is held');
  const done = await letJoin(feed, 'ash');
  expect((await standing()).mine.filter(([, reason]) => reason === waiting)).toEqual([]);
  expect(await waitingFor(feed)).toEqual([]);
  await undoEdit(done.id);
  expect(await waitingFor(feed)).toEqual([{ source: 'ash', count: 3 }]);

  // Taking the import back takes items away that nobody has changed.
  await pass(second.id, 'undo');
  expect((await db.select().from(item).where(eq(item.sku, 'JOIN-2'))).length).toBe(0);
});

test('a feed takes the items of some sources only', async () => {
  const { id } = await checked('ash', file);
  await pass(id, 'apply');
  const { revision = 0 } = (await feedPlans(feed)) ?? {};
  const edited = await editDraft(feed, revision, {
    edit: 'scope',
    scope: { not: { attribute: 'source', is: 'equals', value: 'ash' } },
  });
  if (!edited.ok) throw new Error(edited.reason);
  await publishDraft(feed, edited.revision, 'without ash');
  expect((await standing()).mine.map(([, reason]) => reason)).toEqual(
    Array(4).fill('not in the scope of this feed'),
  );
});
