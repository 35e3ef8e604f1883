import Link from 'next/link';
import { listChannels } from '@/server/channels/sheets';
import { listFeeds } from '@/server/feeds/drafts';
import { AddFeed } from '@/ui/channels/AddFeed';
import '@/ui/channels/channels.css';

export default async function Page() {
  const [channels, feeds] = [listChannels(), await listFeeds()];
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Channels</h1>
        <span className="sub">what each asks for; a feed is one of them in one market</span>
      </header>
      <div className="panel">
        {channels.map(({ code, name, about, fields, musts, categories, markets }) => (
          <section className="channel-line" key={code} aria-label={name}>
            <div>
              <h2>
                <Link href={`/channels/${code}`}>{name}</Link>
              </h2>
              <span className="muted">{about}</span>
            </div>
            <span className="small">
              <b>{fields}</b> fields, <b>{musts}</b> of them must
              <br />
              <b>{categories}</b> categories
            </span>
            <AddFeed
              channel={code}
              name={name}
              markets={markets}
              taken={feeds
                .filter((feed) => feed.channel === code)
                .map(({ country, language }) => `${country} ${language}`)}
            />
          </section>
        ))}
      </div>
    </div>
  );
}
