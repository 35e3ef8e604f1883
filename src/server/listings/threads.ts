import { DrizzleQueryError } from 'drizzle-orm';
import { failureOf } from '../monitoring/failure';
import type { FeedHead } from '../plans/drafts';
import { planOf, type Surroundings, surroundings } from './compiledPlans';
import { type EvaluatedChunk, evaluateChunk, type Range, readingOnce } from './evaluateChunk';

/** Listings that are made in threads beside the one that writes them, so that what is made and what is written do not wait for each other. */

export interface Asked {
  readonly head: FeedHead;
  /** Digests of what it is to be made by (`planOf`, `surroundings`). */
  readonly plan: string;
  readonly around: string;
  readonly range: Range;
  /** The revision that is counted to. */
  readonly target: number;
}

/** What was made; or that the plan, or what is around it, has changed meanwhile; or why the plan cannot be evaluated. */
export type Answer =
  | { readonly made: EvaluatedChunk }
  | 'other'
  | { readonly failed: string; readonly expected: boolean };

export interface Threads {
  readonly count: number;
  /** Fewer items than so many are not worth a thread. */
  readonly from: number;
  /** @throws where the thread ended, or could not read */
  make(asked: Asked): Promise<Answer>;
}

/** What a thread does: it reads the items itself, and keeps plans compiled. */
export function makingAsked(): (asked: Asked) => Promise<Answer> {
  let around: (Surroundings & { read: ReturnType<typeof readingOnce> }) | undefined;
  return async (asked) => {
    if (around?.digest !== asked.around) {
      const found = await surroundings();
      around = { ...found, read: readingOnce(found.index) };
    }
    if (around.digest !== asked.around) return 'other';
    const chunk = await around.read(asked.range, asked.target);
    try {
      const counted = await planOf(asked.head, around);
      return counted?.plan === asked.plan ? { made: await evaluateChunk(counted, chunk) } : 'other';
    } catch (error) {
      // What the database says is about this try; all else is about the plan.
      if (error instanceof DrizzleQueryError) throw error;
      const { message, expected } = failureOf(error);
      return { failed: message, expected };
    }
  };
}
