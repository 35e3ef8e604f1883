'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { createContext, useCallback, useContext, useMemo, useState, useTransition } from 'react';
import { discard, publish, restore, saveEdit, undoEdit } from '@/app/actions';
import type { PlanEdit } from '@/core/listing/edit';
import type { EditResult } from '@/server/feeds/drafts';

/**
 * What all parts of a page share about the draft they edit: the newest revision any of them knows, and the saves that are
 * under way. One person's quick edits go one after the other; only somebody else's can be in the way.
 */
export interface DraftLane {
  revision: number;
  last: Promise<unknown>;
}

export interface DraftState {
  readonly feed: string;
  readonly revision: number;
  readonly lane: DraftLane;
}

export const newLane = (revision: number): DraftLane => ({ revision, last: Promise.resolve() });

export const DraftContext = createContext<DraftState>({ feed: '', revision: 0, lane: newLane(0) });

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
  const { feed, revision, lane } = useContext(DraftContext);
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [conflict, setConflict] = useState<Conflict>();
  lane.revision = Math.max(lane.revision, revision);

  const settle = useCallback(
    (result: EditResult, edit?: PlanEdit) => {
      if (result.ok) {
        lane.revision = Math.max(lane.revision, result.revision);
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
    [router, lane],
  );
  const run = useCallback(
    (work: () => Promise<EditResult>, edit?: PlanEdit) =>
      new Promise<boolean>((resolve) =>
        startBusy(async () => {
          try {
            const mine = lane.last.then(work, work);
            lane.last = mine;
            resolve(settle(await mine, edit));
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
    [settle, lane],
  );
  return useMemo(
    () => ({
      feed,
      busy,
      conflict,
      save: (edit: PlanEdit) => run(() => saveEdit(feed, lane.revision, edit), edit),
      takeOver: () =>
        conflict
          ? run(() => saveEdit(feed, conflict.revision, conflict.edit), conflict.edit)
          : Promise.resolve(false),
      /** Saves in a way of its own, from the revision at hand. */
      run: (work: (revision: number) => Promise<EditResult>) => run(() => work(lane.revision)),
      undo: () => run(() => undoEdit(feed)),
      publish: () => run(() => publish(feed, lane.revision)),
      discard: () => run(() => discard(feed, lane.revision)),
      restore: (version: number) => run(() => restore(feed, version, lane.revision)),
    }),
    [feed, busy, conflict, run, lane],
  );
}
