import { notFound } from 'next/navigation';
import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { behindFigure, behindKinds } from '@/server/feeds/behind';
import { BehindFigure } from '@/ui/fields/BehindFigure';

export default page(async ({ params: { feed }, query }) => {
  const is = behindKinds.find((kind) => kind === query.is) ?? 'filled';
  return (
    <FeedFrame feed={feed} stage="fields" query={query} tray={false}>
      {(work) => {
        const behind = behindFigure(work, query.field ?? '', is);
        return behind ? <BehindFigure behind={behind} feed={feed} /> : notFound();
      }}
    </FeedFrame>
  );
}, feedPage);
