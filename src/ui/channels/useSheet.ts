'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState, useTransition } from 'react';
import { saveSheet, saveSheetText } from '@/actions/channels';
import type { Sheet } from '@/core/channels/sheet';
import type { SheetResult } from '@/server/channels/channels';
import { useSaveQueue } from '../kit/hooks/useSaveQueue';
import { useUndoKey } from '../kit/hooks/useUndoKey';

interface Kept {
  readonly sheet: Sheet;
  readonly taxonomy: string;
}

/**
 * The open version of a sheet while it is edited: every change is saved at once, one that is not valid is kept on the
 * screen and refused with its place, and each can be undone.
 */
export function useSheet(code: string, start: Kept & { revision: number }) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [kept, setKept] = useState<Kept>(start);
  const [error, setError] = useState('');
  const [past, setPast] = useState<readonly Kept[]>([]);
  const revision = useRef(start.revision);
  revision.current = Math.max(revision.current, start.revision);

  const lane = useSaveQueue();
  /** As it is with every change made, drawn or not: the next one builds on it. */
  const newest = useRef(kept);
  const settle = (result: SheetResult) => {
    if (result.ok) {
      revision.current = result.revision;
      setError('');
      router.refresh();
    } else setError(result.words);
    return result.ok;
  };
  const put = (next: Kept, remember = true) => {
    if (remember) setPast([...past.slice(-49), newest.current]);
    newest.current = next;
    setKept(next);
    startBusy(async () => {
      settle(await lane.run((press) => saveSheet(code, revision.current, next.sheet, next.taxonomy, press)));
    });
  };
  /** Saves a sheet written as text; the form shows it where it is valid. */
  const putText = (text: string) =>
    startBusy(async () => {
      const result = await lane.run((press) =>
        saveSheetText(code, revision.current, text, newest.current.taxonomy, press),
      );
      if (settle(result) && result.ok) {
        setPast([...past.slice(-49), newest.current]);
        newest.current = { ...newest.current, sheet: result.sheet };
        setKept(newest.current);
      }
    });
  const undo = () => {
    const last = past.at(-1);
    if (!last) return;
    setPast(past.slice(0, -1));
    put(last, false);
  };
  useUndoKey(undo);
  return {
    ...kept,
    busy,
    lane,
    error,
    canUndo: past.length > 0,
    undo,
    putText,
    setSheet: (change: Partial<Sheet>) =>
      put({ ...newest.current, sheet: { ...newest.current.sheet, ...change } }),
    setTaxonomy: (taxonomy: string) => put({ ...newest.current, taxonomy }),
  };
}
export type SheetState = ReturnType<typeof useSheet>;
