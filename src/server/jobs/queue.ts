import { randomUUID } from 'node:crypto';
import { and, asc, eq, inArray, lt, sql } from 'drizzle-orm';
import { db, type Transaction } from '../db/connection';
import { job } from '../db/schema';
import { settings } from '../runtime/settings';
import { isJobKind, type JobKind, jobKinds, kindsIn, type Payload, type Queue } from './kinds';
import { transitionJob } from './transition';

/** A job that one worker holds until its lease ends. */
export interface TakenJob {
  readonly id: number;
  readonly kind: JobKind;
  readonly payload: unknown;
  /** How often it was taken, this time included. */
  readonly attempts: number;
  readonly owner: string;
}

/** What a handler tells while it works; both throw where the job is no longer this worker's. */
export interface Work {
  /** Tells how far it is, 0 to 1, and keeps the lease. */
  progress(share: number): Promise<void>;
  /** Called inside a transaction that writes: what a worker that lost its job has made is not written. */
  hold(tx: Transaction): Promise<void>;
}

/** For work that is done where it is asked for, without a job. */
export const unattended: Work = { progress: async () => undefined, hold: async () => undefined };

/** Thrown where a job has been given to another worker, or a person stopped it. */
export class JobLost extends Error {
  constructor(readonly why: 'lease' | 'stopped') {
    super(why === 'lease' ? 'Another worker took over the job.' : 'The job was stopped.');
  }
}

/** How long a job waits for a sign of life before another worker takes it over. */
export const leaseSeconds = settings.leaseSeconds;

/** The database's clock, in UTC: the same for every worker on every machine. */
const now = sql`utc_timestamp(3)`;
const inMs = (ms: number) => sql`utc_timestamp(3) + interval ${Math.round(ms * 1000)} microsecond`;
const leaseEnd = inMs(leaseSeconds * 1000);

/** Puts work on the queue, in the transaction that causes it. @param after ms until it may begin */
export async function enqueue<K extends JobKind>(
  tx: Transaction,
  kind: K,
  payload: Payload<K>,
  after = 0,
): Promise<void> {
  await tx.insert(job).values({
    kind,
    payload: jobKinds[kind].payload.parse(payload),
    state: 'queued',
    attempts: 0,
    runAt: inMs(after),
    progress: 0,
    stopAsked: false,
  });
}

/** Whether work of a kind waits that nobody has begun; with `running` also such as is under way. */
export async function isWaiting(tx: Transaction, kind: JobKind, running = false): Promise<boolean> {
  const states = running ? (['queued', 'running'] as const) : (['queued'] as const);
  const [found] = await tx
    .select({ id: job.id })
    .from(job)
    .where(and(inArray(job.state, [...states]), eq(job.kind, kind)))
    .limit(1);
  return found !== undefined;
}

/** Lets waiting work of a kind begin at once. @returns whether any is there, under way too */
export async function hasten(tx: Transaction, kind: JobKind): Promise<boolean> {
  await tx
    .update(job)
    .set({ runAt: now })
    .where(and(eq(job.kind, kind), eq(job.state, 'queued')));
  return isWaiting(tx, kind, true);
}

/**
 * A lane of these in which a job is due, or its worker has gone silent; undefined where there is none. One question for all of
 * them and without a lock, for workers that have nothing to do.
 */
export async function dueQueue(lanes: readonly Queue[]): Promise<Queue | undefined> {
  const first = (state: 'queued' | 'running', due: typeof job.runAt | typeof job.leasedUntil) =>
    db
      .select({ kind: job.kind })
      .from(job, { forceIndex: state === 'queued' ? 'job_ready' : 'job_leased' })
      .where(and(eq(job.state, state), sql`${due} <= ${now}`, inArray(job.kind, lanes.flatMap(kindsIn))))
      .limit(1);
  const [found] = await first('queued', job.runAt).unionAll(first('running', job.leasedUntil)).limit(1);
  return found && isJobKind(found.kind) ? jobKinds[found.kind].lane : undefined;
}

/**
 * Takes one job of a lane that is due, or whose worker has gone silent; undefined where there is none. A job whose workers
 * have died as often as it may be tried comes as exhausted, to be given up.
 */
export async function takeJob(lane: Queue): Promise<(TakenJob & { exhausted: boolean }) | undefined> {
  return db.transaction(
    async (tx) => {
      // Each query walks the index in its order and stops at the first row, so that it locks that row and no other.
      const first = (state: 'queued' | 'running', due: typeof job.runAt | typeof job.leasedUntil) =>
        tx
          .select()
          .from(job, { forceIndex: state === 'queued' ? 'job_ready' : 'job_leased' })
          .where(and(eq(job.state, state), sql`${due} <= ${now}`, inArray(job.kind, kindsIn(lane))))
          .orderBy(asc(job.state), asc(due))
          .limit(1)
          .for('update', { skipLocked: true });
      const [found] = [...(await first('queued', job.runAt)), ...(await first('running', job.leasedUntil))];
      if (!found || !isJobKind(found.kind)) return undefined;
      const owner = randomUUID();
      const attempts = found.attempts + 1;
      const change = { state: 'running', attempts, owner, leasedUntil: leaseEnd } as const;
      if (!(await transitionJob(tx, found.id, ['queued', 'running'], change))) return undefined;
      return {
        id: found.id,
        kind: found.kind,
        payload: found.payload,
        attempts,
        owner,
        exhausted: attempts > jobKinds[found.kind].attempts,
      };
    },
    { isolationLevel: 'read committed' },
  );
}

