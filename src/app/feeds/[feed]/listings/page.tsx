import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { ListingEditor } from '@/ui/listing/ListingPage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="listings" stage="checks" query={query}>
      {({ listing }) => <ListingEditor listing={listing} />}
    </FeedFrame>
  ),
  feedPage,
);
