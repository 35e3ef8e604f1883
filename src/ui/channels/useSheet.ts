'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState, useTransition } from 'react';
import { saveSheet, saveSheetText } from '@/app/channelActions';
import type { Sheet } from '@/core/channels/sheet';
import type { SheetResult } from '@/server/channels/channels';
import { useUndoKey } from '../bench/useUndoKey';

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

  /** One after the other: one's own quick changes are never in each other's way. */
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const inTurn = (save: () => Promise<SheetResult>): Promise<SheetResult> => {
    const mine = last.current.then(save, save);
    last.current = mine;
    return mine;
  };
  const settle = (result: SheetResult) => {
    if (result.ok) {
      revision.current = result.revision;
      setError('');
      router.refresh();
    } else setError(result.words);
    return result.ok;
  };
  const put = (next: Kept, remember = true) => {
    if (remember) setPast([...past.slice(-49), kept]);
    setKept(next);
    startBusy(async () => {
      settle(await inTurn(() => saveSheet(code, revision.current, next.sheet, next.taxonomy)));
    });
  };
  /** Saves a sheet written as text; the form shows it where it is valid. */
  const putText = (text: string) =>
    startBusy(async () => {
      const result = await inTurn(() => saveSheetText(code, revision.current, text, kept.taxonomy));
      if (settle(result) && result.ok) {
        setPast([...past.slice(-49), kept]);
        setKept({ ...kept, sheet: result.sheet });
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
    error,
    canUndo: past.length > 0,
    undo,
    putText,
    setSheet: (change: Partial<Sheet>) => put({ ...kept, sheet: { ...kept.sheet, ...change } }),
    setTaxonomy: (taxonomy: string) => put({ ...kept, taxonomy }),
  };
}
export type SheetState = ReturnType<typeof useSheet>;
