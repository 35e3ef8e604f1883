import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { createConnection } from 'mysql2/promise';
import { drawPictures } from '../../demo/pictures';
import { demoItems } from '../../demo/world';
import { addStartingAttributes } from './catalog/attributes';
import { requestDictionaries } from './catalog/dictionaries';
import { takeBundledChannels } from './channels/channels';
import { closePools, db } from './db/connection';
import { addDemoFeeds, followSimulators, loadDemo } from './demo/load';
import { repairCountries } from './items/countryRepair';
import { countFrom, evaluateFeeds } from './listings/refreshJob';
import { measureAll } from './pictures/duplicates';
import { pictureFolder, requestMissingMeasurements } from './pictures/pictures';
import { settings } from './runtime/settings';
import { addDestinations } from './transports/destinations';

/** Run by the start command before anything else: brings the database up to date and loads the demo once. */
const begun = Date.now();
const { database, ...server } = settings.database;
const first = await createConnection(server);
await first.query('create database if not exists ?? character set utf8mb4 collate utf8mb4_bin', [database]);
await first.end();
await migrate(db as never, { migrationsFolder: join(process.cwd(), 'src/server/db/migrations') });
await addStartingAttributes();
await takeBundledChannels();
const demo = join(process.cwd(), 'demo');
const loaded = await loadDemo(demo, process.env.LIVELY_DEMO === 'first' ? 'first' : 'all');
// Tests load the demo with its first feed once, and add the others to a copy of it.
const added = !loaded && process.env.LIVELY_DEMO === 'others';
if (added) await addDemoFeeds(demo);
await followSimulators();
await addDestinations();
const repaired = await repairCountries();
if (repaired) process.stdout.write(`${repaired.words} (${repaired.items} items).\n`);
await countFrom(readFileSync(join(process.cwd(), 'dist/programs.digest'), 'utf8'));
await requestMissingMeasurements();
// So that the board is full from the first minute; later the worker does it.
if (loaded || added) {
  await evaluateFeeds();
  process.stdout.write('Demo catalog loaded.\n');
}
// Tests that look at no pictures need not wait for them.
if (!existsSync(pictureFolder()) && process.env.LIVELY_PICTURES !== 'none') {
  const count = await drawPictures(demoItems(), pictureFolder());
  process.stdout.write(`${count} demo pictures drawn in ${Math.round((Date.now() - begun) / 1000)} s.\n`);
}
// Otherwise the worker does, while people look around.
if (process.env.LIVELY_PICTURES === 'looked at') {
  await measureAll();
  await evaluateFeeds();
}
if (process.env.LIVELY_WORDS !== 'none') await requestDictionaries();
await closePools();
