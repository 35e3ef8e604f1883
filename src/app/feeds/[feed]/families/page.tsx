import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { FamiliesStagePage } from '@/ui/familiesStage/FamiliesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="families" query={query}>
      {(stage) => <FamiliesStagePage stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
