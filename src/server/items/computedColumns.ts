import { and, inArray, sql } from 'drizzle-orm';
import { type ComputedColumnCode, isComputedColumn } from '../../core/catalog/itemColumns';
import { db } from '../db/connection';
import { feed, feedListing } from '../db/schema';

/** Of more items than this all are read. */
const MAX_NAMED = 2000;

/** How complete items are over all feeds that take them, in per cent. */
async function completeOf(skus: readonly string[]): Promise<Map<string, string>> {
  // The feeds are named: the key of what is kept begins with them.
  const feeds = (await db.select({ code: feed.code }).from(feed)).map(({ code }) => code);
  if (skus.length === 0 || feeds.length === 0) return new Map();
  const rows = await db
    .select({
      sku: feedListing.sku,
      completed: sql<number>`sum(${feedListing.completed})`,
      total: sql<number>`sum(${feedListing.total})`,
    })
    .from(feedListing)
    .where(
      skus.length > MAX_NAMED
        ? undefined
        : and(inArray(feedListing.feed, feeds), inArray(feedListing.sku, [...skus])),
    )
    .groupBy(feedListing.sku);
  return new Map(
    rows.flatMap(({ sku, completed, total }) =>
      Number(total) > 0 ? [[sku, `${Math.round((100 * Number(completed)) / Number(total))} %`] as const] : [],
    ),
  );
}

/** The values of each computed column, by SKU. */
const computations: Record<
  ComputedColumnCode,
  (skus: readonly string[]) => Promise<ReadonlyMap<string, string>>
> = { '#complete': completeOf };

/** The cells of the computed columns among some, for some items: empty where an item has none. */
export async function computedCells(
  columns: readonly string[],
  skus: readonly string[],
): Promise<(column: ComputedColumnCode, sku: string) => string> {
  const cells = new Map<ComputedColumnCode, ReadonlyMap<string, string>>();
  for (const column of columns)
    if (isComputedColumn(column)) cells.set(column, await computations[column](skus));
  return (column, sku) => cells.get(column)?.get(sku) ?? '';
}
