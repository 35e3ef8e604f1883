/** Bulk work over the whole catalog that is under way in this process, told to those who wait for what follows from it. */
export interface WorkInProgress {
  readonly what: 'reading' | 'evaluating';
  /** The channel and the country of the feed it is for; empty where it is for all. */
  readonly feed: string;
  /** Items it has done, and has to do. */
  readonly done: number;
  readonly of: number;
}

const going = new Set<() => WorkInProgress>();

/** Tells of work for as long as it goes on. @param now how far it is */
export async function withProgress<T>(now: () => WorkInProgress, work: Promise<T>): Promise<T> {
  going.add(now);
  try {
    return await work;
  } finally {
    going.delete(now);
  }
}

/** What is under way in this process, what began first at the head. */
export const progressHere = (): WorkInProgress[] => [...going].map((now) => now());
