import { issueTitle } from '../../core/checks/messages';
import { counted } from '../../core/formatting/formatting';
import { causesIn } from '../../core/listing/figures';
import { feedStages } from '../../core/plans/stages';
import { fold } from '../../core/text/folding';
import { workspacePages } from '../../core/workspace/pages';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { attribute, family, source, supplierRange } from '../db/schema';
import { matchScore, searchItems } from '../items/itemSearch';
import { readSummaries } from '../listings/read';
import { feedPlans, listFeeds } from '../plans/drafts';
import { feedName } from '../plans/feedName';

export interface Hit {
  readonly kind: string;
  readonly label: string;
  readonly detail: string;
  readonly href: string;
}

type Scored = Hit & { readonly score: number };

/**
 * Everything with a name or a value that has all words of a query: pages, stages, items, families, attributes, sources, suppliers,
 * fields, categories, rules and issues. The best first; of an item what matched. Without a query, pages and stages.
 */
export async function findAnything(query: string, most = 24): Promise<Hit[]> {
  const words = fold(query)
    .split(' ')
    .filter((word) => word !== '');
  const hits: Scored[] = [];
  /** @param more further words, which count less than the label */
  const add = (hit: Hit, more = '') => {
    const score =
      words.length === 0
        ? 1
        : Math.max(
            matchScore(fold(hit.label), words, 95),
            matchScore(fold(`${hit.label} ${hit.detail} ${more}`), words, 60),
          );
    if (score > 0) hits.push({ ...hit, score });
  };
  for (const { label, words: detail, path } of workspacePages)
    add({ kind: 'page', label, detail, href: path });
  const [stored, heads] = await Promise.all([readSummaries(), listFeeds()]);
  for (const head of heads) {
    const name = await feedName(head);
    const base = `/feeds/${head.code}`;
    for (const { key, label } of feedStages)
      add({ kind: 'stage', label: `${name}: ${label}`, detail: '', href: `${base}/${key}` });
    for (const [key, label, more] of [
      ['settings', 'Settings', 'destination schedule scope prerequisites'],
      ['history', 'History', 'versions expectations'],
    ] as const)
      add({ kind: 'page', label: `${name}: ${label}`, detail: '', href: `${base}/${key}` }, more);
    if (words.length === 0) continue;
    const [{ sheet }, plans] = await Promise.all([channelOf(head.channel), feedPlans(head.code)]);
    const labels = new Map(sheet.fields.map(({ code, label }) => [code, label]));
    for (const { code, label } of sheet.fields)
      add({ kind: 'field', label, detail: name, href: `${base}/fields?field=${code}` }, code);
    const figures = stored.get(head.code)?.figures;
    for (const [category] of figures?.categories ?? [])
      if (category)
        add({
          kind: 'category',
          label: category,
          detail: name,
          href: `${base}/categories?category=${encodeURIComponent(category)}`,
        });
    for (const rule of plans?.draft.rules ?? [])
      add({
        kind: 'rule',
        label: rule.name,
        detail: name,
        href: `${base}/rules?rule=${encodeURIComponent(rule.id)}`,
      });
    for (const { check, field, listings } of figures ? causesIn(figures) : [])
      add({
        kind: 'issue',
        label: issueTitle(check, labels.get(field) ?? field),
        detail: `${name}, ${counted(listings, 'listing')}`,
        href: `${base}/checks?fix=${encodeURIComponent(`${check}:${field}`)}`,
      });
  }
  if (words.length > 0) {
    const [families, attributes, sources, suppliers, items] = await Promise.all([
      db.select({ code: family.code, values: family.values }).from(family),
      db.select({ code: attribute.code, label: attribute.label }).from(attribute),
      db.select({ id: source.id, name: source.name }).from(source),
      db.select({ code: supplierRange.code, name: supplierRange.name }).from(supplierRange),
      searchItems(query, most),
    ]);
    for (const { code, values } of families)
      add({
        kind: 'family',
        label: String(values.name ?? code),
        detail: code,
        href: `/families/${encodeURIComponent(code)}`,
      });
    for (const { code, label } of attributes)
      add({ kind: 'attribute', label, detail: code, href: `/attributes/${encodeURIComponent(code)}` });
    for (const { name } of sources) add({ kind: 'source', label: name, detail: '', href: '/sources' });
    for (const { code, name } of suppliers)
      add({ kind: 'supplier', label: name, detail: '', href: `/suppliers/${encodeURIComponent(code)}` });
    for (const { sku, name, matched, score } of items)
      hits.push({
        kind: 'item',
        label: name,
        detail: matched === '' ? sku : `${sku}, ${matched}`,
        href: `/items/${encodeURIComponent(sku)}`,
        score,
      });
  }
  return hits
    .sort((one, other) => other.score - one.score)
    .slice(0, most)
    .map(({ score: _score, ...hit }) => hit);
}
