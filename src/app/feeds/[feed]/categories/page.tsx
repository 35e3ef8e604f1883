import { categoriesStage } from '@/server/feeds/categoriesStage';
import { firstItemOf } from '@/server/feeds/samples';
import { CategoriesBench } from '@/ui/categories/CategoriesBench';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  return (
    <FeedFrame
      traySample={(work) => firstItemOf(work, categoriesStage(work, query).current)}
      feed={feed}
      stage="categories"
      query={query}
      trayField={(work) => work.sheet.fields.find(({ kind }) => kind === 'category')?.code}
    >
      {(work) => <CategoriesBench stage={categoriesStage(work, query)} />}
    </FeedFrame>
  );
}
