import { asc, desc, eq, sql } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { activity, draft, feed, job, planVersion } from '@/server/db/schema';
import { findRun, startRun } from '@/server/import/runs';
import { takeFile } from '@/server/import/sources';
import { jobKinds } from '@/server/jobs/kinds';
import { clearOldJobs, enqueue, takeJob } from '@/server/jobs/queue';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { createFeed } from '@/server/plans/feeds';
import { startWorker } from '../support/programs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const markets = [
  ['lanternry', 'AT', 'de'],
  ['lanternry', 'GB', 'en'],
  ['orrin-bazaar', 'DE', 'de'],
  ['orrin-bazaar', 'GB', 'en'],
  ['orrin-bazaar', 'AT', 'de'],
  ['tessel-boards', 'DE', 'de'],
  ['tessel-boards', 'GB', 'en'],
  ['flickerstall', 'DE', 'de'],
  ['flickerstall', 'GB', 'en'],
  ['plazuela-norte', 'ES', 'es'],
  ['own-shop', 'DE', 'de'],
] as const;

test('a hundred saves over twelve feeds at once all end, and each counts once', async () => {
  for (const [channel, country, language] of markets) await createFeed(channel, country, language);
  const feeds = (await db.select({ code: feed.code }).from(feed).orderBy(asc(feed.position))).map(
    ({ code }) => code,
  );
  expect(feeds.length).toBe(12);
  const before = new Map(
    await Promise.all(feeds.map(async (code) => [code, (await feedPlans(code))?.revision ?? 0] as const)),
  );
  const save = async (code: string, what: string): Promise<void> => {
    for (let tries = 0; tries < 500; tries++) {
      const at = (await feedPlans(code))?.revision ?? 0;
      const result = await editDraft(code, at, { edit: 'met', what, on: true });
      if (result.ok) return;
    }
    throw new Error('it was never saved');
  };
  await Promise.all(Array.from({ length: 100 }, (_, i) => save(feeds[i % feeds.length] ?? '', `need-${i}`)));
  for (const [n, code] of feeds.entries()) {
    const found = await feedPlans(code);
    const own = Array.from({ length: 100 }, (_, i) => i).filter((i) => i % feeds.length === n);
    expect(own.every((i) => found?.draft.met.includes(`need-${i}`))).toBe(true);
    expect(found?.revision).toBe((before.get(code) ?? 0) + own.length);
  }
});

test('publishing three times at once makes one version', async () => {
  const code = 'lanternry-de';
  const plans = await feedPlans(code);
  const at = plans?.revision ?? 0;
  const results = await Promise.all([1, 2, 3].map(() => publishDraft(code, at, 'together')));
  expect(results.every(({ ok }) => ok)).toBe(true);
  expect(new Set(results.map((one) => ('version' in one ? one.version : 0))).size).toBe(1);
  const versions = await db
    .select()
    .from(planVersion)
    .where(eq(planVersion.feed, code))
    .orderBy(desc(planVersion.version));
  expect(versions.filter(({ words }) => words === 'together')).toHaveLength(1);
  const log = await db.select().from(activity);
  expect(
    log.filter(({ what }) => what === `published version ${versions[0]?.version}`).length,
  ).toBeGreaterThan(0);
});

test('a transaction that meets a deadlock is run again', async () => {
  const codes = (await db.select({ code: draft.feed }).from(draft).orderBy(draft.feed))
    .slice(0, 2)
    .map(({ code }) => code);
  const touch = (order: string[]) =>
    db.transaction(async (tx) => {
      for (const code of order) {
        await tx.update(draft).set({ revision: sql`revision + 1` }).where(eq(draft.feed, code));
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    });
  const read = async () => {
    const rows = await db.select().from(draft);
    return rows
      .filter(({ feed: code }) => codes.includes(code))
      .reduce((sum, { revision }) => sum + revision, 0);
  };
  const before = await read();
  await Promise.all(Array.from({ length: 12 }, (_, i) => touch(i % 2 === 0 ? codes : [...codes].reverse())));
  expect(await read()).toBe(before + 24);
});

test('a job that kills its worker each time ends as failed, with words at its run', async () => {
  await db.delete(job);
  const id = await takeFile('deadly.csv', bodyOf('sku,name\nA,B\n'));
  await startRun(id, 'check');
  // Each worker takes it and dies: its lease runs out.
  for (let i = 0; i < jobKinds.checkRun.attempts; i++) {
    expect(await takeJob('work')).toMatchObject({ attempts: i + 1, exhausted: false });
    await db.update(job).set({ leasedUntil: sql`utc_timestamp(3) - interval 1 second` });
  }
  const worker = await startWorker();
  try {
    for (let i = 0; i < 400 && (await findRun(id))?.state === 'checking'; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await findRun(id)).toMatchObject({
      state: 'failed',
      error: expect.stringContaining(`ended its worker ${jobKinds.checkRun.attempts} times`),
    });
    // The run says so first, then the job ends.
    const stateOf = async () => (await db.select({ state: job.state }).from(job))[0]?.state;
    for (let i = 0; i < 400 && (await stateOf()) === 'running'; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await stateOf()).toBe('failed');
    expect(await takeJob('work')).toBeUndefined();
  } finally {
    await worker.end();
  }
});

test('what waits for somebody else’s server has a lane of its own; old jobs are cleared', async () => {
  await db.delete(job);
  await db.transaction(async (tx) => {
    await enqueue(tx, 'fetchSource', { source: 1 });
    await enqueue(tx, 'checkRun', { run: 1 });
  });
  expect(await takeJob('work')).toMatchObject({ kind: 'checkRun' });
  expect(await takeJob('work')).toBeUndefined();
  expect(await takeJob('fetch')).toMatchObject({ kind: 'fetchSource' });
  await db.update(job).set({ state: 'done', finishedAt: sql`utc_timestamp(3) - interval 8 day` });
  await clearOldJobs();
  expect(await db.select().from(job)).toEqual([]);
});
