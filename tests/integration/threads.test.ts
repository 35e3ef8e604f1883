import { asc, eq, like, type SQL, sql } from 'drizzle-orm';
import type { Values } from '@/core/catalog/item';
import { fromAttribute } from '@/core/compose/composition';
import { raiseRevision } from '@/server/catalog/changes';
import { insertRows } from '@/server/db/bulk';
import { db } from '@/server/db/connection';
import { feedListing, feedSummary, feedValue, item } from '@/server/db/schema';
import { unattended } from '@/server/jobs/queue';
import { isRefreshing } from '@/server/listings/read';
import { evaluateFeeds } from '@/server/listings/refreshJob';
import { type Answer, type Asked, makingAsked, type Threads } from '@/server/listings/threads';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { startWorker } from '../support/programs';
import { closeDatabase, freshDemo } from '../support/stack';

/** Listings that are made in threads are those that are made in place, whatever happens while several chunks are under way. */
const code = 'lanternry-de';
const copies = 4500;

beforeAll(async () => {
  await freshDemo();
  const demo = await db.select().from(item).where(eq(item.archived, false)).orderBy(asc(item.id));
  const rows = Array.from({ length: copies }, (_, at) => {
    const { id: _id, ...one } = demo[at % demo.length] as (typeof demo)[number];
    const number: Values = at % 5 === 0 ? {} : { gtin: `95200${String(at).padStart(8, '0')}` };
    return { ...one, sku: `${one.sku}/${at}`, values: { ...one.values, ...number } };
  });
  await db.transaction(async (tx) => {
    const revision = await raiseRevision(tx);
    for (let at = 0; at < copies; at += 1000)
      await insertRows(
        tx,
        item,
        rows.slice(at, at + 1000).map((row) => ({ ...row, revision })),
      );
  });
}, 60_000);
afterAll(closeDatabase);

/** All that is kept of a feed. */
async function kept() {
  const [listings, values, [summary]] = await Promise.all([
    db.select().from(feedListing).where(eq(feedListing.feed, code)).orderBy(asc(feedListing.sku)),
    db
      .select()
      .from(feedValue)
      .where(eq(feedValue.feed, code))
      .orderBy(asc(feedValue.digest), asc(feedValue.sku), asc(feedValue.part)),
    db.select().from(feedSummary).where(eq(feedSummary.feed, code)),
  ]);
  return { listings, values, figures: summary?.figures, failed: summary?.failed, target: summary?.target };
}

type Kept = Awaited<ReturnType<typeof kept>>;

const forget = async () => {
  for (const table of [feedListing, feedValue, feedSummary])
    await db.delete(table).where(eq(table.feed, code));
};

/** What is kept once all was counted in place from nothing. */
async function countedHere() {
  await forget();
  await evaluateFeeds();
  return kept();
}

/** That what is kept is what is kept once all was counted in place; of many that differ a few are told. */
async function isAsHere(): Promise<void> {
  isSame(await kept(), await countedHere());
}
function isSame(there: Kept, here: Kept): void {
  const others = <T>(some: readonly T[], all: readonly T[]) => {
    const known = new Set(all.map((one) => JSON.stringify(one)));
    return some.filter((one) => !known.has(JSON.stringify(one))).slice(0, 3);
  };
  expect(others(there.listings, here.listings)).toEqual(others(here.listings, there.listings));
  expect(others(there.values, here.values)).toEqual(others(here.values, there.values));
  expect([there.listings.length, there.values.length]).toEqual([here.listings.length, here.values.length]);
  expect([there.figures, there.failed, there.target]).toEqual([here.figures, here.failed, here.target]);
}

/** Threads that are none, so that something may happen before what they are asked for is made. */
function pretended(before: (asked: Asked, times: number) => Promise<Answer | undefined>): Threads {
  const make = makingAsked();
  let times = 0;
  return {
    count: 2,
    from: 1,
    make: async (asked) => (await before(asked, ++times)) ?? make(asked),
  };
}

/** Every item as it is, but changed. */
const touchAll = () =>
  db.transaction(async (tx) => {
    await tx.update(item).set({ revision: await raiseRevision(tx) });
  });

test('a worker with threads keeps what is kept without', async () => {
  const here = await countedHere();
  expect(here.listings.length).toBeGreaterThan(copies);
  await forget();
  const worker = await startWorker({ LIVELY_COUNTING_THREADS: '2', LIVELY_THREADS_FROM: '1' });
  try {
    await touchAll();
    while (await isRefreshing()) await new Promise((resolve) => setTimeout(resolve, 25));
    isSame(await kept(), here);
  } finally {
    await worker.end();
  }
}, 120_000);