const leased = ({ id, owner }: TakenJob) =>
  and(eq(job.id, id), eq(job.owner, owner), eq(job.state, 'running'));

/** Keeps the lease. @throws JobLost where the job is another's by now, or was stopped */
export async function renewLease(taken: TakenJob, progress?: number): Promise<void> {
  // In a transaction, so that it is tried again where the database breaks a deadlock.
  const [done] = await db.transaction((tx) =>
    tx
      .update(job)
      .set({ leasedUntil: leaseEnd, ...(progress === undefined ? {} : { progress }) })
      .where(leased(taken)),
  );
  if (done.affectedRows === 0) throw new JobLost('lease');
  if (progress === undefined) return;
  const [state] = await db.select({ stopAsked: job.stopAsked }).from(job).where(leased(taken));
  if (state?.stopAsked) throw new JobLost('stopped');
}

/** What a handler of this job tells while it works. */
export const workOn = (taken: TakenJob): Work => ({
  progress: (share) => renewLease(taken, share),
  hold: async (tx) => {
    // By its key, as the sign of life locks it: the other way round the two would wait for each other.
    const [rows] = (await tx.execute(
      sql`select ${job.id} from ${job} force index (primary) where ${leased(taken)} for update`,
    )) as unknown as [unknown[]];
    if (rows.length === 0) throw new JobLost('lease');
  },
});

/** Ends a job, where it is still this worker's. */
export async function finishJob(
  taken: TakenJob,
  state: 'done' | 'failed' | 'stopped' = 'done',
  error?: string,
): Promise<void> {
  await db.transaction((tx) =>
    transitionJob(
      tx,
      taken.id,
      ['running'],
      {
        state,
        ...(state === 'done' ? { progress: 1 } : { error: error ?? null }),
        leasedUntil: null,
        finishedAt: now,
      },
      taken.owner,
    ),
  );
}

/** Puts a job back on the queue, where it is still this worker's. */
const putBack = ({ id, owner }: TakenJob, afterMs: number, change: { error?: string; attempts?: number }) =>
  db.transaction((tx) =>
    transitionJob(
      tx,
      id,
      ['running'],
      { state: 'queued', ...change, runAt: inMs(afterMs), leasedUntil: null, owner: null },
      owner,
    ),
  );

/** Puts a job back with a growing, jittered delay, or gives it up. @returns whether it will run again */
export async function postpone(taken: TakenJob, error: string, random: () => number): Promise<boolean> {
  if (taken.attempts >= jobKinds[taken.kind].attempts) {
    await finishJob(taken, 'failed', error);
    return false;
  }
  const delayMs = Math.min(60_000, 500 * 2 ** taken.attempts) * (0.5 + random() / 2);
  await putBack(taken, delayMs, { error });
  return true;
}

/** Gives a job another run later without counting it as a failure. */
export async function runAgain(taken: TakenJob, afterMs: number): Promise<void> {
  await putBack(taken, afterMs, { attempts: 0 });
}

/** Ends waiting jobs of a kind that another one does as well; what another worker is about to take stays. */
export async function completeWaiting(tx: Transaction, kind: JobKind): Promise<void> {
  const waiting = await tx
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.state, 'queued'), eq(job.kind, kind)))
    .for('update', { skipLocked: true });
  for (const { id } of waiting)
    await transitionJob(tx, id, ['queued'], { state: 'done', finishedAt: now, progress: 1 });
}

/**
 * Asks the jobs of a kind about one subject to stop; those that wait are stopped at once.
 * @returns whether one was under way, which ends by itself
 */
export async function stopJobs<K extends JobKind>(kind: K, payload: Payload<K>): Promise<boolean> {
  const same = and(eq(job.kind, kind), sql`${job.payload} = ${JSON.stringify(payload)}`);
  await db.transaction(async (tx) => {
    const waiting = await tx
      .select({ id: job.id })
      .from(job)
      .where(and(same, eq(job.state, 'queued')));
    for (const { id } of waiting)
      await transitionJob(tx, id, ['queued'], { state: 'stopped', finishedAt: now });
  });
  const [asked] = await db
    .update(job)
    .set({ stopAsked: true })
    .where(and(same, eq(job.state, 'running')));
  return asked.affectedRows > 0;
}

/** Days for which jobs that have ended are kept. */
const keptDays = { done: 7, stopped: 7, failed: 90 } as const;

/** Clears jobs that ended long ago. */
export async function clearOldJobs(): Promise<void> {
  for (const [state, days] of Object.entries(keptDays))
    await db
      .delete(job)
      .where(
        and(
          eq(job.state, state as keyof typeof keptDays),
          lt(job.finishedAt, sql`utc_timestamp(3) - interval ${days} day`),
        ),
      );
}
