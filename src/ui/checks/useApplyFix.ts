import { notifications } from '@mantine/notifications';
import { applySuggestedFixes } from '@/actions/feeds';
import type { FixRequest } from '@/server/fixes/applying';
import { useDraft } from '../draft/useDraft';
import { useCatalog } from '../kit/hooks/useCatalog';

/** What was changed in drafts of other feeds, in words. */
export const changedWords = (changed: readonly { readonly name: string; readonly words: string }[]): string =>
  `Also changed, in the drafts of other feeds: ${changed.map(({ name, words }) => `${name} (${words})`).join('; ')}. Undo reverts all of it.`;

/** Takes what is proposed, and says what became of it: what was changed in the catalog can be undone there and then. */
export function useApplyFix() {
  const draft = useDraft();
  const catalog = useCatalog(undefined, false);
  const take = (wanted: readonly FixRequest[], share = false): Promise<boolean> =>
    draft.run(async (revision, request) => {
      const result = await applySuggestedFixes(draft.feed, revision, [...wanted], share, request);
      if (!result.ok) return result;
      const { elsewhere = [], done = [] } = result;
      if (elsewhere.length > 0) notifications.show({ message: changedWords(elsewhere) });
      for (const { words, id } of done) catalog.tell({ words, edit: id });
      return result;
    });
  return { take, busy: draft.busy || catalog.busy };
}
