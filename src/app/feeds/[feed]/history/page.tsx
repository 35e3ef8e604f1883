import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { listSavedDrafts, listVersions } from '@/server/plans/drafts';
import { History } from '@/ui/frame/History';

export default page(async ({ params: { feed }, query }) => {
  const [versions, setAside] = await Promise.all([listVersions(feed), listSavedDrafts(feed)]);
  const given = { versions, setAside, feed };
  return (
    <FeedFrame feed={feed} page="history" query={query} whenFailed={<History {...given} expected={[]} />}>
      {({ expected, present }) => <History {...given} expected={expected} present={present} />}
    </FeedFrame>
  );
}, feedPage);
