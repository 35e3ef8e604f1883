'use client';
import { useSearchParams } from 'next/navigation';
import type { ReactNode } from 'react';
import { Link } from '../kit/Link';

/** A stage of the stage line. The sample at hand goes along to the next stage. */
export function StageLink({ href, here, children }: { href: string; here: boolean; children: ReactNode }) {
  const sample = useSearchParams().get('sample');
  return (
    <Link
      href={sample ? `${href}?sample=${encodeURIComponent(sample)}` : href}
      aria-current={here ? 'page' : undefined}
    >
      {children}
    </Link>
  );
}
