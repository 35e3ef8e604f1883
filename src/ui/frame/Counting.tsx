'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';

/** Between looks, in ms: soon at first, seldom where it takes long. */
const [first, most] = [1000, 15_000];

/** Says that the figures beside are being counted anew, and looks again until they are. */
export function Counting() {
  const router = useRouter();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const look = (after: number) => {
      timer = setTimeout(() => {
        router.refresh();
        look(Math.min(most, after * 1.5));
      }, after);
    };
    look(first);
    return () => clearTimeout(timer);
  }, [router]);
  return <span aria-live="polite">· counting …</span>;
}
