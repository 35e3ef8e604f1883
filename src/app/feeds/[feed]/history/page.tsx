import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { listVersions } from '@/server/feeds/drafts';
import { History } from '@/ui/frame/History';

export default page(async ({ params: { feed }, query }) => {
  const history = <History versions={await listVersions(feed)} feed={feed} />;
  return (
    <FeedFrame feed={feed} page="history" query={query} whenFailed={history}>
      {() => history}
    </FeedFrame>
  );
}, feedPage);
