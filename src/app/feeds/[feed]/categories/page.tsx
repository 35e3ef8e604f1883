import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { CategoriesStagePage } from '@/ui/categories/CategoriesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="categories" query={query}>
      {(stage) => <CategoriesStagePage stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
