'use client';
import { useRouter } from 'next/navigation';
import { useOptimistic, useTransition } from 'react';
import type { Press } from '@/actions/action';
import { changeImport } from '@/actions/import';
import { applyMappingEdit, type MappingEdit } from '@/core/import/mapping/mappingEdit';
import type { RunRow } from '@/server/import/runs';
import { useSaveQueue } from '../../kit/hooks/useSaveQueue';
import { showRefusal } from '../../kit/refusals';

export type Answer = { ok: true } | { ok: false; words: string };

/**
 * Does something to a run, tells what went wrong in words, and shows the run as it is then. A change of its mapping shows at
 * once and is sent as what was changed; quick ones go one after the other.
 */
export function useImportRun(run: RunRow) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [mapping, addEdit] = useOptimistic(run.mapping, applyMappingEdit);
  const lane = useSaveQueue();
  const settle = async (work: (press: Press) => Promise<Answer>) => {
    const answer = await lane.run(work);
    if (!answer.ok) showRefusal(answer.words);
    router.refresh();
  };
  const act = (work: (press: Press) => Promise<Answer>) => startBusy(() => settle(work));
  const change = (edit: MappingEdit) =>
    startBusy(async () => {
      addEdit(edit);
      await settle((press) => changeImport(run.id, edit, press));
    });
  const underWay = run.state === 'checking' || run.state === 'applying' || run.state === 'undoing';
  return {
    busy,
    lane,
    mapping,
    act,
    change,
    underWay,
    locked: underWay || run.state === 'done' || run.state === 'undone',
  };
}
export type RunActs = ReturnType<typeof useImportRun>;
