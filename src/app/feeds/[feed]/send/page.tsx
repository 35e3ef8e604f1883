import { sendStage } from '@/server/feeds/sendStage';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';
import { SendBench } from '@/ui/send/SendBench';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  const submission = Number(query.submission) || undefined;
  return (
    <FeedFrame feed={feed} stage="send" query={query}>
      {async (work) => <SendBench stage={await sendStage(work, submission)} />}
    </FeedFrame>
  );
}
