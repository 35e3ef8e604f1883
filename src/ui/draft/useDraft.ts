'use client';
import { useRouter } from 'next/navigation';
import { createContext, useCallback, useContext, useMemo, useOptimistic, useTransition } from 'react';
import type { Refusal } from '@/actions/action';
import {
  discard,
  publish,
  restore,
  resumeStoredDraft,
  saveEdit,
  storeDraft,
  undoEdit,
} from '@/actions/feeds';
import type { PlanEdit } from '@/core/plans/edit';
import type { EditResult } from '@/server/plans/drafts';
import { newRequestId } from '../kit/hooks/requestId';
import { SaveQueue } from '../kit/hooks/useSaveQueue';
import { clearRefusal, showRefusal } from '../kit/refusals';

type Saved = EditResult | Refusal;

/** Somebody else saved in between: what they did, and the edit that waits. */
export interface Conflict {
  readonly words: readonly string[];
  /** Undefined where it was no edit that was refused, but an undo. */
  readonly edit: PlanEdit | undefined;
  readonly revision: number;
}

/** What all parts of a page share about the draft they edit. */
export interface DraftState {
  readonly feed: string;
  readonly revision: number;
  readonly lane: DraftQueue;
  readonly conflict: Conflict | undefined;
  setConflict(conflict: Conflict | undefined): void;
}

/** The newest revision that any part of the page knows, and the saves that are under way. */
export class DraftQueue extends SaveQueue {
  constructor(public revision: number) {
    super();
  }
}

export const DraftContext = createContext<DraftState>({
  feed: '',
  revision: 0,
  lane: new DraftQueue(0),
  conflict: undefined,
  setConflict: () => undefined,
});

/**
 * Saves edits into the draft as they are made. Where someone else saved in between, the edit is kept aside and offered
 * again on top of theirs; nothing is overwritten unseen, and nobody's work is taken back unseen.
 */
export function useDraft() {
  const { feed, revision, lane, conflict, setConflict } = useContext(DraftContext);
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  lane.revision = Math.max(lane.revision, revision);

  const settle = useCallback(
    (result: Saved, edit?: PlanEdit) => {
      if (result.ok) {
        lane.revision = Math.max(lane.revision, result.revision);
        setConflict(undefined);
        clearRefusal();
      } else if (result.reason === 'conflict')
        setConflict({ words: result.words, edit, revision: result.revision });
      else if (result.reason === 'refused') showRefusal(`Not saved. ${result.words}`);
      router.refresh();
      return result.ok;
    },
    [router, lane, setConflict],
  );
  const run = useCallback(
    (work: () => Promise<Saved>, edit?: PlanEdit, show?: () => void) =>
      new Promise<boolean>((resolve) =>
        startBusy(async () => {
          show?.();
          resolve(settle(await lane.run(work), edit));
        }),
      ),
    [settle, lane],
  );
  return useMemo(
    () => ({
      feed,
      busy,
      lane,
      conflict,
      /** @param show shows the edit at once, before it is saved */
      save: (edit: PlanEdit, show?: () => void) => {
        const request = newRequestId();
        return run(() => saveEdit(feed, lane.revision, edit, request), edit, show);
      },
      /** Puts the edit that waits on top of what somebody else did. */
      takeOver: () => {
        const waiting = conflict?.edit;
        const request = newRequestId();
        return waiting
          ? run(() => saveEdit(feed, conflict.revision, waiting, request), waiting)
          : Promise.resolve(false);
      },
      giveUp: () => {
        if (conflict) lane.revision = Math.max(lane.revision, conflict.revision);
        setConflict(undefined);
      },
      /** Saves in a way of its own, from the revision at hand. */
      run: (work: (revision: number, request: string) => Promise<Saved>) => {
        const request = newRequestId();
        return run(() => work(lane.revision, request));
      },
      undo: () => run(() => undoEdit(feed, lane.revision)),
      publish: (note = '') => run(() => publish(feed, lane.revision, note)),
      leave: (name: string) => run(() => storeDraft(feed, lane.revision, name)),
      takeUp: (name: string) => run(() => resumeStoredDraft(feed, lane.revision, name)),
      discard: () => run(() => discard(feed, lane.revision)),
      restore: (version: number) => run(() => restore(feed, version, lane.revision)),
    }),
    [feed, busy, conflict, run, lane, setConflict],
  );
}

/**
 * A part of the plan as it stands with one's own edits, those that are still being saved among them: further edits build
 * on it and lose nothing.
 * @param apply what an edit makes of the part
 */
export function useEdited<T>(value: T, apply: (value: T, edit: PlanEdit) => T) {
  const draft = useDraft();
  const [shown, add] = useOptimistic(value, apply);
  return { draft, shown, save: (edit: PlanEdit) => draft.save(edit, () => add(edit)) };
}
