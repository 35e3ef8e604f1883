import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { fieldsStage } from '@/server/feeds/fieldsStage';
import { pinnedSkus } from '@/server/feeds/samples';
import { FieldsBench } from '@/ui/fields/FieldsBench';

export default page(async ({ params: { feed }, query }) => {
  const sample = query.sample ?? (await pinnedSkus())[0];
  return (
    <FeedFrame feed={feed} stage="fields" query={query}>
      {async (work) => <FieldsBench stage={await fieldsStage(work, sample)} />}
    </FeedFrame>
  );
}, feedPage);
