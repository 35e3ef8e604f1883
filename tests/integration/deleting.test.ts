import { existsSync } from 'node:fs';
import { eq, sql } from 'drizzle-orm';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { createChannel, openVersion, removeChannel, takeOnVersion } from '@/server/channels/channels';
import { db } from '@/server/db/connection';
import { batch, item, run, source } from '@/server/db/schema';
import { listSources, removeSource } from '@/server/import/sources';
import { evaluateFeeds } from '@/server/listings/refreshJob';
import { feedDependents, removeFeed } from '@/server/plans/deleting';
import { createFeed } from '@/server/plans/feeds';
import { pathOfStored } from '@/server/storage/files';
import { sendSubmission, stopSubmission } from '@/server/submissions/delivery';
import { dropSubmission, findSubmission, sendFeed } from '@/server/submissions/submissions';
import { bringIn } from '../support/runs';
import { closeDatabase, freshDemo } from '../support/stack';

/** What a merchant made can be deleted, with what depends on it named first. */
beforeEach(freshDemo);
afterAll(closeDatabase);

const feed = 'lanternry-de';
/** Tables that still hold something of a feed. */
async function tablesWith(code: string): Promise<string[]> {
  const [columns] = (await db.execute(sql`
    select table_name as name from information_schema.columns
    where table_schema = database() and column_name = 'feed' and table_name <> 'activity'
  `)) as unknown as [{ name: string }[]];
  const found: string[] = [];
  for (const { name } of columns) {
    const [rows] = (await db.execute(
      sql`select 1 from ${sql.identifier(name)} where feed = ${code} limit 1`,
    )) as unknown as [unknown[]];
    if (rows.length > 0) found.push(name);
  }
  return found;
}

test('a feed goes with all that is its own, once nothing of it is under way; its files too', async () => {
  await evaluateFeeds();
  const sent = await sendFeed(feed, 'due');
  if (!sent.ok) throw new Error(sent.reason);
  expect(await feedDependents(feed)).toMatchObject({ underWay: true, submissions: 1, versions: 1 });
  await expect(removeFeed(feed)).rejects.toThrow('in progress');
  await sendSubmission(sent.submission).catch(() => undefined);
  const [file] = await db.select().from(batch).where(eq(batch.submissionId, sent.submission));
  await stopSubmission(sent.submission);
  if ((await findSubmission(sent.submission))?.state === 'held') await dropSubmission(sent.submission);
  expect((await tablesWith(feed)).length).toBeGreaterThan(4);
  expect(existsSync(pathOfStored(file?.file ?? ''))).toBe(true);
  await removeFeed(feed);
  expect(await tablesWith(feed)).toEqual([]);
  expect(await findSubmission(sent.submission)).toBeUndefined();
  expect(existsSync(pathOfStored(file?.file ?? ''))).toBe(false);
  await expect(removeFeed(feed)).rejects.toThrow('feed was deleted');
  // The items are the catalog's, and the same feed can be added anew.
  expect((await currentSnapshot()).items.length).toBeGreaterThan(200);
  expect(await createFeed('lanternry', 'DE', 'de')).toBe(feed);
});

test('a source goes with its runs; its items stay', async () => {
  const { id, sourceId } = await bringIn('gone.csv', 'sku,name,price\nGONE-1,Pot,1.00\n');
  expect((await listSources()).find((one) => one.id === sourceId)).toMatchObject({ items: 1 });
  await db.update(run).set({ state: 'checking' }).where(eq(run.id, id));
  await expect(removeSource(sourceId)).rejects.toThrow('is running');
  await db.update(run).set({ state: 'done' }).where(eq(run.id, id));
  await removeSource(sourceId);
  expect(await db.select().from(source).where(eq(source.id, sourceId))).toEqual([]);
  expect(await db.select().from(item).where(eq(item.sku, 'GONE-1'))).toMatchObject([{ sourceId: null }]);
  await expect(removeSource(sourceId)).rejects.toThrow('was deleted');
});

test('a channel of the merchant’s own goes once it has no feed; those that ship stay', async () => {
  await expect(removeChannel('lanternry')).rejects.toThrow('ships with');
  const { sheetFromHeadings } = await import('@/core/channels/drafting');
  const head = {
    code: 'gardeners',
    name: 'Gardeners',
    country: 'DE',
    language: 'de',
    currency: 'EUR',
    effective: '2026-12-01',
  };
  const made = await createChannel(sheetFromHeadings(head, ['SKU', 'Title', 'Price'], []), '');
  const open = await openVersion(made);
  await takeOnVersion(made, open?.revision ?? 0);
  const own = await createFeed(made, 'DE', 'de');
  await expect(removeChannel(made)).rejects.toThrow(`Delete its feeds first: ${own}.`);
  await removeFeed(own);
  await removeChannel(made);
  await expect(removeChannel(made)).rejects.toThrow('There is no channel');
});
