'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { clearRefusal, showRefusal } from '../refusals';

type Outcome = { readonly ok: true } | { readonly ok: false; readonly words?: string };

export interface Action {
  readonly busy: boolean;
  /** Does something on the server, says why where it is refused, and shows how things stand then. */
  run(work: Promise<Outcome>, stated?: string): void;
}

export function useAction(): Action {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  return {
    busy,
    run: (work, stated) =>
      startBusy(async () => {
        const outcome = await work;
        if (!outcome.ok) showRefusal(outcome.words ?? 'Nothing was changed.');
        else {
          clearRefusal();
          if (stated) notifications.show({ message: stated });
        }
        router.refresh();
      }),
  };
}
