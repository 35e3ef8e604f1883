import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { sendStage } from '@/server/feeds/sendStage';
import { SendBench } from '@/ui/send/SendBench';

export default page(async ({ params: { feed }, query }) => {
  const submission = Number(query.submission) || undefined;
  const withTray = query.sample !== undefined;
  return (
    <FeedFrame feed={feed} stage="send" query={query} tray={withTray}>
      {async (work) => (
        <SendBench
          stage={await sendStage(work, { submission, show: query.show, find: query.find })}
          withTray={withTray}
        />
      )}
    </FeedFrame>
  );
}, feedPage);
