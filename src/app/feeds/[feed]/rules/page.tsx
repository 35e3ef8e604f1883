import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { RulesBench } from '@/ui/rules/RulesStagePage';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="rules" query={query}>
      {(stage) => <RulesBench stage={stage} />}
    </FeedFrame>
  ),
  feedPage,
);
