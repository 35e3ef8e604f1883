import { page } from '@/app/gated';
import { listChannels } from '@/server/channels/sheets';
import { listFeeds } from '@/server/plans/drafts';
import { AddFeed } from '@/ui/channels/AddFeed';
import { DeleteChannel } from '@/ui/channels/DeleteChannel';
import { Link } from '@/ui/kit/Link';
import { LinkButton } from '@/ui/kit/LinkButton';
import '@/ui/channels/channels.css';

export default page(async () => {
  const [channels, feeds] = await Promise.all([listChannels(), listFeeds()]);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Channels</h1>
        <span className="sub">requirement sheets; a feed is a channel in one market</span>
        <div className="acts">
          <LinkButton href="/channels/new">Create a channel</LinkButton>
        </div>
      </header>
      <div className="panel">
        {channels.map(({ code, name, about, bundled, version, open, fields, musts, categories, markets }) => (
          <section className="channel-line" key={code} aria-label={name}>
            <div>
              <h2>
                <Link href={version === undefined ? `/channels/${code}/edit` : `/channels/${code}`}>
                  {name}
                </Link>
                {!bundled && <span className="muted small"> your own</span>}
              </h2>
              {!bundled && !feeds.some((feed) => feed.channel === code) && (
                <DeleteChannel code={code} name={name} />
              )}
              <span className="muted">{about}</span>
              {open && (
                <div>
                  <Link className="draft-mark" href={`/channels/${code}/versions`}>
                    Version {open.version} takes effect on {open.effective}: review it
                  </Link>
                </div>
              )}
            </div>
            <span className="small">
              <b>{fields}</b> fields, <b>{musts}</b> required
              <br />
              <b>{categories}</b> categories
            </span>
            {version === undefined ? (
              <span className="muted small">accept its first version, then add feeds</span>
            ) : (
              <AddFeed
                channel={code}
                name={name}
                markets={markets}
                taken={feeds
                  .filter((feed) => feed.channel === code)
                  .map(({ country, language }) => `${country} ${language}`)}
              />
            )}
          </section>
        ))}
      </div>
    </div>
  );
});
