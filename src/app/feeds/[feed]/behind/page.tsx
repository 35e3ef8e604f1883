import { notFound } from 'next/navigation';
import { behindFigure, behindKinds } from '@/server/feeds/behind';
import { BehindFigure } from '@/ui/bench/BehindFigure';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  const is = behindKinds.find((kind) => kind === query.is) ?? 'filled';
  return (
    <FeedFrame feed={feed} stage="fields" query={query} tray={false}>
      {(work) => {
        const behind = behindFigure(work, query.field ?? '', is);
        return behind ? <BehindFigure behind={behind} feed={feed} /> : notFound();
      }}
    </FeedFrame>
  );
}
