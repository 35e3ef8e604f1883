import { notifications } from '@mantine/notifications';
import { useState } from 'react';
import { saveWordsOf } from '@/actions/feeds';
import { useDraft } from '../draft/useDraft';

/**
 * Says what words of a field mean, and says it to other feeds that take the same choices as well, unless told not to.
 * @param sharing those feeds, by what they are called
 */
export function useSayWords(field: string | undefined, sharing: readonly { readonly name: string }[]) {
  const draft = useDraft();
  const [share, setShare] = useState(true);
  const others = [...new Set(sharing.map(({ name }) => name))];
  return {
    draft,
    share,
    setShare,
    /** What the tick says; undefined where there is no other feed. */
    shareWords: others.length > 0 ? `say it in ${others.join(', ')} too` : undefined,
    say: (words: Record<string, string>) =>
      field !== undefined &&
      void draft.run(async (revision) => {
        const result = await saveWordsOf(draft.feed, revision, field, words, share);
        if (result.ok && result.told && result.told.length > 0)
          notifications.show({ message: `Said in ${result.told.join(', ')} too.` });
        return result;
      }),
  };
}
