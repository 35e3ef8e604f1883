import { cache } from 'react';
import { checksStage } from '@/server/feeds/checksStage';
import { ChecksBench } from '@/ui/checks/ChecksBench';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

/** The bench and the tray's first item ask for the same stage; it is computed once a request. */
const stageOf = cache(checksStage);

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
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
}
