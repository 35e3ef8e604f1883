import { and, eq, sql } from 'drizzle-orm';
import { feedStages } from '../../core/plans/stages';
import { fold } from '../../core/text/folding';
import { workspacePages } from '../../core/workspace/pages';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { item } from '../db/schema';
import { readSummaries } from '../listings/read';
import { feedPlans, listFeeds } from '../plans/drafts';
import { feedName } from '../plans/feedName';

export interface Hit {
  kind: string;
  label: string;
  detail: string;
  href: string;
}

/** Everything with a name that holds all words of a query; pages and feeds first. */
export async function findAnything(query: string, most = 24): Promise<Hit[]> {
  const words = fold(query)
    .split(' ')
    .filter((word) => word !== '');
  const matches = (...texts: string[]) => {
    const text = fold(texts.join(' '));
    return words.every((word) => text.includes(word));
  };
  const hits: Hit[] = workspacePages.flatMap(({ label, words, path }) =>
    matches(label, words) ? [{ kind: 'page', label, detail: words, href: path }] : [],
  );
  const stored = await readSummaries();
  for (const head of await listFeeds()) {
    const name = await feedName(head);
    const base = `/feeds/${head.code}`;
    for (const { key, label } of feedStages)
      if (matches(name, label))
        hits.push({ kind: 'stage', label: `${name}: ${label}`, detail: '', href: `${base}/${key}` });
    if (words.length === 0) continue;
    const [{ sheet }, plans] = await Promise.all([channelOf(head.channel), feedPlans(head.code)]);
    for (const field of sheet.fields)
      if (matches(field.label, field.code))
        hits.push({
          kind: 'field',
          label: field.label,
          detail: name,
          href: `${base}/fields?field=${field.code}`,
        });
    for (const [category] of stored.get(head.code)?.figures.categories ?? [])
      if (category && matches(category))
        hits.push({
          kind: 'category',
          label: category,
          detail: name,
          href: `${base}/categories?category=${encodeURIComponent(category)}`,
        });
    for (const rule of plans?.draft.rules ?? [])
      if (matches(rule.name))
        hits.push({
          kind: 'rule',
          label: rule.name,
          detail: name,
          href: `${base}/rules?rule=${encodeURIComponent(rule.id)}`,
        });
  }
  if (words.length > 0 && hits.length < most) {
    // Letters with and without accents, large and small, are the same here.
    const text = sql`concat_ws(' ', ${item.sku}, ${item.name}, ${item.gtin}) collate utf8mb4_unicode_ci`;
    const found = await db
      .select({ sku: item.sku, name: item.name })
      .from(item)
      .where(and(eq(item.archived, false), ...words.map((word) => sql`${text} like ${`%${word}%`}`)))
      .orderBy(item.id)
      .limit(most - hits.length);
    for (const { sku, name } of found)
      hits.push({ kind: 'item', label: name ?? '', detail: sku, href: `/items/${encodeURIComponent(sku)}` });
  }
  return hits.slice(0, most);
}
