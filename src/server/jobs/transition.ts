import { eq } from 'drizzle-orm';
import type { MySqlUpdateSetSource } from 'drizzle-orm/mysql-core';
import type { Transaction } from '../db/connection';
import { job } from '../db/schema';

type JobRow = typeof job.$inferSelect;
export type JobState = JobRow['state'];

/** Which states a job may go to from each; what is not here never happens. */
const next: Readonly<Record<JobState, readonly JobState[]>> = {
  // Done without a run: another job of the kind has done its work.
  queued: ['running', 'stopped', 'done'],
  // Taken over by another worker after its lease ended.
  running: ['running', 'queued', 'done', 'failed', 'stopped'],
  done: [],
  failed: [],
  stopped: [],
};

type Change = Omit<MySqlUpdateSetSource<typeof job>, 'state'> & { readonly state: JobState };

/**
 * Changes the state of a job: the row is locked by its key, as a renewed lease locks it, and nothing happens where it is not in a state
 * that is expected, or is another worker's. Effects of the change belong into the same transaction.
 * @param owner the worker that must hold it; any where left out
 * @returns whether it was changed
 */
export async function transitionJob(
  tx: Transaction,
  id: number,
  from: readonly JobState[],
  change: Change,
  owner?: string,
): Promise<boolean> {
  const [row] = await tx
    .select({ state: job.state, owner: job.owner })
    .from(job)
    .where(eq(job.id, id))
    .for('update');
  if (!row || !from.includes(row.state) || !next[row.state].includes(change.state)) return false;
  if (owner !== undefined && row.owner !== owner) return false;
  await tx.update(job).set(change).where(eq(job.id, id));
  return true;
}
