'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import type { Press, Told } from '@/actions/action';
import { undoCatalogEdit } from '@/actions/catalog/items';
import { TextButton } from '../inputs/TextButton';
import { clearRefusal, showRefusal } from '../refusals';
import { useSaveQueue } from './useSaveQueue';
import { useUndoKey } from './useUndoKey';

/**
 * Changes the catalog, says in words what was done with a way to undo it, and shows the page as it is then.
 * @param undoKey whether Ctrl and Z undo it here; on a feed's pages they undo the draft
 */
export function useCatalog(after?: () => void, undoKey = true) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const lane = useSaveQueue();
  /**
   * @param then what is done once it is changed
   * @param keep shows a refusal where the work stands, instead of beside the page
   */
  const run = (
    work: (press: Press) => Promise<Told<{ words: string; edit?: number }>>,
    then?: () => void,
    keep?: (words: string) => void,
  ) =>
    startBusy(async () => {
      const answer = await lane.run(work);
      if (answer.ok) {
        clearRefusal();
        tell(answer);
        then?.();
      } else if (keep) keep(answer.words);
      else showRefusal(answer.words);
      after?.();
      router.refresh();
    });
  /** Says what was done, with a way back where there is one. */
  const tell = ({ words, edit }: { words: string; edit?: number }) => {
    const id = `edit-${edit ?? Date.now()}`;
    notifications.show({
      id,
      // Long enough to read it and to take it back.
      autoClose: 10_000,
      message:
        edit === undefined ? (
          words
        ) : (
          <span className="row">
            {words}
            <TextButton
              onClick={() => {
                notifications.hide(id);
                run((press) => undoCatalogEdit(edit, press));
              }}
            >
              Undo
            </TextButton>
          </span>
        ),
    });
  };
  const undo = () => run((press) => undoCatalogEdit(undefined, press));
  useUndoKey(undo, undoKey);
  return { busy, lane, run, undo, tell };
}
export type CatalogActs = ReturnType<typeof useCatalog>;

/**
 * Does what was asked for in a dialog. @returns where it is refused, why, so that the dialog stays open and shows it
 */
export const inDialog = (
  acts: CatalogActs,
  work: Parameters<CatalogActs['run']>[0],
  then: () => void = () => undefined,
): Promise<string | undefined> =>
  new Promise((resolve) => {
    acts.run(
      work,
      () => {
        resolve(undefined);
        then();
      },
      resolve,
    );
  });
