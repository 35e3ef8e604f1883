import { createReadStream, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { nextLanternry } from '../../../demo/nextSheet';
import { morePlans } from '../../../demo/plans';
import { startingAttributes } from '../../core/catalog/attributes';
import { importMappingSchema } from '../../core/import/mapping/importMapping';
import { type Plan, planSchema } from '../../core/plans/plan';
import { nextDue, scheduleSchema } from '../../core/schedule/schedule';
import { startingRow } from '../catalog/attributes';
import { raiseRevision } from '../catalog/changes';
import { importKeywords } from '../catalog/keywords';
import { readWorkspace } from '../catalog/workspace';
import { channelOf, openNextVersion, taxonomyOf } from '../channels/channels';
import { db, type Transaction } from '../db/connection';
import {
  attribute,
  destination,
  draft,
  feed,
  feedSchedule,
  planVersion,
  sample,
  source,
  workspace,
} from '../db/schema';
import { applyRun } from '../import/applying';
import { checkRun } from '../import/checking';
import { startRun } from '../import/runs';
import { takeFile } from '../import/sources';
import { unattended } from '../jobs/queue';
import { settings } from '../runtime/settings';
import { encrypt } from '../storage/secrets';
import { sendFeed } from '../submissions/submissions';
import { addDestination } from '../transports/destinations';
import { writeHistory } from './history';

/** The six sources of the demo, in the order in which they are brought in. */
export const demoSources = [
  'tarnholt-price-list.xml',
  'verrin-lights.csv',
  'quillmoss-own-range.jsonld',
  'quillmoss-stockroom.xlsx',
  'ollobee-range.ndjson',
  'sprigwell-titles.json',
] as const;

/** Those that the simulators serve at an address, fetched every night. */
const served: readonly string[] = ['tarnholt-price-list.xml', 'quillmoss-own-range.jsonld'];

/** Brings one of the demo's files in under its saved mapping, as a person would. @returns the run */
export async function importDemoFile(folder: string, name: string): Promise<number> {
  const mapping = importMappingSchema.parse(
    JSON.parse(readFileSync(join(folder, 'mappings', `${name}.json`), 'utf8')),
  );
  const title = name.replace(/\.[^.]+$/, '');
  const [known] = await db.select().from(source).where(eq(source.name, title));
  if (!known) {
    const address = served.includes(name) ? `${settings.simulators}/files/${name}` : null;
    await db.insert(source).values({ name: title, mapping, address, createdAt: new Date() });
  }
  const id = await takeFile(name, createReadStream(join(folder, 'sources', name)));
  await startRun(id, 'check');
  await checkRun(id, unattended);
  return id;
}

async function insertPublished(tx: Transaction, code: string, plan: Plan, position: number): Promise<void> {
  await tx.insert(feed).values({ code, channel: plan.channel, ...plan.market, position });
  await addDestination(tx, code);
  await tx.insert(draft).values({ feed: code, plan, revision: 1 });
  await tx
    .insert(planVersion)
    .values({ feed: code, version: 1, plan, publishedAt: new Date(), words: 'first version' });
}

/** The account that the demo's merchant has with Tessel Boards; the simulated channel knows it. */
const boardsAccount = 'quillmoss-boards';

/** The hours at which the demo's feeds are sent. */
async function setHours(): Promise<void> {
  const { zone } = await readWorkspace();
  for (const [code, quick, schedule] of [
    ['lanternry-de', false, { every: 'day', at: '03:30' }],
    ['lanternry-gb', false, { every: 'day', at: '03:30' }],
    ['orrin-bazaar-de', false, { every: 'week', weekday: '7', at: '02:00' }],
    ['flickerstall-de-en', true, { every: 'month', monthday: 1, at: '02:30' }],
    ['own-shop-de', false, { every: 'days', count: 3, at: '05:00' }],
  ] as const) {
    const [row] = await db.select({ position: feed.position }).from(feed).where(eq(feed.code, code));
    if (!row) continue;
    const given = scheduleSchema.parse(schedule);
    const now = new Date();
    await db.insert(feedSchedule).values({
      feed: code,
      schedule: given,
      quick,
      beganAt: now,
      nextAt: nextDue(given, zone, now, { spread: 2 * row.position }),
      revision: 1,
    });
  }
}

/**
 * Adds the feeds of the other channels to the demo, with what those were sent before; the own shop is sent its listings, so
 * that its pages are there for whoever visits them.
 */
export async function addDemoFeeds(folder: string): Promise<void> {
  const [first] = await db.select().from(planVersion).where(eq(planVersion.feed, 'lanternry-de'));
  const german =
    first?.plan ??
    planSchema.parse(JSON.parse(readFileSync(join(folder, 'plans', 'lanternry-de.json'), 'utf8')));
  await db.transaction(async (tx) => {
    for (const [at, plan] of morePlans(german).entries()) {
      const channel = await channelOf(plan.channel);
      const market = channel.sheet.markets.find(({ country }) => country === plan.market.country);
      const usual = market?.languages[0] === plan.market.language;
      const code = `${plan.channel}-${plan.market.country.toLowerCase()}${usual ? '' : `-${plan.market.language}`}`;
      await insertPublished(tx, code, plan, at + 2);
    }
    // A new currency brings attributes for amounts in it.
    await raiseRevision(tx);
  });
  await db
    .update(destination)
    .set({ credential: await encrypt(boardsAccount) })
    .where(eq(destination.feed, 'tessel-boards-de'));
  await writeHistory(new Date());
  if (process.env.LIVELY_HOURS !== 'none') await setHours();
  await sendFeed('own-shop-de');
}

/** An address of the simulated channels on whatever port they stood, and the path there. */
const ofSimulators = /^http:\/\/127\.0\.0\.1:\d+(\/(?:files|own-shop\/pages)\/.*)$/;

/** The simulated channels may stand on another port than at the last start: what the demo keeps of their addresses follows. */
export async function followSimulators(): Promise<void> {
  const moved = (address: string | null | undefined) => {
    const path = ofSimulators.exec(address ?? '')?.[1];
    const now = path === undefined ? undefined : settings.simulators + path;
    return now === address ? undefined : now;
  };
  for (const one of await db.select({ id: source.id, address: source.address }).from(source)) {
    const address = moved(one.address);
    if (address) await db.update(source).set({ address }).where(eq(source.id, one.id));
  }
  const [space] = await db.select({ visits: workspace.shopVisits }).from(workspace);
  const at = moved(space?.visits?.at);
  if (space?.visits && at) await db.update(workspace).set({ shopVisits: { ...space.visits, at } });
}

/**
 * Loads the demo catalog and its feeds into an empty database. @param feeds the first alone, for tests that make their own
 * @returns false where there already is a workspace
 */
export async function loadDemo(folder: string, feeds: 'all' | 'first' = 'all'): Promise<boolean> {
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
      // The simulated shop answers for the demo's addresses; nobody visits it until asked to.
      shopVisits: {
        on: false,
        perMinute: 60,
        everyDays: 7,
        pages: 'https://quillmoss.example/',
        at: `${settings.simulators}/own-shop/pages/`,
      },
    });
    await tx.insert(attribute).values(startingAttributes.map(startingRow));
    await insertPublished(tx, 'lanternry-de', plan, 1);
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
    const id = await importDemoFile(folder, name);
    await startRun(id, 'apply');
    await applyRun(id, unattended);
  }
  await importKeywords(readFileSync(join(folder, 'keywords.csv'), 'utf8'), 'en');
  const current = await channelOf('lanternry');
  const taxonomy = (await taxonomyOf('lanternry', current.sheet.version)) ?? '';
  await openNextVersion('lanternry', '2027-02-01', nextLanternry(current.sheet, taxonomy));
  // What was brought in here needs no worker any more.
  await db.execute(sql`delete from job where kind in ('checkRun', 'applyRun')`);
  if (feeds === 'all') await addDemoFeeds(folder);
  await db.execute(sql`analyze table item`);
  return true;
}
