'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { openVersionOf } from '@/actions/channels';
import { showRefusal } from '../kit/refusals';

/** Opens a further version of a channel as a copy of the one in use, and goes to change it. */
export function OpenVersionButton({ code }: { code: string }) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  return (
    <Button
      disabled={busy}
      onClick={() =>
        startBusy(async () => {
          const answer = await openVersionOf(code);
          if (answer.ok) {
            router.push(`/channels/${code}/edit`);
            router.refresh();
          } else showRefusal(answer.words);
        })
      }
    >
      Open the next version
    </Button>
  );
}
