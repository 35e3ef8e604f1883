import { eq, inArray } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { item, type SubmissionState, submission } from '@/server/db/schema';
import { stopSubmission } from '@/server/submissions/delivery';
import { findSubmission, pauseSubmission, resumeSubmission } from '@/server/submissions/submissions';
import { transition } from '@/server/submissions/transition';
import { closeDatabase, freshDemo } from '../support/stack';

/** A submission changes its state in one way: with its row locked, from a state that was expected. */
beforeAll(freshDemo);
afterAll(closeDatabase);

async function made(state: SubmissionState): Promise<number> {
  const [row] = await db
    .insert(submission)
    .values({
      feed: 'lanternry-de',
      version: 1,
      state,
      total: 0,
      accepted: 0,
      refused: 0,
      createdAt: new Date(),
    })
    .$returningId();
  return row?.id ?? 0;
}
const stateOf = async (id: number) => (await findSubmission(id))?.state;

test('what was stopped stays so, whoever comes late', async () => {
  const id = await made('stopped');
  // A worker whose channel let it in no more, and one whose last part left.
  for (const state of ['paused', 'sending', 'waiting', 'queued'] as const)
    expect(
      await db.transaction((tx) => transition(tx, id, ['queued', 'sending', 'stopped'], { state })),
    ).toBeUndefined();
  expect(await stateOf(id)).toBe('stopped');
  await expect(pauseSubmission(id)).rejects.toThrow();
  await expect(resumeSubmission(id)).rejects.toThrow();
  await expect(stopSubmission(id)).rejects.toThrow();
  expect(await stateOf(id)).toBe('stopped');
});

test('of two who change one at the same time, the second finds it changed', async () => {
  for (let round = 0; round < 10; round++) {
    const id = await made('sending');
    const [pause, stop] = await Promise.allSettled([pauseSubmission(id), stopSubmission(id)]);
    expect(stop.status).toBe('fulfilled');
    // Paused first and then stopped, or stopped and no more to be paused: never paused in the end.
    expect(['paused', 'queued', 'sending']).not.toContain(await stateOf(id));
    expect(['fulfilled', 'rejected']).toContain(pause.status);
  }
});

test('what the database breaks a deadlock by is run again, and counted', async () => {
  const { transactionsRetried } = await import('@/server/db/connection');
  const before = transactionsRetried.deadlock;
  const skus = (await db.select({ sku: item.sku }).from(item).limit(2)).map(({ sku }) => sku) as [
    string,
    string,
  ];
  let waiting = 0;
  let bothHold = () => {};
  const both = new Promise<void>((resolve) => {
    bothHold = resolve;
  });
  const rename = (first: string, then: string, name: string) => {
    let tried = 0;
    return db.transaction(async (tx) => {
      await tx.update(item).set({ name }).where(eq(item.sku, first));
      if (tried++ === 0) {
        if (++waiting === 2) bothHold();
        await both;
      }
      await tx.update(item).set({ name }).where(eq(item.sku, then));
    });
  };
  await Promise.all([rename(skus[0], skus[1], 'one'), rename(skus[1], skus[0], 'other')]);
  expect(transactionsRetried.deadlock).toBe(before + 1);
  const names = (await db.select({ name: item.name }).from(item).where(inArray(item.sku, skus))).map(
    ({ name }) => name,
  );
  // Each did all of its work: the last one has the word.
  expect(new Set(names).size).toBe(1);
});
