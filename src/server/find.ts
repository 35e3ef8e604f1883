import { asText } from '../core/catalog/value';
import { fold } from '../core/text/folding';
import { currentSnapshot } from './catalog/snapshot';
import { feedName } from './feeds/board';
import { listFeeds } from './feeds/drafts';
import { merchantCategories, tryFeed } from './feeds/work';

export interface Hit {
  kind: string;
  label: string;
  detail: string;
  href: string;
}

const pages: readonly Hit[] = [
  { kind: 'page', label: 'Board', detail: '', href: '/' },
  { kind: 'page', label: 'Items', detail: '', href: '/items' },
  { kind: 'page', label: 'Families', detail: 'variants', href: '/families' },
  { kind: 'page', label: 'Attributes', detail: 'terms, quality', href: '/attributes' },
  { kind: 'page', label: 'Channels', detail: 'requirement sheets, add a feed', href: '/channels' },
  { kind: 'page', label: 'Archived items', detail: '', href: '/items/archived' },
  { kind: 'page', label: 'Sources', detail: 'bring in items', href: '/sources' },
  { kind: 'page', label: 'Outbox', detail: 'submissions', href: '/outbox' },
];

/** Everything with a name that holds all words of a query; pages and feeds first. */
export async function findAnything(query: string, most = 24): Promise<Hit[]> {
  const words = fold(query)
    .split(' ')
    .filter((word) => word !== '');
  const matches = (...texts: string[]) => {
    const text = fold(texts.join(' '));
    return words.every((word) => text.includes(word));
  };
  const hits: Hit[] = pages.filter(({ label, detail }) => matches(label, detail));
  for (const head of await listFeeds()) {
    const name = await feedName(head);
    const base = `/feeds/${head.code}`;
    for (const stage of ['fields', 'categories', 'titles', 'rules', 'checks', 'send'])
      if (matches(name, stage))
        hits.push({ kind: 'stage', label: `${name}: ${stage}`, detail: '', href: `${base}/${stage}` });
    if (words.length === 0) continue;
    const { work } = await tryFeed(head.code);
    if (!work) continue;
    for (const field of work.sheet.fields)
      if (matches(field.label, field.code))
        hits.push({
          kind: 'field',
          label: field.label,
          detail: name,
          href: `${base}/fields?field=${field.code}`,
        });
    for (const category of merchantCategories(work))
      if (category.name && matches(category.name))
        hits.push({
          kind: 'category',
          label: category.name,
          detail: name,
          href: `${base}/categories?category=${encodeURIComponent(category.name)}`,
        });
    for (const rule of work.plans.draft.rules)
      if (matches(rule.name))
        hits.push({
          kind: 'rule',
          label: rule.name,
          detail: name,
          href: `${base}/rules?rule=${encodeURIComponent(rule.id)}`,
        });
  }
  if (words.length > 0) {
    const snapshot = await currentSnapshot();
    const slots = ['sku', 'name', 'gtin'].map((code) => snapshot.index.slotOf(code) ?? -1);
    for (let at = 0; at < snapshot.rows.length && hits.length < most; at++) {
      const row = snapshot.rows[at] ?? [];
      if (matches(...slots.map((slot) => asText(row[slot]))))
        hits.push({
          kind: 'item',
          label: asText(row[slots[1] ?? -1]),
          detail: snapshot.skus[at] ?? '',
          href: `/items/${encodeURIComponent(snapshot.skus[at] ?? '')}`,
        });
    }
  }
  return hits.slice(0, most);
}
