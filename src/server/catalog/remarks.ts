import { and, eq, gt, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { brandsOf } from '../../core/catalog/otherBrands';
import { type Priced, priceOutliers } from '../../core/catalog/outliers';
import { asText } from '../../core/catalog/value';
import type { Remarks } from '../../core/checks/seen';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { item, itemRemark, workspace } from '../db/schema';
import { enqueue, isWaiting, type Work } from '../jobs/queue';
import { md5 } from '../listings/digest';
import { raiseRevision } from './changes';
import { touchItems } from './seen';

/** Where more items than this changed, all categories are looked at. */
const many = 5000;
const rowsAtOnce = 500;

/** Sees to it that items are held against their likes where any changed since; asked now and then. */
export async function wantCompared(): Promise<void> {
  const [space] = await db
    .select({ revision: workspace.catalogRevision, done: workspace.remarksRevision })
    .from(workspace);
  if (!space || space.revision <= space.done) return;
  await db.transaction(async (tx) => {
    if (!(await isWaiting(tx, 'compareLikes', true))) await enqueue(tx, 'compareLikes', {});
  });
}

/** What is read of items to hold them against each other. */
const compared = {
  sku: item.sku,
  family: item.family,
  name: item.name,
  brand: item.brand,
  price: sql<string | null>`json_value(${item.values}, '$.price')`,
  currency: sql<string | null>`json_value(${item.values}, '$.priceCurrency')`,
};

/**
 * Holds items against their likes: those of categories in which one changed, and their names against the brands of the catalog. Items of which something else is said than before are counted anew.
 */
export async function compareLikes(work: Work): Promise<void> {
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
  const categories = await db
    .selectDistinct({ category: item.category })
    .from(item)
    .where(all ? there : gt(item.revision, since));
  const brands = brandsOf(names);
  for (const [at, { category }] of categories.entries()) {
    const mine = category === null ? isNull(item.category) : eq(item.category, category);
    const rows = await db.select(compared).from(item).where(and(there, mine));
    await keep(rows, remarksOn(rows, brands), work);
    await work.progress((at + 1) / categories.length);
  }
  // Items that went have no remarks; where they come back, they are looked at as all that changed.
  await db.execute(
    sql`delete r from item_remark r left join item i on i.sku = r.sku where i.id is null or i.archived`,
  );
  await db
    .update(workspace)
    .set({ remarksRevision: space.revision, remarkedBrands: digest })
    .where(eq(workspace.id, 1));
}

type Compared = {
  readonly sku: string;
  readonly family: string | null;
  readonly name: string | null;
  readonly brand: string | null;
  readonly price: string | null;
  readonly currency: string | null;
};

function remarksOn(rows: readonly Compared[], brands: ReturnType<typeof brandsOf>): Map<string, Remarks> {
  const found = new Map<string, Remarks>();
  // Amounts of two currencies are not held against each other.
  const byCurrency = new Map<string, Priced[]>();
  for (const { sku, family, price, currency } of rows) {
    const amount = Number.parseFloat(asText(price ?? ''));
    if (!(amount > 0)) continue;
    const key = /[A-Z]{3}/.exec(price ?? '')?.[0] ?? currency ?? '';
    const group = byCurrency.get(key);
    const one = { sku, family: family ?? undefined, price: amount };
    if (group) group.push(one);
    else byCurrency.set(key, [one]);
  }
  const prices = new Map(rows.map(({ sku, price }) => [sku, price ?? '']));
  for (const group of byCurrency.values())
    for (const [sku, { usual, alike }] of priceOutliers(group))
      found.set(sku, { price: { of: prices.get(sku) ?? '', usual: usual.toFixed(2), alike } });
  for (const { sku, name, brand } of rows) {
    if (!name || !brand) continue;
    const other = brands.in(name, brand);
    if (other !== undefined) found.set(sku, { ...found.get(sku), brand: { of: name, found: other } });
  }
  return found;
}

/** Writes down what is said of items, where it is something else than before. */
async function keep(
  rows: readonly { readonly sku: string }[],
  found: ReadonlyMap<string, Remarks>,
  { hold }: Work,
): Promise<void> {
  const news: { sku: string; remarks: Remarks | null }[] = [];
  for (let at = 0; at < rows.length; at += rowsAtOnce) {
    const skus = rows.slice(at, at + rowsAtOnce).map(({ sku }) => sku);
    const known = new Map(
      (await db.select().from(itemRemark).where(inArray(itemRemark.sku, skus))).map((row) => [
        row.sku,
        row.remarks,
      ]),
    );
    for (const sku of skus) {
      const now = found.get(sku) ?? null;
      if (JSON.stringify(now) !== JSON.stringify(known.get(sku) ?? null)) news.push({ sku, remarks: now });
    }
  }
  if (news.length === 0) return;
  await db.transaction(async (tx) => {
    await hold(tx);
    const revision = await raiseRevision(tx);
    for (let at = 0; at < news.length; at += rowsAtOnce)
      await insertRows(
        tx,
        itemRemark,
        news.slice(at, at + rowsAtOnce).map((one) => ({ ...one, revision })),
        ['remarks', 'revision'],
      );
    await touchItems(
      tx,
      news.map(({ sku }) => sku),
      revision,
    );
  });
}
