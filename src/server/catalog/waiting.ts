import { sql } from 'drizzle-orm';
import { waitsForCode } from '../../core/catalog/item';
import { asList, asText } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { counted } from '../../core/formatting/formatting';
import { db } from '../db/connection';
import { item } from '../db/schema';
import { editCatalog } from './editing';

/** New items that wait until a person adds them to a feed. */

const waitsPath = `$.${waitsForCode}`;
const waits = (feed: string) =>
  sql`json_contains(json_extract(${item.values}, ${waitsPath}), json_quote(${feed})) and ${item.archived} = false`;

/** Counts the items that wait for a feed by source, largest first. An empty source is unknown. */
export async function waitingFor(feed: string): Promise<{ source: string; count: number }[]> {
  const source = sql<string>`coalesce(json_value(${item.values}, '$.source'), '')`;
  const found = await db
    .select({ source: source.as('brought_in_by'), count: sql<number>`count(*)` })
    .from(item)
    .where(waits(feed))
    .groupBy(sql`brought_in_by`)
    .orderBy(sql`count(*) desc, brought_in_by`);
  return found.map(({ source: name, count }) => ({ source: name, count: Number(count) }));
}

/**
 * Adds waiting items to a feed, as an edit of the catalog that can be undone.
 * @param source only items of this source; all where left out
 * @throws InputError where none waits
 */
export async function letJoin(feed: string, source?: string) {
  const found = await db.select({ sku: item.sku, values: item.values }).from(item).where(waits(feed));
  const skus = found
    .filter(({ values }) => source === undefined || asText(values.source) === source)
    .map(({ sku }) => sku);
  if (skus.length === 0) throw new InputError('nothingWaits');
  return editCatalog(async (desk) => {
    const states = await desk.items(skus);
    for (const [sku, state] of states) {
      const { [waitsForCode]: waiting, ...values } = state.values;
      const left = asList(waiting).filter((one) => one !== feed);
      desk.putItem(sku, {
        ...state,
        values: left.length > 0 ? { ...values, [waitsForCode]: left } : values,
      });
    }
    return `added ${counted(states.size, 'item')} to ${feed}`;
  });
}
