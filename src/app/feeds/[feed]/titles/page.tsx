import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { TitlesStagePage } from '@/ui/titles/TitlesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="titles" query={query}>
      {(stage) => <TitlesStagePage stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
