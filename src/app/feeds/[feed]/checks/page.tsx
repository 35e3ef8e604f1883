import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { ChecksBench } from '@/ui/checks/ChecksStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="checks" query={query}>
      {(body) => <ChecksBench {...body} />}
    </FeedFrame>
  ),
  feedPage,
);
