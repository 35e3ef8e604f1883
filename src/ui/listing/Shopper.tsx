'use client';
import { useState } from 'react';
import type { ShopperView } from '@/server/pages/listing';
import { FilterChips } from '../kit/display/FilterChips';
import { Picture } from '../kit/Picture';

const views = [
  ['search', 'Channel search'],
  ['page', 'Page'],
  ['phone', 'Phone'],
  ['web', 'Web search'],
] as const;
type View = (typeof views)[number][0];

/** A text as it ends where there is no more room: cut between signs, as people read them. */
function cutAt(text: string, most: number | undefined): string {
  if (most === undefined) return text;
  const signs = [...new Intl.Segmenter().segment(text)].map(({ segment }) => segment);
  return signs.length <= most ? text : `${signs.slice(0, most).join('').trimEnd()}…`;
}

/** Where a web search cuts the title and the description of a page; common practice, in signs. */
const webCuts = { title: 60, description: 155 };

/** What a shopper meets of a listing: plain drawings that show what is cut, and look like no shop. */
export function Shopper({ view }: { view: ShopperView }) {
  const [shown, setShown] = useState<View>('search');
  const [first, ...more] = view.pictures;
  const title = <span lang={view.language}>{view.title || 'no title'}</span>;
  const price = <b className="price">{view.price || 'no price'}</b>;
  return (
    <section className="shopper" aria-label="Preview for shoppers">
      <FilterChips options={views} current={shown} onPick={(key) => setShown(key as View)} />
      {shown === 'search' && (
        <div className="found">
          <Picture file={first} name={view.title} size={84} />
          <div>
            <div className="clamp2">{title}</div>
            {price}
            <div className="small muted">
              {[view.availability, view.place].filter((one) => one !== '').join(' · ')}
            </div>
          </div>
        </div>
      )}
      {shown === 'page' && (
        <div className="whole">
          <Picture file={first} name={view.title} size={150} />
          <div className="row">
            {more.map((file, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: pictures have no more than their order
              <Picture key={at} file={file} name={view.title} size={34} />
            ))}
          </div>
          <b>{title}</b>
          {price}
          <span className="small">{view.availability}</span>
          <p className="small clamp6" lang={view.language}>
            {view.description || 'no description'}
          </p>
        </div>
      )}
      {shown === 'phone' && (
        <div className="phone-frame">
          <Picture file={first} name={view.title} size={120} />
          <span lang={view.language}>{cutAt(view.title, view.phone ?? 60)}</span>
          {price}
          <span className="small muted">{view.availability}</span>
          <p className="small clamp2" lang={view.language}>
            {view.description}
          </p>
        </div>
      )}
      {shown === 'web' && (
        <div className="web">
          <span className="small muted cut">{view.address || 'no address'}</span>
          <span className="web-title" lang={view.language}>
            {cutAt(view.title, webCuts.title)}
          </span>
          <span className="small" lang={view.language}>
            {cutAt(view.description, webCuts.description)}
          </span>
          <span className="small muted">
            {[view.price, view.availability].filter((one) => one !== '').join(' · ')}
          </span>
        </div>
      )}
    </section>
  );
}
