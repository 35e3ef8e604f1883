import { and, asc, eq, gt, inArray, isNotNull, isNull, or, type SQL, sql } from 'drizzle-orm';
import { brandsOf } from '../../core/catalog/quality/otherBrands';
import { LikePrices } from '../../core/catalog/quality/outliers';
import { asText } from '../../core/catalog/value';
import type { CatalogHints } from '../../core/checks/externalFacts';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { comparedCategory, item, itemHint, workspace } from '../db/schema';
import { enqueue, isWaiting, type Work } from '../jobs/queue';
import { md5 } from '../runtime/md5';
import { raiseRevision } from './changes';
import { touchItems } from './externalFacts';

/** Where more items than this changed, all categories are looked at. */
const many = 5000;
const BATCH_ROWS = 500;
/** Items of which the prices alone are read at once. */
const BATCH_PRICES = 5000;

/**
 * Sees to it that items are held against their likes where any changed since; asked now and then. Not while a file's items come
 * in or go: each of its chunks changes the catalog, and all of it would be looked at again and again.
 */
export async function requestComparison(): Promise<void> {
  const [space] = await db
    .select({ revision: workspace.catalogRevision, done: workspace.remarksRevision })
    .from(workspace);
  if (!space || space.revision <= space.done) return;
  await db.transaction(async (tx) => {
    for (const kind of ['compareLikes', 'applyRun', 'undoRun'] as const)
      if (await isWaiting(tx, kind, true)) return;
    await enqueue(tx, 'compareLikes', {});
  });
}

const priceColumns = {
  id: item.id,
  family: item.family,
  price: sql<string | null>`json_value(${item.values}, '$.price')`,
  currency: sql<string | null>`json_value(${item.values}, '$.priceCurrency')`,
};
/** What is read of items to hold them against each other. */
const compared = { ...priceColumns, sku: item.sku, name: item.name, brand: item.brand };
type Compared = Awaited<ReturnType<typeof comparedBehind>>[number];

/** Items of a category in their order, behind one of them. */
const comparedBehind = (mine: SQL | undefined, id: number) =>
  db
    .select(compared)
    .from(item)
    .where(and(mine, gt(item.id, id)))
    .orderBy(asc(item.id))
    .limit(BATCH_ROWS);

/** An item's price as a number, with what it may be held against: amounts of two currencies are not. */
function priceOf({ family, price, currency }: Pick<Compared, 'family' | 'price' | 'currency'>) {
  const amount = Number.parseFloat(asText(price ?? ''));
  if (!(amount > 0)) return undefined;
  return {
    amount,
    family: family ?? undefined,
    group: /[A-Z]{3}/.exec(price ?? '')?.[0] ?? currency ?? '',
  };
}

/** The prices of a category, by currency. */
async function pricesOf(mine: SQL | undefined): Promise<ReadonlyMap<string, LikePrices>> {
  const groups = new Map<string, LikePrices>();
  for (let id = 0; ; ) {
    const rows = await db
      .select(priceColumns)
      .from(item)
      .where(and(mine, gt(item.id, id)))
      .orderBy(asc(item.id))
      .limit(BATCH_PRICES);
    for (const row of rows) {
      const priced = priceOf(row);
      if (!priced) continue;
      const group = groups.get(priced.group) ?? new LikePrices();
      groups.set(priced.group, group);
      group.add(priced.amount, priced.family);
    }
    const last = rows.at(-1);
    if (!last || rows.length < BATCH_PRICES) return groups;
    id = last.id;
  }
}

/**
 * Holds items against their likes: those of categories in which one changed or which one has left, and their names against the
 * brands of the catalog. Items of which something else is said than before are counted anew.
 */
