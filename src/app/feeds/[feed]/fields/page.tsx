import { fieldsStage } from '@/server/feeds/fieldsStage';
import { pinnedSkus } from '@/server/feeds/samples';
import { FieldsBench } from '@/ui/bench/FieldsBench';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  const sample = query.sample ?? (await pinnedSkus())[0];
  return (
    <FeedFrame feed={feed} stage="fields" query={query}>
      {async (work) => <FieldsBench stage={await fieldsStage(work, sample)} />}
    </FeedFrame>
  );
}
