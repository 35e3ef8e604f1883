import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { FamiliesBench } from '@/ui/familiesStage/FamiliesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="families" query={query}>
      {(stage) => <FamiliesBench stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
