import { eq, inArray, sql } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { asText } from '../../core/catalog/value';
import { insertRows } from '../db/bulk';
import type { Transaction } from '../db/connection';
import { family, type ItemState, item, workspace } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { today } from '../runtime/calendarDay';

/**
 * Raises the catalog's revision inside a transaction and gives the new one; every changed row carries it. Listings are counted
 * anew once it has ended.
 */
export async function raiseRevision(tx: Transaction): Promise<number> {
  await enqueue(tx, 'evaluateFeeds', {});
  await tx.update(workspace).set({ catalogRevision: sql`${workspace.catalogRevision} + 1` });
  const [row] = await tx.select({ revision: workspace.catalogRevision }).from(workspace);
  return row?.revision ?? 0;
}

export interface ItemWrite extends ItemState {
  readonly sku: string;
}

const columnsOfState = {
  family: item.family,
  values: item.values,
  origins: item.origins,
  archived: item.archived,
  sourceId: item.sourceId,
};

/** What identifies and what makes up items, locked for the transaction where asked for. */
export async function readStates(
  tx: Transaction,
  skus: readonly string[],
  lock = false,
): Promise<Map<string, ItemState>> {
  if (skus.length === 0) return new Map();
  const query = tx
    .select({ sku: item.sku, ...columnsOfState })
    .from(item)
    .where(inArray(item.sku, [...skus]));
  const rows = lock ? await query.for('update') : await query;
  return new Map(rows.map(({ sku, ...state }) => [sku, state]));
}

/** The values that the items of some families share. */
export async function readFamilyValues(
  tx: Transaction,
  codes: Iterable<string | null | undefined>,
): Promise<Map<string, Values>> {
  const wanted = [...new Set([...codes].flatMap((code) => code ?? []))];
  if (wanted.length === 0) return new Map();
  const rows = await tx
    .select({ code: family.code, values: family.values })
    .from(family)
    .where(inArray(family.code, wanted));
  return new Map(rows.map((row) => [row.code, row.values]));
}

const cut = (value: Values[string] | undefined, most: number): string | null =>
  value === undefined ? null : asText(value).slice(0, most);

/** Adds or replaces items; families they name are created empty where they do not exist. */
export async function writeItems(
  tx: Transaction,
  items: readonly ItemWrite[],
  shared: ReadonlyMap<string, Values>,
  revision: number,
): Promise<void> {
  if (items.length === 0) return;
  const codes = [...new Set(items.flatMap((one) => one.family ?? []))].filter((code) => !shared.has(code));
  if (codes.length > 0)
    await tx
      .insert(family)
      .ignore()
      .values(codes.map((code) => ({ code, variesBy: [], values: {}, revision })));
  const changedOn = today();
  const rows = items.map((one) => {
    const read = (code: string, most = 190) =>
      cut(one.values[code] ?? (one.family ? shared.get(one.family)?.[code] : undefined), most);
    return {
      ...one,
      name: read('name', 500),
      brand: read('brand'),
      gtin: read('gtin'),
      category: read('category'),
      mpn: read('mpn'),
      changedOn,
      revision,
    };
  });
  const written = [
    'family',
    'values',
    'origins',
    'archived',
    'sourceId',
    'name',
    'brand',
    'gtin',
    'category',
    'mpn',
    'changedOn',
    'revision',
  ] as const;
  await insertRows(tx, item, rows, written);
  if (rows.some((row) => row.archived)) await reloadFrom(tx, revision);
}

/** Takes items out of the catalog for good. */
export async function removeItems(tx: Transaction, skus: readonly string[], revision: number): Promise<void> {
  if (skus.length === 0) return;
  await tx.delete(item).where(inArray(item.sku, [...skus]));
  await reloadFrom(tx, revision);
}

/** Tells all who hold the catalog in memory that something went away at this revision. */
export const reloadFrom = (tx: Transaction, revision: number) =>
  tx.update(workspace).set({ reloadRevision: revision });

/**
 * Writes a family's axes and shared values. Items repeat name, brand and others for search, so those of its items are
 * written anew as well.
 */
export async function writeFamily(
  tx: Transaction,
  code: string,
  state: { variesBy: readonly string[]; values: Values },
  revision: number,
): Promise<void> {
  const row = { variesBy: [...state.variesBy], values: state.values, revision };
  await tx
    .insert(family)
    .values({ code, ...row })
    .onDuplicateKeyUpdate({ set: row });
  const members = await tx
    .select({ sku: item.sku, ...columnsOfState })
    .from(item)
    .where(eq(item.family, code));
  await writeItems(tx, members, new Map([[code, state.values]]), revision);
}
