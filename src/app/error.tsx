'use client';
import { Button } from '@mantine/core';

export default function ErrorPage({ error, reset }: { error: Error & { digest?: string }; reset(): void }) {
  return (
    <div className="page">
      <div className="empty" role="alert">
        <h1>This page could not be shown.</h1>
        <span className="muted">
          Your saved changes are safe.{' '}
          {error.digest ? `The server's log has the reason under ${error.digest}.` : ''}
        </span>
        <Button onClick={reset}>Try again</Button>
      </div>
    </div>
  );
}
