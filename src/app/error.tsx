'use client';
import { Button } from '@mantine/core';

export default function ErrorPage({ error, reset }: { error: Error & { digest?: string }; reset(): void }) {
  return (
    <div className="page">
      <div className="empty" role="alert">
        <h1>This page could not be made.</h1>
        <span className="muted">
          What you saved before is kept.{' '}
          {error.digest ? `The server's log has the reason under ${error.digest}.` : ''}
        </span>
        <Button onClick={reset}>Try again</Button>
      </div>
    </div>
  );
}
