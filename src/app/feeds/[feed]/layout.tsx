import { notFound } from 'next/navigation';
import { type ReactNode, Suspense } from 'react';
import { part } from '@/app/gated';
import { authorize } from '@/server/auth/authorize';
import { isFeed } from '@/server/plans/drafts';
import { Calculating } from '@/ui/frame/Calculating';

/**
 * The pages of a feed. Whoever comes to one from elsewhere sees at once that it is being worked out; between the pages of one feed
 * the last stays until the next is there.
 */
export default async function Layout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ feed: string }>;
}) {
  const { data: feed } = part.safeParse((await params).feed);
  if (feed === undefined || !(await authorize('look', 'opened a feed', () => isFeed(feed)))) notFound();
  return (
    <Suspense key={feed} fallback={<Calculating />}>
      {children}
    </Suspense>
  );
}
