import { useRouter } from 'next/navigation';
import { useEffect } from 'react';

/** Shows the page anew now and then, while something it shows is under way. @param every in ms */
export function usePolling(underWay: boolean, every: number): void {
  const router = useRouter();
  useEffect(() => {
    if (!underWay) return;
    const timer = setInterval(() => router.refresh(), every);
    return () => clearInterval(timer);
  }, [underWay, every, router]);
}
