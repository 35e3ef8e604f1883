'use client';
import { markNotificationsRead } from '@/actions/notifications';
import { daysBetween, formatDate, formatNumber } from '@/core/formatting/formatting';
import { urgentKinds } from '@/core/notifications/notifications';
import type { NotificationView } from '@/server/notifications/notifications';
import { FilterChips } from '../kit/display/FilterChips';
import { When } from '../kit/display/When';
import { Empty } from '../kit/Empty';
import { useAction } from '../kit/hooks/useAction';
import { useAddress } from '../kit/hooks/useAddress';
import { SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import './notifications.css';

const placeOf = ({ feed, submission, source }: NotificationView): string =>
  source !== undefined ? '/sources' : `/feeds/${feed}/send${submission ? `?submission=${submission}` : ''}`;

const shows = ['all', 'unread', 'urgent'] as const;
type Show = (typeof shows)[number];
const isShown: Readonly<Record<Show, (one: NotificationView) => boolean>> = {
  all: () => true,
  unread: ({ read }) => !read,
  urgent: ({ kind }) => urgentKinds.has(kind),
};

/** The day of a notification as its heading says it. */
const dayOf = (at: Date): string =>
  ({ 0: 'Today', [-1]: 'Yesterday' })[daysBetween(new Date(), at)] ?? formatDate(at);

/** What happened by day, the newest first, with filters; new ones are marked and lead to their page. */
export function Notifications({ notices }: { notices: readonly NotificationView[] }) {
  const { query, go } = useAddress();
  const show = shows.find((one) => one === query.get('show')) ?? 'all';
  const subjects = [...new Set(notices.map(({ about }) => about))].sort();
  const about = subjects.find((one) => one === query.get('about')) ?? '';
  if (notices.length === 0)
    return (
      <Empty title="No notifications yet.">
        <span className="muted">
          Results, held submissions, rejections and failed fetches are listed here.
        </span>
      </Empty>
    );
  const ofSubject = notices.filter((one) => about === '' || one.about === about);
  const shown = ofSubject.filter(isShown[show]);
  const labels: Readonly<Record<Show, string>> = { all: 'All', unread: 'Unread', urgent: 'Urgent' };
  const days = [...new Set(shown.map(({ at }) => dayOf(at)))];
  return (
    <>
      <div className="bench-head">
        <FilterChips
          options={shows.map(
            (one) => [one, `${labels[one]} ${formatNumber(ofSubject.filter(isShown[one]).length)}`] as const,
          )}
          current={show}
          onPick={(next) => go({ show: next === 'all' ? undefined : next })}
        />
        <SelectField
          name="About"
          shown="beside"
          value={about}
          options={[['', 'everything'], ...subjects.map((one) => [one, one] as const)]}
          onChange={(next) => go({ about: next === '' ? undefined : next })}
        />
      </div>
      {shown.length === 0 && (
        <Empty title="No notification matches.">
          <TextButton onClick={() => go({ show: undefined, about: undefined })}>Show all</TextButton>
        </Empty>
      )}
      {days.map((day) => (
        <section key={day} aria-label={day}>
          <h2 className="notices-day" suppressHydrationWarning>
            {day}
          </h2>
          <Lines notices={shown.filter(({ at }) => dayOf(at) === day)} />
        </section>
      ))}
    </>
  );
}

function Lines({ notices }: { notices: readonly NotificationView[] }) {
  const doing = useAction();
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
