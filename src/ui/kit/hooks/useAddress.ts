'use client';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useTransition } from 'react';

/** Reads and changes the address bar's query, which keeps the state of every page. */
export function useAddress() {
  const router = useRouter();
  const path = usePathname();
  const query = useSearchParams();
  const [moving, startMoving] = useTransition();
  const withChange = useCallback(
    (change: Record<string, string | undefined>) => {
      const next = new URLSearchParams(query.toString());
      for (const [name, value] of Object.entries(change)) {
        if (value === undefined || value === '') next.delete(name);
        else next.set(name, value);
      }
      const text = next.toString();
      return text ? `${path}?${text}` : path;
    },
    [path, query],
  );
  const go = useCallback(
    (change: Record<string, string | undefined>) =>
      startMoving(() => router.replace(withChange(change), { scroll: false })),
    [router, withChange],
  );
  return { query, path, withChange, go, moving };
}
