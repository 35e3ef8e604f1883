import { productOnPage } from '@/core/checks/listings/shopPage';
import { type PageFacts, termWords } from '@/core/shop/page';
import { When } from '../kit/display/When';

interface ShopPageProps {
  address: string;
  seen: PageFacts | null;
  at: Date;
  trouble: string | null;
  sku: string;
  gtin: string;
}

/** What the shop's own page of an item said when it was last visited. */
export function ShopPage({ address, seen, at, trouble, sku, gtin }: ShopPageProps) {
  const stated = seen?.state === 'read' ? productOnPage(seen, sku, gtin) : undefined;
  const facts = stated
    ? [
        ['price', [stated.price, stated.currency].filter(Boolean).join(' ')],
        ['stock', stated.availability && termWords(stated.availability)],
        ['condition', stated.condition && termWords(stated.condition)],
        ['number', stated.gtin],
      ].filter(([, value]) => value)
    : [];
  return (
    <section className="panel block" aria-label="The shop’s page">
      <h2>The shop’s page</h2>
      <a className="mono small cut" href={address} rel="noreferrer" target="_blank">
        {address}
      </a>
      {seen?.state === 'read' && !stated && <span>It shows several products; none is surely this item.</span>}
      {seen?.state === 'silent' && (
        <span className="tone-risk">It has no product data that a channel can read.</span>
      )}
      {seen?.state === 'gone' && <span className="tone-risk">The page does not exist.</span>}
      {seen?.state === 'moved' && (
        <span className="tone-risk">
          It has moved to <span className="mono">{seen.words}</span>
        </span>
      )}
      {seen?.state === 'forbidden' && <span>The shop’s robots.txt forbids a visit.</span>}
      {facts.map(([name, value]) => (
        <span key={name}>
          <span className="muted">{name}</span> {value}
        </span>
      ))}
      {trouble && <span className="tone-risk">At the last visit: {trouble}</span>}
      <span className="small muted">
        Visited <When at={at} />
      </span>
    </section>
  );
}
