import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { RulesStagePage } from '@/ui/rules/RulesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="rules" query={query}>
      {(stage) => <RulesStagePage stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
