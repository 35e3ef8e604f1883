import { and, asc, eq, lte } from 'drizzle-orm';
import { db, type Transaction } from '../db/connection';
import { job } from '../db/schema';
import { settings } from '../settings';

const jobKinds = [
  'checkRun',
  'applyRun',
  'undoRun',
  'fetchSource',
  'measurePictures',
  'sendSubmission',
  'collectReport',
] as const;
export type JobKind = (typeof jobKinds)[number];

export interface TakenJob {
  readonly id: number;
  readonly kind: string;
  readonly payload: Record<string, number>;
  readonly attempts: number;
}

/** How long a job waits for a sign of life before another worker takes it over. */
export const leaseSeconds = settings.leaseSeconds;
const mostAttempts = 8;

/** Puts work on the queue, in the transaction that causes it. */
export async function enqueue(
  tx: Transaction,
  kind: JobKind,
  payload: Record<string, number>,
  after = 0,
): Promise<void> {
  await tx.insert(job).values({
    kind,
    payload,
    state: 'queued',
    attempts: 0,
    runAt: new Date(Date.now() + after),
    progress: 0,
    stopAsked: false,
  });
}

/** Takes one job that is due, or whose worker has gone silent; undefined where there is none. */
export async function takeJob(): Promise<TakenJob | undefined> {
  return db.transaction(
    async (tx) => {
      const now = new Date();
      // Each query walks the index in its order and stops at the first row, so that it locks that row and no other.
      const first = (state: 'queued' | 'running', due: typeof job.runAt | typeof job.leasedUntil) =>
        tx
          .select()
          .from(job, { forceIndex: state === 'queued' ? 'job_ready' : 'job_leased' })
          .where(and(eq(job.state, state), lte(due, now)))
          .orderBy(asc(job.state), asc(due))
          .limit(1)
          .for('update', { skipLocked: true });
      const [found] = [...(await first('queued', job.runAt)), ...(await first('running', job.leasedUntil))];
      if (!found) return undefined;
      await tx
        .update(job)
        .set({ state: 'running', attempts: found.attempts + 1, leasedUntil: leaseEnd() })
        .where(eq(job.id, found.id));
      return { id: found.id, kind: found.kind, payload: found.payload, attempts: found.attempts + 1 };
    },
    { isolationLevel: 'read committed' },
  );
}

const leaseEnd = () => new Date(Date.now() + leaseSeconds * 1000);

/** Keeps the lease. */
export async function beat(id: number, progress?: number): Promise<void> {
  await db
    .update(job)
    .set({ leasedUntil: leaseEnd(), ...(progress === undefined ? {} : { progress }) })
    .where(eq(job.id, id));
}

export async function finishJob(id: number): Promise<void> {
  await db.update(job).set({ state: 'done', progress: 1, leasedUntil: null }).where(eq(job.id, id));
}

/** Puts a job back with a growing, jittered delay, or gives it up after {@link mostAttempts}. @returns whether it will run again */
export async function postpone(taken: TakenJob, error: string, random: () => number): Promise<boolean> {
  const again = taken.attempts < mostAttempts;
  const delay = Math.min(60_000, 500 * 2 ** taken.attempts) * (0.5 + random() / 2);
  await db
    .update(job)
    .set({
      state: again ? 'queued' : 'failed',
      error,
      runAt: new Date(Date.now() + delay),
      leasedUntil: null,
    })
    .where(eq(job.id, taken.id));
  return again;
}

/** Gives a job another run later without counting it as a failure. */
export async function runAgain(id: number, after: number): Promise<void> {
  await db
    .update(job)
    .set({ state: 'queued', attempts: 0, runAt: new Date(Date.now() + after), leasedUntil: null })
    .where(eq(job.id, id));
}
