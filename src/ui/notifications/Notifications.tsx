'use client';
import { markNotificationsRead } from '@/actions/notifications';
import { urgentKinds } from '@/core/notifications/notifications';
import type { NotificationView } from '@/server/notifications/notifications';
import { When } from '../kit/display/When';
import { Empty } from '../kit/Empty';
import { useAction } from '../kit/hooks/useAction';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import './notifications.css';

const placeOf = ({ feed, submission, source }: NotificationView): string =>
  source !== undefined ? '/sources' : `/feeds/${feed}/send${submission ? `?submission=${submission}` : ''}`;

/** What happened, the newest first; what is new stands out, and leads to where it is looked at. */
export function Notifications({ notices }: { notices: readonly NotificationView[] }) {
  const doing = useAction();
  if (notices.length === 0)
    return (
      <Empty title="No notifications yet.">
        <span className="muted">
          Results, held submissions, rejections and failed fetches are listed here.
        </span>
      </Empty>
    );
  return (
    <ul className="notices" aria-busy={doing.busy}>
      {notices.map((one) => (
        <li key={one.id} data-read={one.read}>
          <span className="muted small">
            <When at={one.at} />
          </span>
          <Link href={placeOf(one)} className="text" onClick={() => void markNotificationsRead(one.id)}>
            {one.about}
          </Link>
          <span className={urgentKinds.has(one.kind) ? 'tone-blocker' : ''}>{one.words}</span>
          {!one.read && (
            <TextButton small onClick={() => doing.run(markNotificationsRead(one.id))}>
              Mark as read
            </TextButton>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Marks everything as seen. */
export function SeeAll({ count }: { count: number }) {
  const doing = useAction();
  return count > 0 ? (
    <TextButton onClick={() => doing.run(markNotificationsRead(null))}>Mark all as read</TextButton>
  ) : null;
}
