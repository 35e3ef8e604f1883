import { settingsStage } from '@/server/feeds/settingsStage';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';
import { FeedSettings } from '@/ui/settings/FeedSettings';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  return (
    <FeedFrame feed={feed} stage="settings" query={query} tray={false}>
      {async (work) => <FeedSettings stage={await settingsStage(work)} feed={feed} />}
    </FeedFrame>
  );
}
