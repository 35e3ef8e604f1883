import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { Differences } from '@/ui/frame/Differences';

/** Every value the draft changes, before and after, filterable by field. */
export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="differences" query={query}>
      {(differences) => (
        <Differences
          feed={feed}
          page={differences}
          only={query.only}
          versions={{ old: query.old, new: query.new }}
        />
      )}
    </FeedFrame>
  ),
  feedPage,
);
