import { createReadStream, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { nextLanternry } from '../../../demo/nextSheet';
import { startingAttributes } from '../../core/catalog/attributes';
import { importMappingSchema } from '../../core/intake/mapping';
import { planSchema } from '../../core/listing/plan';
import { startingRow } from '../catalog/attributes';
import { channelOf, openNextVersion, taxonomyOf } from '../channels/channels';
import { db } from '../db/connection';
import { attribute, draft, feed, planVersion, sample, source, workspace } from '../db/schema';
import { unattended } from '../jobs/queue';
import { settings } from '../settings';
import { applyRun } from '../sources/applying';
import { checkRun } from '../sources/checking';
import { startRun, takeFile } from '../sources/sources';

/** The six sources of the demo, in the order in which they are brought in. */
export const demoSources = [
  'tarnholt-price-list.xml',
  'verrin-lights.csv',
  'quillmoss-own-range.jsonld',
  'quillmoss-stockroom.xlsx',
  'ollobee-range.ndjson',
  'sprigwell-titles.json',
] as const;

/** Those that the stand-ins serve at an address, fetched every night. */
const served: readonly string[] = ['tarnholt-price-list.xml', 'quillmoss-own-range.jsonld'];

/** Brings one of the demo's files in under its saved mapping, as a person would. @returns the run */
export async function bringInDemoFile(folder: string, name: string): Promise<number> {
  const mapping = importMappingSchema.parse(
    JSON.parse(readFileSync(join(folder, 'mappings', `${name}.json`), 'utf8')),
  );
  const title = name.replace(/\.[^.]+$/, '');
  const [known] = await db.select().from(source).where(eq(source.name, title));
  if (!known) {
    const address = served.includes(name) ? `${settings.standins}/files/${name}` : null;
    await db.insert(source).values({ name: title, mapping, address, createdAt: new Date() });
  }
  const id = await takeFile(name, createReadStream(join(folder, 'sources', name)));
  await startRun(id, 'check');
  await checkRun(id, unattended);
  return id;
}

/** Loads the demo catalog and its feeds into an empty database. @returns false where there already is a workspace */
export async function loadDemo(folder: string): Promise<boolean> {
  const [known] = await db.select().from(workspace);
  if (known) return false;
  const plan = planSchema.parse(JSON.parse(readFileSync(join(folder, 'plans', 'lanternry-de.json'), 'utf8')));
  await db.transaction(async (tx) => {
    await tx.insert(workspace).values({
      id: 1,
      name: 'Quillmoss Indoor Garden',
      catalogRevision: 0,
      pictureBase: 'https://quillmoss.example/pictures/',
      currency: 'EUR',
      zone: 'Europe/Berlin',
    });
    await tx.insert(attribute).values(startingAttributes.map(startingRow));
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
  for (const name of demoSources) {
    const id = await bringInDemoFile(folder, name);
    await startRun(id, 'apply');
    await applyRun(id, unattended);
  }
  const current = await channelOf('lanternry');
  const taxonomy = (await taxonomyOf('lanternry', current.sheet.version)) ?? '';
  await openNextVersion('lanternry', '2027-02-01', nextLanternry(current.sheet, taxonomy));
  // What was brought in here needs no worker any more.
  await db.execute(sql`delete from job where kind in ('checkRun', 'applyRun')`);
  await db.execute(sql`analyze table item`);
  return true;
}
