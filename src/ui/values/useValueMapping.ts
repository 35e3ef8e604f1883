import { notifications } from '@mantine/notifications';
import { useState } from 'react';
import { saveValueMapping } from '@/actions/feeds';
import { plural } from '@/core/formatting/formatting';
import { changedWords } from '../checks/useApplyFix';
import { useDraft } from '../draft/useDraft';

/**
 * Says what words of a field mean, and to other feeds that take the same choices where a person wishes.
 * @param sharing those feeds, by what they are called
 */
export function useValueMapping(field: string | undefined, sharing: readonly { readonly name: string }[]) {
  const draft = useDraft();
  const [share, setShare] = useState(false);
  const others = [...new Set(sharing.map(({ name }) => name))];
  return {
    draft,
    share,
    setShare,
    /** What the tick says; undefined where there is no other feed. */
    shareWords:
      others.length > 0
        ? `Change the ${plural(others.length, 'draft')} of ${others.join(', ')} too`
        : undefined,
    say: (words: Record<string, string>) =>
      field !== undefined &&
      void draft.run(async (revision, request) => {
        const result = await saveValueMapping(draft.feed, revision, field, words, share, request);
        if (result.ok && result.elsewhere && result.elsewhere.length > 0)
          notifications.show({ message: changedWords(result.elsewhere) });
        return result;
      }),
  };
}
