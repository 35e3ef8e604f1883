import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { settingsStage } from '@/server/feeds/settingsStage';
import { FeedSettings } from '@/ui/settings/FeedSettings';

export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame feed={feed} stage="settings" query={query} tray={false}>
      {async (work) => <FeedSettings stage={await settingsStage(work)} feed={feed} />}
    </FeedFrame>
  );
}, feedPage);
