import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { ChecksStage } from '@/server/stages/checks';

/** Shows the page anew when what was still being worked out is there. @returns whether it could not be worked out */
export function useCalculated(feed: string, stage: Pick<ChecksStage, 'later'>, fix: string | null): boolean {
  const router = useRouter();
  const [failed, setFailed] = useState<typeof stage>();
  useEffect(() => {
    if (!stage.later) return;
    const stop = new AbortController();
    const requested = fix === null ? '' : `?fix=${encodeURIComponent(fix)}`;
    fetch(`/api/feeds/${feed}/fixes${requested}`, { signal: stop.signal })
      .then((answer) => (answer.ok ? router.refresh() : setFailed(stage)))
      // What was not worked out is asked for again with the next page.
      .catch(() => stop.signal.aborted || setFailed(stage));
    return () => stop.abort();
  }, [feed, stage, fix, router]);
  return failed === stage;
}
