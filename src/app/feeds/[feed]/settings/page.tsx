import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { Destination } from '@/ui/feedSettings/Destination';
import { FeedSettings } from '@/ui/feedSettings/FeedSettings';
import { ScheduleForm } from '@/ui/feedSettings/Schedule';

export default page(
  async ({ params: { feed }, query }) => (
    <FeedFrame feed={feed} page="settings" query={query}>
      {({ stage, to, transport, hour }) => (
        <FeedSettings stage={stage} feed={feed}>
          <ScheduleForm feed={feed} hour={hour} />
          <Destination feed={feed} to={to} transport={transport} />
        </FeedSettings>
      )}
    </FeedFrame>
  ),
  feedPage,
);
