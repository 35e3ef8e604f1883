import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { drawPictures } from '../../demo/pictures';
import { demoItems } from '../../demo/world';
import { addStartingAttributes } from './catalog/attributes';
import { pictureFolder } from './catalog/pictures';
import { takeBundledChannels } from './channels/channels';
import { db, pool } from './db/connection';
import { loadDemo } from './demo/load';

/** Run by the start command before anything else: brings the database up to date and loads the demo once. */
const begun = Date.now();
await migrate(db, { migrationsFolder: join(process.cwd(), 'src/server/db/migrations') });
await addStartingAttributes();
await takeBundledChannels();
if (await loadDemo(join(process.cwd(), 'demo'))) process.stdout.write('Demo catalog loaded.\n');
if (!existsSync(pictureFolder())) {
  const count = await drawPictures(demoItems(), pictureFolder());
  process.stdout.write(`${count} demo pictures drawn in ${Math.round((Date.now() - begun) / 1000)} s.\n`);
}
await pool.end();
