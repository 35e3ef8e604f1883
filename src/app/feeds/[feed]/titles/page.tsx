import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { pinnedSkus } from '@/server/feeds/samples';
import { titlesStage } from '@/server/feeds/titlesStage';
import { TitlesBench } from '@/ui/titles/TitlesBench';

export default page(async ({ params: { feed }, query }) => {
  const sample = query.sample ?? (await pinnedSkus())[0];
  return (
    <FeedFrame feed={feed} stage="titles" query={query}>
      {(work) => <TitlesBench stage={titlesStage(work, sample, query.find ?? '')} />}
    </FeedFrame>
  );
}, feedPage);
