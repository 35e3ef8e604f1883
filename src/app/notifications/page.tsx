import { page } from '@/app/gated';
import { listNotifications } from '@/server/notifications/notifications';
import { listHooks } from '@/server/notifications/webhooks';
import { Notifications, SeeAll } from '@/ui/notifications/Notifications';
import { Webhooks } from '@/ui/notifications/Webhooks';

export default page(async () => {
  const [notices, { hooks, deliveries }] = await Promise.all([listNotifications(), listHooks()]);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Notifications</h1>
        <span className="sub">results, held submissions and failures</span>
        <div className="acts">
          <SeeAll count={notices.filter(({ read }) => !read).length} />
        </div>
      </header>
      <div className="panel" style={{ marginBottom: 16 }}>
        <Notifications notices={notices} />
      </div>
      <h2>Add a webhook</h2>
      <Webhooks hooks={hooks} deliveries={deliveries} />
    </div>
  );
});
