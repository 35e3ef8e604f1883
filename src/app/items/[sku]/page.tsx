import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { asList, asText } from '@/core/catalog/value';
import { fieldLabels } from '@/core/channels/sheet';
import { issueWords } from '@/core/checks/messages';
import { ledgerStateText } from '@/core/ledger/messages';
import { channelOf } from '@/server/channels/channels';
import { findItem } from '@/server/items/items';
import { valueGroups } from '@/server/items/valueViews';
import { ledgerEntry } from '@/server/ledger/ledger';
import { storedListingsOf } from '@/server/listings/read';
import { nearDuplicates } from '@/server/pictures/duplicates';
import { picturesOf } from '@/server/pictures/pictures';
import { listFeeds } from '@/server/plans/drafts';
import { feedName } from '@/server/plans/feedName';
import { pageOfItem } from '@/server/shop/visits';
import { ItemActs } from '@/ui/items/ItemActs';
import { Pictures } from '@/ui/items/Pictures';
import { ShopPage } from '@/ui/items/ShopPage';
import { Values } from '@/ui/items/Values';
import { Link } from '@/ui/kit/Link';
import '@/ui/items/item.css';

const tones = { ready: 'tone-ready', blocked: 'tone-blocker', leftOut: 'muted' } as const;

export default page(
  async ({ params: { sku } }) => {
    const [item, heads] = await Promise.all([findItem(sku), listFeeds()]);
    if (!item) notFound();
    const sections = await valueGroups({ ...item, family: item.family?.code });
    const name = asText(item.own.name ?? item.shared.name) || sku;
    const pictures = await picturesOf(asList(item.own.image ?? item.shared.image));
    const [main] = pictures;
    const page = await pageOfItem(sku);
    const duplicates = main ? await nearDuplicates(sku, main.link) : [];
    const stored = await storedListingsOf(
      sku,
      heads.map(({ code }) => code),
    );
    const feeds = await Promise.all(
      heads.map(async (head) => {
        const [{ sheet }, entry] = await Promise.all([channelOf(head.channel), ledgerEntry(head.code, sku)]);
        const listing = stored.get(head.code);
        // What is archived here may still be there.
        if (!listing && !entry?.held) return [];
        const labelOf = fieldLabels(sheet);
        const words = (listing?.issues ?? [])
          .filter(({ severity }) => severity === 'blocker')
          .map((issue) => issueWords(issue, labelOf));
        return [{ code: head.code, name: await feedName(head), listing, words, entry }];
      }),
    );
    return (
      <div className="page">
        <header className="page-head">
          <h1 className="cut">{name}</h1>
          <span className="mono muted" style={{ whiteSpace: 'nowrap' }}>
            {sku}
          </span>
          {item.archived && <b className="tone-risk">archived</b>}
          <div className="acts">
            {item.family && (
              <Link
                className="text"
                href={`/families/${encodeURIComponent(item.family.code)}`}
                style={{ whiteSpace: 'nowrap' }}
              >
                {item.family.members.length} in family {item.family.code}
              </Link>
            )}
            <ItemActs sku={sku} archived={item.archived} family={item.family?.code} />
          </div>
        </header>
        <div className="item-grid">
          <Values holder={{ sku, family: item.family?.code }} sections={sections} />
          <div className="item-side">
            {feeds.flat().map((feed) => (
              <div className="panel block" key={feed.code}>
                <h2>
                  <Link href={`/feeds/${feed.code}/checks?sample=${encodeURIComponent(sku)}`}>
                    {feed.name}
                  </Link>{' '}
                  {feed.listing && (
                    <span className={tones[feed.listing.state]}>
                      {feed.listing.state === 'leftOut'
                        ? `excluded: ${feed.listing.reason}`
                        : feed.listing.state}
                    </span>
                  )}
                </h2>
                {feed.entry && (
                  <span className="small muted">
                    At the channel: {ledgerStateText(feed.entry)}
                    {feed.entry.number && <span className="mono"> {feed.entry.number}</span>}
                  </span>
                )}
                {feed.words.map((words) => (
                  <span key={words}>{words}</span>
                ))}
              </div>
            ))}
            {page && <ShopPage {...page} sku={sku} gtin={asText(item.own.gtin)} />}
            <Pictures
              holder={{ sku }}
              name={name}
              pictures={pictures}
              duplicates={duplicates}
              inherited={item.own.image === undefined}
            />
          </div>
        </div>
      </div>
    );
  },
  { params: z.object({ sku: part }) },
);
