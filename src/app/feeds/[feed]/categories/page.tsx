import { cache } from 'react';
import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { categoriesStage } from '@/server/feeds/categoriesStage';
import { firstItemOf } from '@/server/feeds/samples';
import { CategoriesBench } from '@/ui/categories/CategoriesBench';

/** The bench and the tray's first item ask for the same stage; it is computed once a request. */
const stageOf = cache(categoriesStage);

export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame
      traySample={async (work) => firstItemOf(work, (await stageOf(work, query)).current)}
      feed={feed}
      stage="categories"
      query={query}
      trayField={(work) => work.sheet.fields.find(({ kind }) => kind === 'category')?.code}
    >
      {async (work) => <CategoriesBench stage={await stageOf(work, query)} />}
    </FeedFrame>
  );
}, feedPage);
