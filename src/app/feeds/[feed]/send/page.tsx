import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { sendStage } from '@/server/feeds/sendStage';
import { SendBench } from '@/ui/send/SendBench';

export default page(async ({ params: { feed }, query }) => {
  const submission = Number(query.submission) || undefined;
  return (
    <FeedFrame feed={feed} stage="send" query={query}>
      {async (work) => <SendBench stage={await sendStage(work, submission)} />}
    </FeedFrame>
  );
}, feedPage);
