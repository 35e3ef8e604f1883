import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { ValuesStagePage } from '@/ui/values/ValuesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="values" stage="fields" query={query}>
      {(stage) => <ValuesStagePage stage={stage} feed={feed} />}
    </FeedFrame>
  ),
  feedPage,
);
