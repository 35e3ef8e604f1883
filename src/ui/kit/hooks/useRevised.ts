'use client';
import { useRef } from 'react';
import type { Action } from './useAction';

type Outcome =
  | { readonly ok: true; readonly revision?: number }
  | { readonly ok: false; readonly words?: string };

/**
 * Makes one person's quick changes of one thing one after the other, each from the revision that the one before gave: they are
 * not refused as somebody else's.
 * @param revision as the page was made with
 */
export function useRevised(revision: number, doing: Action) {
  const newest = useRef(revision);
  newest.current = Math.max(newest.current, revision);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  return (work: (revision: number) => Promise<Outcome>): void => {
    const mine = last.current.then(async () => {
      const outcome = await work(newest.current);
      if (outcome.ok && outcome.revision !== undefined) newest.current = outcome.revision;
      return outcome;
    });
    last.current = mine.catch(() => undefined);
    doing.run(mine);
  };
}
