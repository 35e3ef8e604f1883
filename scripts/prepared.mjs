/** The demo, loaded and drawn once for all tests: folders with a database and pictures, of which each part takes a copy. */
import { spawn } from 'node:child_process';
import { cpSync } from 'node:fs';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { root, Trouble } from './machine.mjs';
import { freePort } from './ports.mjs';

/** Loads the demo into a folder, or adds to what is there. @param env what `src/server/setup.ts` is told */
async function load(folder, env) {
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
        ...env,
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

/** A copy of a prepared demo, to be worked on. @param from the folder that holds all of them @param demo its name there */
export function copyDemo(from, demo, to) {
  cpSync(join(from, demo), to, { recursive: true });
  return to;
}

/** The demos by name, each from the one before it: what was loaded, drawn and looked at once is not for every test again. */
export const demos = {
  /** Its first feed, and no pictures. */
  bare: (folder) => load(join(folder, 'bare'), { LIVELY_DEMO: 'first', LIVELY_PICTURES: 'none' }),
  /** Its first feed, and its pictures. */
  first: (folder) => load(copyDemo(folder, 'bare', join(folder, 'first')), { LIVELY_PICTURES: 'looked at' }),
  /** All of its feeds, and its pictures. */
  all: (folder) => load(copyDemo(folder, 'first', join(folder, 'all')), { LIVELY_DEMO: 'others' }),
};
