'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import type { Told } from '@/actions/action';
import { undoCatalogEdit } from '@/actions/catalog';
import { TextButton } from './TextButton';
import { useLane } from './useLane';
import { useUndoKey } from './useUndoKey';

/**
 * Changes the catalog, says in words what was done with a way to undo it, and shows the page as it is then.
 * @param undoKey whether Ctrl and Z undo it here; on a feed's pages they undo the draft
 */
export function useCatalog(after?: () => void, undoKey = true) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const lane = useLane();
  /**
   * @param then what is done once it is changed
   * @param keep shows a refusal where the work stands, instead of beside the page
   */
  const run = (
    work: () => Promise<Told<{ words: string; edit?: number }>>,
    then?: () => void,
    keep?: (words: string) => void,
  ) =>
    startBusy(async () => {
      const answer = await lane.run(work);
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
                <TextButton
                  onClick={() => {
                    notifications.hide(id);
                    run(() => undoCatalogEdit(edit));
                  }}
                >
                  Undo
                </TextButton>
              </span>
            ),
        });
        then?.();
      } else if (keep) keep(answer.words);
      else notifications.show({ color: 'red', autoClose: 9000, message: answer.words });
      after?.();
      router.refresh();
    });
  const undo = () => run(() => undoCatalogEdit());
  useUndoKey(undo, undoKey);
  return { busy, lane, run, undo };
}
export type CatalogActs = ReturnType<typeof useCatalog>;
