import { count, eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { feedSchedule, job, ledger, ledgerRevision, submission, submissionEntry } from '@/server/db/schema';
import { ledgerOf } from '@/server/ledger/ledger';
import { publishDraft } from '@/server/plans/drafts';
import { abandonPlanning, completePlanning, resumePlanning } from '@/server/submissions/planning/writing';
import { findSubmission, sendFeed } from '@/server/submissions/submissions';
import { plansOf } from '../support/feeds';
import { closeDatabase, freshDemo } from '../support/stack';

/** A submission is planned in many short transactions: wherever that is interrupted, it is sent once or nothing of it is. */
const feed = 'lanternry-de';
const longAgo = new Date(0);

beforeEach(async () => {
  await freshDemo();
  const { revision } = await plansOf(feed);
  await publishDraft(feed, revision, 'first');
});
afterAll(closeDatabase);

const entriesOf = async (id: number) =>
  (await db.select({ count: count() }).from(submissionEntry).where(eq(submissionEntry.submissionId, id)))[0]
    ?.count;
const pendingOf = async (id: number) =>
  [...(await ledgerOf(feed)).values()].filter(({ pending }) => pending?.submission === id).length;

async function planned(): Promise<{ id: number; total: number }> {
  const sent = await sendFeed(feed);
  if (!sent.ok) throw new Error(sent.reason);
  const { total = 0 } = (await findSubmission(sent.submission)) ?? {};
  expect(total).toBeGreaterThan(10);
  return { id: sent.submission, total };
}
/** As it was when whoever planned it ended. */
const interrupt = (id: number, plannedAt = longAgo) =>
  db.update(submission).set({ state: 'planning', plannedAt }).where(eq(submission.id, id));
const sendJobs = async () =>
  (await db.select().from(job).where(eq(job.kind, 'sendSubmission'))).filter(
    ({ state }) => state === 'queued',
  ).length;

test('entries and ledger are complete when it is queued, and a job looks whether it was interrupted', async () => {
  const { id, total } = await planned();
  expect(await findSubmission(id)).toMatchObject({ state: 'queued', plannedAt: null });
  expect([await entriesOf(id), await pendingOf(id), await sendJobs()]).toEqual([total, total, 1]);
  const [watching] = await db.select().from(job).where(eq(job.kind, 'resumePlanning'));
  expect(watching).toMatchObject({ state: 'queued', payload: { submission: id } });
  expect(await resumePlanning(id)).toBeUndefined();
  expect(await sendJobs()).toBe(1);
});

test('interrupted after its entries were written down, it is sent by whoever resumes it, once', async () => {
  const { id, total } = await planned();
  await db.delete(job);
  await interrupt(id);
  await Promise.all([resumePlanning(id), resumePlanning(id)]).catch(() => undefined);
  expect(await findSubmission(id)).toMatchObject({ state: 'queued' });
  expect([await entriesOf(id), await pendingOf(id), await sendJobs()]).toEqual([total, total, 1]);
  // Nothing is queued twice, whoever comes late.
  await expect(completePlanning(id)).rejects.toThrow();
  expect(await sendJobs()).toBe(1);
});

test('what brings the channel back pauses the schedule, also where another process ends its planning', async () => {
  const { id } = await planned();
  await db.update(submission).set({ cause: 'back' }).where(eq(submission.id, id));
  await interrupt(id);
  await resumePlanning(id);
  const [schedule] = await db.select().from(feedSchedule).where(eq(feedSchedule.feed, feed));
  expect([(await findSubmission(id))?.state, schedule?.paused]).toEqual(['queued', true]);
});

test('interrupted before, it is given up, and the same is sent anew', async () => {
  const { id, total } = await planned();
  await db.delete(job);
  // The ledger is written only after all entries are there.
  await db.delete(submissionEntry).where(eq(submissionEntry.submissionId, id)).limit(5);
  await db.delete(ledger).where(eq(ledger.feed, feed));
  await db.delete(ledgerRevision).where(eq(ledgerRevision.feed, feed));
  await interrupt(id);
  await resumePlanning(id);
  expect(await findSubmission(id)).toMatchObject({
    state: 'stopped',
    error: expect.stringMatching(/interrupted/),
  });
  expect([await entriesOf(id), await sendJobs()]).toEqual([0, 0]);
  expect((await planned()).total).toBe(total);
});

test('given up after the ledger was written, the channel has what it had, and the same is sent anew', async () => {
  const { id, total } = await planned();
  await interrupt(id);
  await abandonPlanning(id, 'given up');
  expect(await findSubmission(id)).toMatchObject({ state: 'stopped', total: 0, error: 'given up' });
  expect([await entriesOf(id), await pendingOf(id)]).toEqual([0, 0]);
  const again = await planned();
  expect([again.total, await pendingOf(again.id)]).toEqual([total, total]);
});

test('while somebody is at it, it is left alone, and no other is planned beside it', async () => {
  const { id } = await planned();
  await interrupt(id, new Date());
  const wait = await resumePlanning(id);
  expect(wait).toBeGreaterThan(0);
  expect(await findSubmission(id)).toMatchObject({ state: 'planning' });
  expect(await sendFeed(feed, 'everything')).toEqual({ ok: false, reason: 'underWay' });
});
