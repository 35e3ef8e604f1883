'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { setMapping } from '@/app/actions';
import type { ImportMapping } from '@/core/intake/mapping';
import type { RunRow } from '@/server/sources/sources';

export type Answer = { ok: true } | { ok: false; words: string };

/** Does something to a run, tells what went wrong in words, and shows the run as it is then. */
export function useRun(run: RunRow) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const act = (work: () => Promise<Answer>) =>
    startBusy(async () => {
      const answer = await work();
      if (!answer.ok) notifications.show({ color: 'red', message: answer.words });
      router.refresh();
    });
  const change = (mapping: Partial<ImportMapping>) =>
    act(() => setMapping(run.id, { ...run.mapping, ...mapping }));
  const underWay = run.state === 'checking' || run.state === 'applying' || run.state === 'undoing';
  return { busy, act, change, underWay, locked: underWay || run.state === 'done' || run.state === 'undone' };
}
export type RunActs = ReturnType<typeof useRun>;
