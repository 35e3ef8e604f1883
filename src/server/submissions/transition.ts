import { eq } from 'drizzle-orm';
import type { Transaction } from '../db/connection';
import { type SubmissionState, submission } from '../db/schema';

/** Which states a submission may go to from each; what is not here never happens. */
const next: Readonly<Record<SubmissionState, readonly SubmissionState[]>> = {
  planning: ['planning', 'held', 'queued', 'stopped'],
  held: ['planning', 'stopped'],
  queued: ['sending', 'paused', 'waiting', 'answered', 'failed', 'stopped'],
  sending: ['sending', 'paused', 'waiting', 'answered', 'failed', 'stopped'],
  paused: ['queued', 'waiting', 'answered', 'failed', 'stopped'],
  waiting: ['waiting', 'answered', 'failed'],
  // A late answer is counted again.
  answered: ['answered', 'failed'],
  failed: ['answered', 'failed'],
  stopped: [],
};

type Change = Partial<Omit<SubmissionRow, 'id' | 'feed'>> & { readonly state: SubmissionState };

/**
 * Changes the state of a submission: the row is locked, and nothing happens where it is not in a state that is expected. What the
 * change brings about belongs into the same transaction.
 * @param from the states in which the change makes sense
 * @returns the row as it was before; undefined where nothing was changed
 */
export async function transition(
  tx: Transaction,
  id: number,
  from: readonly SubmissionState[],
  change: Change,
): Promise<SubmissionRow | undefined> {
  const [row] = await tx.select().from(submission).where(eq(submission.id, id)).for('update');
  if (!row || !from.includes(row.state) || !next[row.state].includes(change.state)) return undefined;
  await tx.update(submission).set(change).where(eq(submission.id, id));
  return row;
}

export type SubmissionRow = typeof submission.$inferSelect;
