import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { settingsStage } from '@/server/feeds/settingsStage';
import { destinationView } from '@/server/submissions/destinations';
import { Destination } from '@/ui/settings/Destination';
import { FeedSettings } from '@/ui/settings/FeedSettings';

const mannerOf = (manner: string) => (manner === 'fetched' || manner === 'byHand' ? manner : 'other');

export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame feed={feed} stage="settings" query={query} tray={false}>
      {async (work) => (
        <FeedSettings stage={await settingsStage(work)} feed={feed}>
          <Destination
            feed={feed}
            to={await destinationView(work.plans.head)}
            manner={mannerOf(work.sheet.delivery.manner)}
          />
        </FeedSettings>
      )}
    </FeedFrame>
  );
}, feedPage);