export async function compareSimilarItems(work: Work): Promise<void> {
  const [space] = await db
    .select({
      revision: workspace.catalogRevision,
      done: workspace.remarksRevision,
      brands: workspace.remarkedBrands,
    })
    .from(workspace);
  if (!space) return;
  const there = eq(item.archived, false);
  const brandRows = await db
    .selectDistinct({ brand: item.brand })
    .from(item)
    .where(and(there, isNotNull(item.brand)))
    .orderBy(item.brand);
  const names = brandRows.flatMap(({ brand }) => brand ?? []);
  const digest = md5(names.join('\n'));
  const since = digest === space.brands ? space.done : -1;
  const [changed] = await db
    .select({ count: sql<number>`count(*)` })
    .from(item)
    .where(gt(item.revision, since));
  const all = Number(changed?.count ?? 0) > many;
  const changedIn = await db
    .selectDistinct({ category: item.category })
    .from(item)
    .where(all ? there : gt(item.revision, since));
  const sizes = await sizesNow();
  const categories = [
    ...new Set([...changedIn.map(({ category }) => category ?? ''), ...(await otherSizes(sizes))]),
  ];
  const brands = brandsOf(names);
  for (const [at, category] of categories.entries()) {
    const none = category === '' ? isNull(item.category) : undefined;
    const mine = and(there, or(eq(item.category, category), none));
    const prices = await pricesOf(mine);
    for (let rows = await comparedBehind(mine, 0); rows.length > 0; ) {
      await keep(rows, prices, brands, work);
      rows = await comparedBehind(mine, rows.at(-1)?.id ?? 0);
    }
    await work.progress((at + 1) / categories.length);
  }
  // Items that went have no hints; where they come back, they are looked at as all that changed.
  await db.execute(
    sql`delete r from item_hint r left join item i on i.sku = r.sku where i.id is null or i.archived`,
  );
  await db.transaction(async (tx) => {
    await work.hold(tx);
    await tx.delete(comparedCategory);
    const rows = [...sizes].map(([category, items]) => ({ category, items }));
    if (rows.length > 0) await insertRows(tx, comparedCategory, rows);
    await tx
      .update(workspace)
      .set({ remarksRevision: space.revision, remarkedBrands: digest })
      .where(eq(workspace.id, 1));
  });
}

/** How many items each category has, archived ones among them; "" for those without one. Read from the index alone. */
async function sizesNow(): Promise<ReadonlyMap<string, number>> {
  const rows = await db
    .select({ category: item.category, items: sql<number>`count(*)` })
    .from(item)
    .groupBy(item.category);
  const sizes = new Map<string, number>();
  for (const { category, items } of rows)
    sizes.set(category ?? '', (sizes.get(category ?? '') ?? 0) + Number(items));
  return sizes;
}

/**
 * Categories that have another number of items than when they were compared last: items have left them, or are gone. Where
 * another came in the place of one, or where one was archived, that one is among what changed.
 */
async function otherSizes(sizes: ReadonlyMap<string, number>): Promise<string[]> {
  const rows = await db.select().from(comparedCategory);
  return rows.flatMap(({ category, items }) => (sizes.get(category) === items ? [] : [category]));
}

function hintsOn(
  row: Compared,
  prices: ReadonlyMap<string, LikePrices>,
  brands: ReturnType<typeof brandsOf>,
): CatalogHints | null {
  const priced = priceOf(row);
  const outlier = priced && prices.get(priced.group)?.outlier(priced.amount, priced.family);
  const other = row.name && row.brand ? brands.in(row.name, row.brand) : undefined;
  if (!outlier && other === undefined) return null;
  return {
    ...(outlier && {
      price: { of: row.price ?? '', usual: outlier.usual.toFixed(2), alike: outlier.alike },
    }),
    ...(other !== undefined && { brand: { of: row.name ?? '', found: other } }),
  };
}

/** Writes down what is said of items, where it is something else than before. */
async function keep(
  rows: readonly Compared[],
  prices: ReadonlyMap<string, LikePrices>,
  brands: ReturnType<typeof brandsOf>,
  { hold }: Work,
): Promise<void> {
  const skus = rows.map(({ sku }) => sku);
  const known = new Map(
    (await db.select().from(itemHint).where(inArray(itemHint.sku, skus))).map((row) => [row.sku, row.hints]),
  );
  const news = rows.flatMap((row) => {
    const hints = hintsOn(row, prices, brands);
    return JSON.stringify(hints) === JSON.stringify(known.get(row.sku) ?? null)
      ? []
      : [{ sku: row.sku, hints }];
  });
  if (news.length === 0) return;
  await db.transaction(async (tx) => {
    await hold(tx);
    const revision = await raiseRevision(tx);
    await insertRows(
      tx,
      itemHint,
      news.map((one) => ({ ...one, revision })),
      ['hints', 'revision'],
    );
    await touchItems(
      tx,
      news.map(({ sku }) => sku),
      revision,
    );
  });
}
