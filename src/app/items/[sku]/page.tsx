import Link from 'next/link';
import { notFound } from 'next/navigation';
import { asList, asText } from '@/core/catalog/value';
import { listSeparator } from '@/core/formats/catalogCsv';
import { findItem } from '@/server/catalog/items';
import { picturesOf } from '@/server/catalog/pictures';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { feedName } from '@/server/feeds/board';
import { listFeeds } from '@/server/feeds/drafts';
import { loadFeed } from '@/server/feeds/work';
import { ValueLine } from '@/ui/items/ValueLine';
import { Picture } from '@/ui/tray/Picture';
import '@/ui/items/item.css';

const percent = (share: number) => `${Math.round(share * 100)} %`;

export default async function Page({ params }: { params: Promise<{ sku: string }> }) {
  const sku = decodeURIComponent((await params).sku);
  const [item, snapshot, heads] = await Promise.all([findItem(sku), currentSnapshot(), listFeeds()]);
  if (!item) notFound();
  const read = (code: string) => item.own[code] ?? item.shared[code];
  const pictures = await picturesOf(asList(read('image')));
  const feeds = await Promise.all(
    heads.map(async (head) => {
      const work = await loadFeed(head.code);
      const listing = work?.draft.listings[snapshot.positionOf(sku) ?? -1];
      return work && listing
        ? {
            code: head.code,
            name: feedName(head),
            listing,
            words: listing.issues.filter(({ severity }) => severity === 'blocker').map(work.wordsOf),
          }
        : undefined;
    }),
  );
  const lines = snapshot.attributes
    .filter(({ code }) => code !== 'sku')
    .sort((a, b) => Number(read(a.code) === undefined) - Number(read(b.code) === undefined));
  return (
    <div className="page">
      <header className="page-head">
        <h1 className="cut">{asText(read('name')) || sku}</h1>
        <span className="mono muted">{sku}</span>
        <div className="acts">
          {item.family && (
            <Link className="text" href={`/items?f.family=${encodeURIComponent(item.family.code)}`}>
              {item.family.members.length} in family {item.family.code}
            </Link>
          )}
          <Link className="text" href="/items">
            All items
          </Link>
        </div>
      </header>
      <div className="item-grid">
        <div className="panel item-values">
          {lines.map(({ code, label, kind }) => {
            const value = read(code);
            const origin = item.origins[code];
            return (
              <ValueLine
                key={code}
                sku={sku}
                code={code}
                label={label}
                text={kind === 'pictures' ? asList(value).join(listSeparator) : asText(value)}
                shared={item.own[code] === undefined && value !== undefined}
                origin={origin ? `${origin.file}, row ${origin.row}, “${origin.column}”` : ''}
                long={kind === 'richText'}
              />
            );
          })}
        </div>
        <div className="item-side">
          {feeds.map(
            (feed) =>
              feed && (
                <div className="panel block" key={feed.code}>
                  <h2>
                    <Link href={`/feeds/${feed.code}/checks?sample=${encodeURIComponent(sku)}`}>
                      {feed.name}
                    </Link>{' '}
                    <span
                      className={
                        feed.listing.state === 'ready'
                          ? 'tone-ready'
                          : feed.listing.state === 'blocked'
                            ? 'tone-blocker'
                            : 'muted'
                      }
                    >
                      {feed.listing.state === 'leftOut'
                        ? `left out: ${feed.listing.reason}`
                        : feed.listing.state}
                    </span>
                  </h2>
                  {feed.words.map((words) => (
                    <span key={words}>{words}</span>
                  ))}
                </div>
              ),
          )}
          <div className="panel block">
            <h2>Pictures</h2>
            {pictures.length === 0 && <span className="muted">None yet.</span>}
            {pictures.map((picture, i) => (
              <div className="row" key={picture.link} style={{ alignItems: 'flex-start', gap: 12 }}>
                <Picture file={picture.file} name={`${asText(read('name'))}, picture ${i + 1}`} size={112} />
                {picture.facts ? (
                  <dl className="facts">
                    <dt>size</dt>
                    <dd>
                      {picture.facts.width} × {picture.facts.height} px
                    </dd>
                    <dt>format</dt>
                    <dd>{picture.facts.format.toUpperCase()}</dd>
                    <dt>file</dt>
                    <dd>{Math.round(picture.facts.bytes / 1024)} KB</dd>
                    <dt>white border</dt>
                    <dd className={i === 0 && picture.facts.whiteBorder < 0.98 ? 'tone-risk' : ''}>
                      {percent(picture.facts.whiteBorder)}
                    </dd>
                    {i === 0 && <dt>main</dt>}
                    {i === 0 && (
                      <dd>
                        {Math.max(picture.facts.width, picture.facts.height) < 1000 ? (
                          <span className="tone-risk">under 1,000 px</span>
                        ) : (
                          'large enough'
                        )}
                      </dd>
                    )}
                  </dl>
                ) : (
                  <span className="small tone-blocker" style={{ overflowWrap: 'anywhere' }}>
                    Cannot be read: {picture.link}
                  </span>
                )}
              </div>
            ))}
          </div>
        </div>
      </div>
    </div>
  );
}
