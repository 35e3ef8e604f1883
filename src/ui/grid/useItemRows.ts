'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ItemRow } from '@/server/items/items';

const windowSize = 120;

interface Answer {
  total: number;
  all: number;
  rows: ItemRow[];
}

interface State {
  base: string;
  total: number;
  all: number;
  rows: Map<number, ItemRow>;
}

/** The rows of a query, fetched in windows as they come into view. */
export function useItemRows(base: string) {
  const [state, setState] = useState<State>();
  const fetched = useRef(new Set<string>());
  const version = useRef(0);
  const load = useCallback(
    async (page: number) => {
      const key = `${base}&from=${page * windowSize}&count=${windowSize}`;
      const marked = `${version.current}:${key}`;
      if (fetched.current.has(marked)) return;
      fetched.current.add(marked);
      try {
        const found: Answer = await fetch(`/api/items?${key}`).then((answer) => answer.json());
        setState((old) => {
          const next = new Map(old?.base === base ? old.rows : []);
          for (const [i, row] of found.rows.entries()) next.set(page * windowSize + i, row);
          return { base, total: found.total, all: found.all, rows: next };
        });
      } catch {
        fetched.current.delete(marked);
      }
    },
    [base],
  );
  /** Asks for the windows that hold some rows. */
  const show = useCallback(
    (first: number, last: number) => {
      for (let page = Math.floor(first / windowSize); page <= Math.floor(last / windowSize); page++)
        void load(page);
    },
    [load],
  );
  const [drawn, setDrawn] = useState(0);
  /** Reads everything again, after a change. */
  const refresh = useCallback(() => {
    version.current++;
    setDrawn(version.current);
  }, []);
  // The first window is always wanted: it tells how many rows there are.
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again when something was changed
  useEffect(() => void load(0), [load, drawn]);
  return { state, show, refresh, drawn, current: state?.base === base };
}
export type ItemRows = ReturnType<typeof useItemRows>;
