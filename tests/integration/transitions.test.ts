import { db } from '@/server/db/connection';
import { type SubmissionState, submission } from '@/server/db/schema';
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
