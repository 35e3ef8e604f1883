import { Piscina } from 'piscina';
import type { Answer, Asked, Threads } from '../server/listings/threads';
import { settings } from '../server/runtime/settings';

/** A thread that nothing was asked of for so long ends, with what it holds. */
const idleFor = 20_000;

/**
 * Threads that make listings while the worker writes others. They begin when something is asked of them.
 * @param program what they run @returns undefined where the worker is to have none
 */
export function startThreads(program: string): (Threads & { end(): Promise<void> }) | undefined {
  const { count, from } = settings.threads;
  if (count === 0) return undefined;
  const pool = new Piscina<Asked, Answer>({
    filename: program,
    minThreads: 0,
    maxThreads: count,
    // While one chunk is read another is made.
    concurrentTasksPerWorker: 2,
    idleTimeout: idleFor,
    // A thread that sleeps would not hear its database.
    atomics: 'disabled',
  });
  return { count, from, make: (asked) => pool.run(asked), end: () => pool.close() };
}
