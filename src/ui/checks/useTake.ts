import { notifications } from '@mantine/notifications';
import { takeProposed } from '@/actions/feeds';
import type { Wanted } from '@/server/feeds/proposals';
import { useDraft } from '../draft/useDraft';
import { useCatalog } from '../kit/useCatalog';

/** Takes what is proposed, and says what became of it: what was changed in the catalog can be undone there and then. */
export function useTake() {
  const draft = useDraft();
  const catalog = useCatalog(undefined, false);
  const take = (wanted: readonly Wanted[], share = true): Promise<boolean> =>
    draft.run(async (revision) => {
      const result = await takeProposed(draft.feed, revision, [...wanted], share);
      if (!result.ok) return result;
      const { told = [], done = [] } = result;
      if (told.length > 0) notifications.show({ message: `Said in ${told.join(', ')} too.` });
      for (const { words, id } of done) catalog.tell({ words, edit: id });
      return result;
    });
  return { take, busy: draft.busy || catalog.busy };
}
