import { cache } from 'react';
import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { checksStage } from '@/server/feeds/checksStage';
import { ChecksBench } from '@/ui/checks/ChecksBench';

/** The bench and the tray's first item ask for the same stage; it is computed once a request. */
const stageOf = cache(checksStage);

export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame
      traySample={async (work) => (query.remedy ? (await stageOf(work, query)).listings[0]?.sku : undefined)}
      feed={feed}
      stage="checks"
      query={query}
      trayField={() => query.remedy?.split(':')[1]}
    >
      {async (work) => <ChecksBench stage={await stageOf(work, query)} fields={work.plans.draft.fields} />}
    </FeedFrame>
  );
}, feedPage);
