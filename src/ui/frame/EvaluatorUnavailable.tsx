'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { usePolling } from '../kit/hooks/usePolling';

/** A page that cannot be computed for the moment: it says so, and looks again by itself. */
export function EvaluatorUnavailableNotice({ words }: { words: string }) {
  const router = useRouter();
  usePolling(true, 3000);
  return (
    <div className="page">
      <div className="empty" role="alert">
        <h1>The calculation service restarts</h1>
        <span className="muted">{words}</span>
        <Button onClick={() => router.refresh()}>Try again</Button>
      </div>
    </div>
  );
}
