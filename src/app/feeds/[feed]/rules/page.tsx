import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { rulesStage } from '@/server/feeds/rulesStage';
import { RulesBench } from '@/ui/rules/RulesBench';

export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame feed={feed} stage="rules" query={query}>
      {(work) => <RulesBench stage={rulesStage(work)} />}
    </FeedFrame>
  );
}, feedPage);
