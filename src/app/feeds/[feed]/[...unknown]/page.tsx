import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { Empty } from '@/ui/kit/Empty';
import { LinkButton } from '@/ui/kit/LinkButton';

/** An address under a feed that is no page of it: the feed's frame stays, with the way to its stages. */
export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="unknown" query={query}>
      {() => (
        <Empty title="This feed has no such page.">
          <span className="muted">Choose a stage above, or go to the checks of the feed.</span>
          <LinkButton variant="default" href={`/feeds/${feed}/checks`}>
            Go to Checks
          </LinkButton>
        </Empty>
      )}
    </FeedFrame>
  ),
  feedPage,
);
