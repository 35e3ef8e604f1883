'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { SidebarView } from '@/server/pages/overview';

/** Between looks, in ms: soon at first, seldom where it takes long. */
const [first, most] = [700, 15_000];

/**
 * The sidebar as the page was drawn with, and while its figures are being counted anew, as they are by now. They are asked for
 * by themselves: what a person does on the page, and where they are going, is not touched. The board alone is drawn anew at the end.
 */
export function useSidebar(drawn: SidebarView): SidebarView {
  const [sidebar, setSpine] = useState(drawn);
  useEffect(() => setSpine(drawn), [drawn]);
  const router = useRouter();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a look goes on until counting ends, wherever one is by then
  useEffect(() => {
    if (!sidebar.counting) return;
    let over = false;
    let timer: ReturnType<typeof setTimeout>;
    const look = (after: number) => {
      timer = setTimeout(async () => {
        const found: SidebarView | undefined = await fetch('/api/sidebar').then(
          (answer) => (answer.ok ? answer.json() : undefined),
          () => undefined,
        );
        if (over) return;
        if (found)
          setSpine({
            ...found,
            feeds: found.feeds.map((feed) => ({
              ...feed,
              lastSent: feed.lastSent && new Date(feed.lastSent),
            })),
          });
        if (!found || found.counting) look(Math.min(most, after * 1.5));
        else if (window.location.pathname === '/') router.refresh();
      }, after);
    };
    look(first);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [sidebar.counting]);
  return sidebar;
}
