import { page } from '@/app/gated';
import { listFeeds } from '@/server/feeds/drafts';
import { feedName } from '@/server/feeds/feedName';
import { listSubmissions } from '@/server/submissions/submissions';
import { Empty } from '@/ui/kit/Empty';
import { Link } from '@/ui/kit/Link';
import { LinkButton } from '@/ui/kit/LinkButton';
import { When } from '@/ui/kit/When';
import { stateWords } from '@/ui/send/stateWords';

export default page(async () => {
  const [submissions, feeds] = await Promise.all([listSubmissions(undefined, 100), listFeeds()]);
  const nameOf = new Map(
    await Promise.all(feeds.map(async (head) => [head.code, await feedName(head)] as const)),
  );
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Outbox</h1>
        <span className="sub">everything that was sent, and what came back</span>
      </header>
      <div className="panel">
        {submissions.length === 0 ? (
          <Empty title="Nothing has been sent yet.">
            {feeds[0] && <LinkButton href={`/feeds/${feeds[0].code}/send`}>See what is ready</LinkButton>}
          </Empty>
        ) : (
          <table className="plain">
            <thead>
              <tr>
                <th>Feed</th>
                <th>When</th>
                <th>Listings</th>
                <th>State</th>
                <th>Accepted</th>
                <th>Refused</th>
              </tr>
            </thead>
            <tbody>
              {submissions.map((one) => (
                <tr key={one.id}>
                  <td>
                    <Link className="text" href={`/feeds/${one.feed}/send?submission=${one.id}`}>
                      {nameOf.get(one.feed) ?? one.feed}, version {one.version}
                    </Link>
                  </td>
                  <td className="muted">
                    <When at={one.createdAt} />
                  </td>
                  <td>{one.total}</td>
                  <td className={one.state === 'failed' ? 'tone-blocker' : ''}>
                    {stateWords[one.state]}
                    {one.error && `: ${one.error}`}
                  </td>
                  <td className="tone-ready">{one.accepted}</td>
                  <td className={one.refused > 0 ? 'tone-blocker' : 'muted'}>{one.refused}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </div>
  );
});
