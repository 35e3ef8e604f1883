'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';

/** Says that the figures beside are being counted anew, and looks again until they are. */
export function Counting() {
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), 1000);
    return () => clearInterval(timer);
  }, [router]);
  return <span aria-live="polite">· counting …</span>;
}