test('further chunks are begun before the first is written, and each is made once', async () => {
  await forget();
  const asked: number[] = [];
  const written: number[] = [];
  const threads = pretended(async ({ range }) => {
    asked.push(range.behind);
    const [found] = await db
      .select({ upTo: feedSummary.upTo })
      .from(feedSummary)
      .where(eq(feedSummary.feed, code));
    written.push(found?.upTo ?? 0);
    return undefined;
  });
  await evaluateFeeds(unattended, threads);
  expect(asked.length).toBe(Math.ceil((await kept()).listings.length / 2000));
  expect(new Set(asked).size).toBe(asked.length);
  // Two and the one that is wanted: none of what they follow was written when they were begun.
  expect(written.slice(0, 3)).toEqual([0, 0, 0]);
});

test('what changes while chunks are under way ends in the same as counting it afterwards', async () => {
  await touchAll();
  await db.update(feedSummary).set({ plan: 'another' }).where(eq(feedSummary.feed, code));
  const threads = pretended(async (_asked, times) => {
    if (times === 2)
      await db.transaction(async (tx) => {
        const revision = await raiseRevision(tx);
        await tx.update(item).set({ revision, archived: true }).where(like(item.sku, '%/70%'));
        await tx
          .update(item)
          .set({ revision, values: sql`json_set(${item.values}, '$.price', '0.00')` })
          .where(like(item.sku, '%/80%'));
      });
    return undefined;
  });
  await evaluateFeeds(unattended, threads);
  await evaluateFeeds(unattended, threads);
  await isAsHere();
});

test('where more items have changed in a range than it had when it was found, none is left out', async () => {
  await evaluateFeeds();
  const change = (which: SQL) =>
    db.transaction(async (tx) => {
      const revision = await raiseRevision(tx);
      await tx
        .update(item)
        .set({ revision, values: sql`json_set(${item.values}, '$.price', ${`${revision}.77`})` })
        .where(which);
    });
  // Ranges are made of the few that change now, spread over the whole catalog; then all of them change.
  await change(sql`${item.id} % 2 = 0`);
  let changed: Promise<void> | undefined;
  let most = 0;
  const make = makingAsked();
  const threads: Threads = {
    count: 2,
    from: 1,
    make: async (asked) => {
      changed ??= change(sql`true`);
      await changed;
      const answer = await make(asked);
      if (typeof answer === 'object' && 'made' in answer) most = Math.max(most, answer.made.listings.length);
      return answer;
    },
  };
  await evaluateFeeds(unattended, threads);
  expect(most).toBeGreaterThan(2000);
  expect(most).toBeLessThanOrEqual(4000);
  await evaluateFeeds(unattended, threads);
  await isAsHere();
});

test('a plan that is published while chunks are made by the one before is the one that is counted by', async () => {
  await db.update(feedSummary).set({ plan: 'another' }).where(eq(feedSummary.feed, code));
  const threads = pretended(async (_asked, times) => {
    if (times !== 3) return undefined;
    await editDraft(code, (await feedPlans(code))?.revision ?? 0, {
      edit: 'fields',
      fields: { headline: fromAttribute('sku') },
    });
    await publishDraft(code, (await feedPlans(code))?.revision ?? 0, 'meanwhile');
    return undefined;
  });
  await evaluateFeeds(unattended, threads);
  await isAsHere();
});

test('a thread that ends is this try’s fault, and the next goes on from there; what it says of the plan is told', async () => {
  const before = await kept();
  await db.update(feedSummary).set({ plan: 'another' }).where(eq(feedSummary.feed, code));
  const ending = pretended(async (_asked, times) => {
    if (times === 3) throw new Error('the thread ended');
    return undefined;
  });
  await expect(evaluateFeeds(unattended, ending)).rejects.toThrow('the thread ended');
  const [midway] = await db.select().from(feedSummary).where(eq(feedSummary.feed, code));
  expect(midway?.failed).toBeNull();
  expect(midway?.upTo).toBeGreaterThan(0);
  const again: number[] = [];
  await evaluateFeeds(
    unattended,
    pretended(async ({ range }) => {
      again.push(range.behind);
      return undefined;
    }),
  );
  expect(Math.min(...again)).toBe(midway?.upTo);
  isSame(await kept(), before);
  await db.update(feedSummary).set({ plan: 'another' }).where(eq(feedSummary.feed, code));
  await evaluateFeeds(
    unattended,
    pretended(async () => ({ failed: 'It takes too long.', expected: true })),
  );
  expect((await kept()).failed).toBe('It takes too long.');
});
