import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { MatchingStagePage } from '@/ui/matching/MatchingStagePage';

/** What the channel has already that the feed's items might join. */
export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="joining" stage="families" query={query}>
      {(stage) => <MatchingStagePage stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
