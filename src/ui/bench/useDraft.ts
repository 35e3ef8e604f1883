'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { createContext, useCallback, useContext, useMemo, useRef, useState, useTransition } from 'react';
import { discard, publish, restore, saveEdit, undoEdit } from '@/app/actions';
import type { PlanEdit } from '@/core/listing/edit';
import type { EditResult } from '@/server/feeds/drafts';

export interface DraftState {
  readonly feed: string;
  readonly revision: number;
}

export const DraftContext = createContext<DraftState>({ feed: '', revision: 0 });

interface Conflict {
  readonly words: readonly string[];
  readonly edit: PlanEdit;
  readonly revision: number;
}

/**
 * Saves edits into the draft as they are made. Where someone else saved in between, the edit is kept aside and offered
 * again on top of theirs; nothing is overwritten unseen.
 */
export function useDraft() {
  const { feed, revision } = useContext(DraftContext);
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [conflict, setConflict] = useState<Conflict>();
  const known = useRef(revision);
  known.current = Math.max(known.current, revision);

  const settle = useCallback(
    (result: EditResult, edit?: PlanEdit) => {
      if (result.ok) {
        known.current = result.revision;
        setConflict(undefined);
        router.refresh();
      } else if (result.reason === 'conflict') {
        if (edit) setConflict({ words: result.words, edit, revision: result.revision });
        notifications.show({
          color: 'yellow',
          title: 'Someone else changed this draft',
          message: `Since you opened it: ${result.words.join('; ') || 'it was published'}. Your change is not saved yet.`,
          autoClose: false,
        });
        router.refresh();
      }
      return result.ok;
    },
    [router],
  );
  const run = useCallback(
    (work: () => Promise<EditResult>, edit?: PlanEdit) =>
      new Promise<boolean>((resolve) =>
        startBusy(async () => {
          try {
            resolve(settle(await work(), edit));
          } catch {
            notifications.show({
              color: 'red',
              title: 'Not saved',
              message: 'The change did not reach the server. Nothing was lost here; try again.',
            });
            resolve(false);
          }
        }),
      ),
    [settle],
  );
  return useMemo(
    () => ({
      feed,
      busy,
      conflict,
      save: (edit: PlanEdit) => run(() => saveEdit(feed, known.current, edit), edit),
      takeOver: () =>
        conflict
          ? run(() => saveEdit(feed, conflict.revision, conflict.edit), conflict.edit)
          : Promise.resolve(false),
      /** Saves in a way of its own, from the revision at hand. */
      run: (work: (revision: number) => Promise<EditResult>) => run(() => work(known.current)),
      undo: () => run(() => undoEdit(feed)),
      publish: () => run(() => publish(feed, known.current)),
      discard: () => run(() => discard(feed, known.current)),
      restore: (version: number) => run(() => restore(feed, version, known.current)),
    }),
    [feed, busy, conflict, run],
  );
}
