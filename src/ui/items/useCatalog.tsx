'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { undoCatalogEdit } from '@/app/catalogActions';
import type { Told } from '@/app/told';
import { useUndoKey } from '../bench/useUndoKey';

/**
 * Changes the catalog, says in words what was done with a way to undo it, and shows the page as it is then.
 * @param undoKey whether Ctrl and Z undo it here; on a feed's pages they undo the draft
 */
export function useCatalog(after?: () => void, undoKey = true) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const run = (work: () => Promise<Told<{ words: string; edit?: number }>>, then?: () => void) =>
    startBusy(async () => {
      const answer = await work();
      if (answer.ok) {
        const id = `edit-${answer.edit ?? Date.now()}`;
        const { edit } = answer;
        notifications.show({
          id,
          autoClose: 6000,
          message:
            edit === undefined ? (
              answer.words
            ) : (
              <span className="row">
                {answer.words}
                <button
                  type="button"
                  className="link"
                  onClick={() => {
                    notifications.hide(id);
                    run(() => undoCatalogEdit(edit));
                  }}
                >
                  Undo
                </button>
              </span>
            ),
        });
        then?.();
      } else notifications.show({ color: 'red', autoClose: 9000, message: answer.words });
      after?.();
      router.refresh();
    });
  const undo = () => run(() => undoCatalogEdit());
  useUndoKey(undo, undoKey);
  return { busy, run, undo };
}
export type CatalogActs = ReturnType<typeof useCatalog>;
