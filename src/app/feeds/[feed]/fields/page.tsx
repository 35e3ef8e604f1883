import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { FieldsStagePage } from '@/ui/fields/FieldsStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="fields" query={query}>
      {(stage) => <FieldsStagePage stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
