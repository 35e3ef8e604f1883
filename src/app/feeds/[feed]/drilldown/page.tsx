import { notFound } from 'next/navigation';
import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { DrilldownTable } from '@/ui/fields/Drilldown';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="behind" stage="fields" query={query}>
      {(behind) => (behind ? <DrilldownTable behind={behind} feed={feed} /> : notFound())}
    </FeedFrame>
  ),
  feedPage,
);
