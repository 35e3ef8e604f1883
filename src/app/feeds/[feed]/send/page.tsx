import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { SendStagePage } from '@/ui/send/SendStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="send" query={query}>
      {(stage) => <SendStagePage stage={stage} withTray={query.sample !== undefined} />}
    </FeedFrame>
  ),
  feedPage,
);
