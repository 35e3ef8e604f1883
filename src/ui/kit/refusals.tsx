'use client';
import { ActionIcon } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { useSyncExternalStore } from 'react';

/** Why the last change was refused; it stays until it is closed or the next change succeeds. */
let refusal: string | undefined;
const listeners = new Set<() => void>();
const set = (words: string | undefined) => {
  refusal = words;
  for (const listener of listeners) listener();
};

/** Says why a change was refused, where no field of its own can say it. Messages that vanish are for success only. */
export const showRefusal = (words: string): void => set(words);
/** Clears it, as the next change succeeded. */
export const clearRefusal = (): void => {
  if (refusal !== undefined) set(undefined);
};

/** The bar with the reason, at the foot of the page. */
export function RefusalBar() {
  const words = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => refusal,
    () => undefined,
  );
  if (words === undefined) return null;
  return (
    <section className="impact refusal" role="alert" aria-label="Not done">
      <span className="grow">{words}</span>
      <ActionIcon variant="subtle" aria-label="Close" onClick={clearRefusal}>
        <IconX size={16} />
      </ActionIcon>
    </section>
  );
}
