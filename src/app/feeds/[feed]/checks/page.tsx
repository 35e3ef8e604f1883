import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { ChecksStagePage } from '@/ui/checks/ChecksStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="checks" query={query}>
      {(body) => <ChecksStagePage {...body} />}
    </FeedFrame>
  ),
  feedPage,
);
