import { listVersions } from '@/server/feeds/drafts';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';
import { History } from '@/ui/frame/History';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  return (
    <FeedFrame feed={feed} stage="history" query={query} tray={false}>
      {async () => <History versions={await listVersions(feed)} feed={feed} />}
    </FeedFrame>
  );
}
