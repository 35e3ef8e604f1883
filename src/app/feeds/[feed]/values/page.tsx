import { cache } from 'react';
import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { firstItemWith, valuesStage } from '@/server/feeds/valuesStage';
import { ValuesBench } from '@/ui/values/ValuesBench';

/** The bench and the tray's first item ask for the same stage; it is computed once a request. */
const stageOf = cache(valuesStage);

export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame
      feed={feed}
      stage="fields"
      query={query}
      trayField={async (work) => (await stageOf(work, query.field)).current}
      traySample={async (work) => firstItemWith(work, await stageOf(work, query.field))}
    >
      {async (work) => <ValuesBench stage={await stageOf(work, query.field)} feed={feed} />}
    </FeedFrame>
  );
}, feedPage);
