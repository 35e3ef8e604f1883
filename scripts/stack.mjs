/** The running application: database, web, worker and stand-in channels, started and stopped together. */
import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { isTaken, startDatabase } from './database.mjs';
import { root, say, Trouble } from './machine.mjs';
import { workerEnv, workerFlags } from './worker.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

export const defaultPorts = () => ({
  web: Number(process.env.PORT ?? 3160),
  database: Number(process.env.LIVELY_DB_PORT ?? 33361),
  standins: Number(process.env.LIVELY_STANDINS_PORT ?? 3461),
});

/**
 * Starts everything. A process that dies is said and started again, at most five times in a minute.
 * @returns the address, the environment the processes have, and how to stop them all
 */
export async function startStack({ folder, ports, dev = false, quick = false, extraEnv = {}, onGivenUp }) {
  for (const [name, port, variable] of [
    ['the pages', ports.web, 'PORT'],
    ['the stand-in channels', ports.standins, 'LIVELY_STANDINS_PORT'],
  ])
    if (await isTaken(port))
      throw new Trouble(
        `Port ${port} is taken, which ${name} need: end what uses it, or set ${variable} to another.`,
      );
  const database = await startDatabase({ folder, port: ports.database, quick });
  const env = {
    ...process.env,
    LIVELY_DATA: folder,
    LIVELY_DB_PORT: String(ports.database),
    LIVELY_DB_PASSWORD: database.password,
    LIVELY_STANDINS_PORT: String(ports.standins),
    PORT: String(ports.web),
    NODE_ENV: dev ? 'development' : 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    ...extraEnv,
  };
  const running = new Map();
  let stopping = false;

  async function stop() {
    if (stopping) return;
    stopping = true;
    const children = [...running.values()];
    for (const child of children) child.kill('SIGTERM');
    for (
      let i = 0;
      i < 100 && children.some((child) => child.exitCode === null && child.signalCode === null);
      i++
    )
      await wait(50);
    for (const child of children)
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGKILL');
    await database.stop();
  }

  const setup = spawnSync(process.execPath, [join(root, 'dist/setup.js')], {
    cwd: root,
    env,
    encoding: 'utf8',
  });
  if (setup.stdout) say(setup.stdout.trim());
  if (setup.status !== 0) {
    await database.stop();
    throw new Trouble(`The database could not be brought up to date: ${setup.stderr}`);
  }

  /** Starts one process and resolves when it says it is ready. */
  function keepRunning(name, words, more = {}) {
    const starts = [];
    return new Promise((resolve, reject) => {
      const begin = () => {
        starts.push(Date.now());
        const child = spawn(process.execPath, words, {
          cwd: root,
          env: { ...env, ...more },
          stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
          detached: true,
        });
        running.set(name, child);
        child.once('message', () => resolve(child));
        child.once('exit', (code, signal) => {
          if (stopping) return;
          const recent = starts.filter((time) => time > Date.now() - 60_000).length;
          if (recent > 5) {
            const words = `The ${name} keeps ending (${signal ?? `code ${code}`}); everything is stopped. What it said stands above.`;
            reject(new Trouble(words));
            onGivenUp?.(words);
            return;
          }
          say(`The ${name} ended (${signal ?? `code ${code}`}); it is being started again.`);
          setTimeout(begin, 300 * recent);
        });
      };
      begin();
    });
  }

  database.child.once('exit', () => {
    if (!stopping)
      onGivenUp?.(
        `The database ended by itself; everything is stopped. Its reasons are at the end of ${join(folder, 'mariadb.log')}. Start again to go on.`,
      );
  });
  try {
    await Promise.all([
      keepRunning('stand-in channels', [join(root, 'dist/standins.js')]),
      keepRunning('worker', [...workerFlags, join(root, 'dist/worker.js')], workerEnv),
      keepRunning('web server', [join(root, 'scripts/web.mjs'), ...(dev ? ['--dev'] : [])]),
    ]);
  } catch (error) {
    await stop();
    throw error;
  }
  return { address: `http://127.0.0.1:${ports.web}`, env, stop, running };
}
