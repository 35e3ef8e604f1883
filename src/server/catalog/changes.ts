import { sql } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { asText } from '../../core/catalog/value';
import type { Transaction } from '../db/connection';
import { family, item, type Origin, workspace } from '../db/schema';

/** Raises the catalog's revision inside a transaction and gives the new one; every changed row carries it. */
export async function raiseRevision(tx: Transaction): Promise<number> {
  await tx.update(workspace).set({ catalogRevision: sql`${workspace.catalogRevision} + 1` });
  const [row] = await tx.select({ revision: workspace.catalogRevision }).from(workspace);
  return row?.revision ?? 0;
}

export interface ItemWrite {
  sku: string;
  family: string | undefined;
  values: Values;
  origins: Record<string, Origin>;
}

const column = (value: Values[string] | undefined, most: number): string | null =>
  value === undefined ? null : asText(value).slice(0, most);

/** Adds or replaces items; families they name are created empty where they do not exist. */
export async function writeItems(
  tx: Transaction,
  items: readonly ItemWrite[],
  familyValues: (code: string) => Values | undefined,
  revision: number,
): Promise<void> {
  if (items.length === 0) return;
  const codes = [...new Set(items.flatMap((one) => (one.family ? [one.family] : [])))];
  if (codes.length > 0)
    await tx
      .insert(family)
      .ignore()
      .values(codes.map((code) => ({ code, variesBy: [], values: {}, revision })));
  const rows = items.map((one) => {
    const read = (code: string, most = 190) =>
      column(one.values[code] ?? (one.family ? familyValues(one.family)?.[code] : undefined), most);
    return {
      sku: one.sku,
      family: one.family ?? null,
      values: one.values,
      origins: one.origins,
      name: read('name', 500),
      brand: read('brand'),
      gtin: read('gtin'),
      category: read('category'),
      revision,
    };
  });
  await tx
    .insert(item)
    .values(rows)
    .onDuplicateKeyUpdate({
      set: Object.fromEntries(
        (['family', 'values', 'origins', 'name', 'brand', 'gtin', 'category', 'revision'] as const).map(
          (key) => [key, sql`values(${sql.identifier(item[key].name)})`],
        ),
      ),
    });
}
