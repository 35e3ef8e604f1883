import { cache } from 'react';
import { firstItemWith, valuesStage } from '@/server/feeds/valuesStage';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';
import { ValuesBench } from '@/ui/values/ValuesBench';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

/** The bench and the tray's first item ask for the same stage; it is computed once a request. */
const stageOf = cache(valuesStage);

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
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
}
