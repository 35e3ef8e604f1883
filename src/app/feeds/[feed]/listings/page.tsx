import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { ListingList } from '@/ui/listing/ListingList';
import { ListingEditor } from '@/ui/listing/ListingPage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="listings" stage="checks" query={query}>
      {(body) =>
        body.listing ? (
          <ListingEditor listing={body.listing} />
        ) : (
          <ListingList lines={body.list.lines} total={body.list.total} unknown={body.unknown} />
        )
      }
    </FeedFrame>
  ),
  feedPage,
);
