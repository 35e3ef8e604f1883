import { useState } from 'react';

/**
 * What was shown last, while it is made anew: what a person has begun in it stays.
 * @param key what it is shown for: of another thing nothing stands
 * @param now undefined while it is not there
 * @param coming whether it is being made
 */
export function useKeepPrevious<T>(key: string, now: T | undefined, coming: boolean): T | undefined {
  const [last, setLast] = useState<{ readonly key: string; readonly shown: T }>();
  if (now !== undefined && (now !== last?.shown || key !== last.key)) setLast({ key, shown: now });
  return now ?? (coming && last?.key === key ? last.shown : undefined);
}
