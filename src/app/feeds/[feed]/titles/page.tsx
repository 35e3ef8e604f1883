import { pinnedSkus } from '@/server/feeds/samples';
import { titlesStage } from '@/server/feeds/titlesStage';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';
import { TitlesBench } from '@/ui/titles/TitlesBench';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  const sample = query.sample ?? (await pinnedSkus())[0];
  return (
    <FeedFrame feed={feed} stage="titles" query={query}>
      {(work) => <TitlesBench stage={titlesStage(work, sample, query.find ?? '')} />}
    </FeedFrame>
  );
}
