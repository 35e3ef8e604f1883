import { cache } from 'react';
import { categoriesStage } from '@/server/feeds/categoriesStage';
import { firstItemOf } from '@/server/feeds/samples';
import { CategoriesBench } from '@/ui/categories/CategoriesBench';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

/** The bench and the tray's first item ask for the same stage; it is computed once a request. */
const stageOf = cache(categoriesStage);

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
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
}
