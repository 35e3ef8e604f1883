/** The demo, loaded and drawn once for all tests: folders with a database and pictures, of which each part takes a copy. */
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { root, Trouble } from './machine.mjs';
import { freePort } from './ports.mjs';

/** Loads the demo into a folder. @param feeds all of its feeds, or the first alone */
async function load(folder, feeds) {
  const port = await freePort();
  const database = await startDatabase({ folder, port, quick: true });
  try {
    const child = spawn(process.execPath, ['dist/setup.js'], {
      cwd: root,
      stdio: ['ignore', 'ignore', 'pipe'],
      env: {
        ...process.env,
        LIVELY_DATA: folder,
        LIVELY_DB_PORT: String(port),
        LIVELY_DB_PASSWORD: database.password,
        LIVELY_WORDS: 'none',
        LIVELY_HOURS: 'none',
        LIVELY_DEMO: feeds,
      },
    });
    const said = [];
    child.stderr.on('data', (chunk) => said.push(chunk));
    const code = await new Promise((resolve) => child.once('close', resolve));
    if (code !== 0) throw new Trouble(`The demo could not be loaded: ${Buffer.concat(said)}`);
  } finally {
    await database.stop();
  }
}

/**
 * Loads the demo with its first feed and with all of them.
 * @returns the folder that holds both, by the name that LIVELY_DEMO has for them
 */
export async function prepareDemo(folder) {
  await load(join(folder, 'first'), 'first');
  mkdirSync(join(folder, 'all'), { mode: 0o711 });
  cpSync(join(folder, 'first', 'pictures'), join(folder, 'all', 'pictures'), { recursive: true });
  await load(join(folder, 'all'), 'all');
  return folder;
}

/** A copy of a prepared demo, to be worked on. @param from what {@link prepareDemo} gave @param feeds `first` or `all` */
export function copyDemo(from, feeds, to) {
  cpSync(join(from, feeds), to, { recursive: true });
  return to;
}
