import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { axisCodes, startingAttributes } from '../../core/catalog/attributes';
import { gatherFamilies } from '../../core/catalog/item';
import { asText } from '../../core/catalog/value';
import { readCatalogCsv } from '../../core/formats/catalogCsv';
import { planSchema } from '../../core/listing/plan';
import { raiseRevision, writeItems } from '../catalog/changes';
import { db } from '../db/connection';
import { attribute, draft, family, feed, planVersion, sample, workspace } from '../db/schema';

/** Loads the demo catalog and its feeds into an empty database. @returns false where there already is a workspace */
export async function loadDemo(folder: string): Promise<boolean> {
  const [known] = await db.select().from(workspace);
  if (known) return false;
  const plan = planSchema.parse(JSON.parse(readFileSync(join(folder, 'plans', 'lanternry-de.json'), 'utf8')));
  const catalog = readCatalogCsv(readFileSync(join(folder, 'catalog', 'items.csv'), 'utf8'));
  const { items, families } = gatherFamilies(catalog, axisCodes);
  const rowOfSku = new Map(catalog.map(({ sku }, i) => [sku, i + 2]));
  const byCode = new Map(families.map((one) => [one.code, one]));
  await db.transaction(async (tx) => {
    await tx.insert(workspace).values({ id: 1, name: 'Quillmoss Indoor Garden', catalogRevision: 0 });
    await tx
      .insert(attribute)
      .values(startingAttributes.map((one, position) => ({ ...one, unit: one.unit ?? null, position })));
    const revision = await raiseRevision(tx);
    await tx.insert(family).values(
      families.map((one) => ({
        code: one.code,
        variesBy: [...one.variesBy],
        values: one.values,
        revision,
      })),
    );
    const writes = items.map((one) => {
      const values = { ...(one.family ? byCode.get(one.family)?.values : {}), ...one.values };
      const row = rowOfSku.get(one.sku) ?? 0;
      return {
        sku: one.sku,
        family: one.family,
        values: one.values,
        origins: Object.fromEntries(
          Object.entries(values).map(([code, value]) => [
            code,
            { file: 'items.csv', row, column: code, cell: asText(value).slice(0, 200) },
          ]),
        ),
      };
    });
    for (let i = 0; i < writes.length; i += 500)
      await writeItems(tx, writes.slice(i, i + 500), (code) => byCode.get(code)?.values, revision);
    await tx
      .insert(feed)
      .values({ code: 'lanternry-de', channel: plan.channel, ...plan.market, position: 1 });
    await tx.insert(draft).values({ feed: 'lanternry-de', plan, revision: 1 });
    await tx
      .insert(planVersion)
      .values({ feed: 'lanternry-de', version: 1, plan, publishedAt: new Date(), words: 'first version' });
    const pinned = [
      'QM-POT-RDG-MOS-14',
      'VR-LGT-HAL-TYC-40',
      'QM-APR-LIN-FER-M',
      'QM-GLV-SOF-FER-L',
      'OB-KIT-FIR-SMA',
      'SP-BOK-SHA-HAR',
    ];
    await tx.insert(sample).values(pinned.map((sku, position) => ({ sku, position })));
  });
  await db.execute(sql`analyze table item`);
  return true;
}
