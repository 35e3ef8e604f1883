/** The running application: database, web, worker and simulator channels, started and stopped together. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { isTaken, startDatabase } from './database.mjs';
import { root, say, Trouble } from './machine.mjs';
import { evaluatorFlags, workerEnv, workerFlags } from './worker.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

export const defaultPorts = () => ({
  web: Number(process.env.PORT ?? 3160),
  database: Number(process.env.LIVELY_DB_PORT ?? 33361),
  simulators: Number(process.env.LIVELY_SIMULATORS_PORT ?? 3461),
});

/** How many processes of a kind there are to be; one where nothing is said. */
const countIn = (variable) =>
  Math.max(1, Math.min(64, Number.parseInt(process.env[variable] ?? '', 10) || 1));

/** Names of processes of one kind: the first goes by the kind's own. */
const named = (kind, count) =>
  Array.from({ length: count }, (_, at) => (at === 0 ? kind : `${kind} ${at + 1}`));

/** Where an evaluator listens: in the data folder, unless its path is longer than a socket's may be. */
function socketIn(folder, name) {
  const own = join(folder, `${name.replace(' ', '-')}.sock`);
  if (Buffer.byteLength(own) <= 100) return own;
  const digest = createHash('sha256').update(own).digest('hex').slice(0, 16);
  return join(tmpdir(), `lively-${digest}.sock`);
}

/** A process that lived this long was well; its ends before are forgotten. */
const wellAfter = 30_000;
/** The pause before a process is started again grows up to this. */
const longestPause = 3000;
/** A process that ends so often without ever having been ready is given up. */
const mostFailures = 5;

/**
 * Starts everything. A process that dies is said and started again, the database too, with a growing pause; one that never
 * becomes ready is given up, and everything with it.
 * @param workers how many workers, `webs` how many web processes, on ports that follow each other, and `evaluators` how many that hold
 *   the catalog; LIVELY_WORKERS, LIVELY_WEB_PROCESSES and LIVELY_EVALUATORS where left out
 * @returns the address, those of further web processes, the environment the processes have, and how to stop them all
 */
export async function startStack({
  folder,
  ports,
  dev = false,
  quick = false,
  extraEnv = {},
  onGivenUp,
  workers = countIn('LIVELY_WORKERS'),
  webs = countIn('LIVELY_WEB_PROCESSES'),
  evaluators = countIn('LIVELY_EVALUATORS'),
}) {
  // They play channels and shops for the demo and for trials: a server that merchants work on has none.
  const simulated = (extraEnv.LIVELY_SIMULATORS ?? process.env.LIVELY_SIMULATORS) !== 'off';
  const webPorts = named('web server', webs).map((name, at) => [name, ports.web + at]);
  for (const [name, port, variable] of [
    ...webPorts.map(([, port]) => ['the pages', port, 'PORT']),
    ...(simulated ? [['the simulated channels', ports.simulators, 'LIVELY_SIMULATORS_PORT']] : []),
  ])
    if (await isTaken(port))
      throw new Trouble(
        `Port ${port} is taken, which ${name} need: end what uses it, or set ${variable} to another.`,
      );
  const startServer = () => startDatabase({ folder, port: ports.database, quick });
  let database = await startServer();
  const env = {
    ...process.env,
    LIVELY_DATA: folder,
    LIVELY_DB_PORT: String(ports.database),
    LIVELY_DB_PASSWORD: database.password,
    LIVELY_SIMULATORS_PORT: String(ports.simulators),
    PORT: String(ports.web),
    NODE_ENV: dev ? 'development' : 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    LIVELY_READER: join(root, 'dist/reader.js'),
    // What tests start fetches nothing.
    ...(quick ? { LIVELY_WORDS: 'none', LIVELY_HOURS: 'none' } : {}),
    ...extraEnv,
  };
  const listening = named('evaluator', evaluators).map((name) => [name, socketIn(folder, name)]);
  const sockets = listening.map(([, socket]) => socket).join(delimiter);
  const running = new Map([['database', database.child]]);
  let stopping = false;

  async function stop() {
    if (stopping) return;
    stopping = true;
    const children = [...running].flatMap(([name, child]) => (name === 'database' ? [] : [child]));
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

  function giveUp(words) {
    if (stopping) return;
    onGivenUp?.(words);
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

  const pauseAfter = (ends) => Math.min(longestPause, 200 * 2 ** Math.min(ends, 8));

  /**
   * Starts one process and resolves when it says it is ready.
   * @param spare whether the others go on without it, where it keeps ending before it is ready
   */
  function keepRunning(name, words, more = {}, { spare = false } = {}) {
    let failures = 0;
    let ends = 0;
    return new Promise((resolve, reject) => {
      const begin = () => {
        if (stopping) return;
        const begun = Date.now();
        let ready = false;
        const child = spawn(process.execPath, words, {
          cwd: root,
          env: { ...env, ...more },
          stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
          detached: true,
        });
        running.set(name, child);
        child.once('message', () => {
          ready = true;
          failures = 0;
          resolve(child);
        });
        child.once('exit', (code, signal) => {
          if (stopping) return;
          // What was killed from outside did not fail by itself, however often that happens.
          if (!ready && signal !== 'SIGKILL') failures++;
          ends = Date.now() - begun > wellAfter ? 0 : ends + 1;
          const how = signal ?? `code ${code}`;
          if (failures >= mostFailures && spare) {
            say(
              `The ${name} keep ending (${how}) before they are ready and are left alone; all else goes on.`,
            );
            resolve(undefined);
            return;
          }
          if (failures >= mostFailures) {
            const words = `The ${name} keeps ending (${how}) before it is ready; everything is stopped. What it said stands above.`;
            reject(new Trouble(words));
            giveUp(words);
            return;
          }
          say(`The ${name} ended (${how}); it is being started again.`);
          setTimeout(begin, pauseAfter(ends));
        });
      };
      begin();
    });
  }

  /** Starts the database again when it ends by itself; the others wait for it. */
  function keepDatabase() {
    const begun = Date.now();
    let failures = 0;
    database.child.once('exit', async (code, signal) => {
      if (stopping) return;
      say(`The database ended (${signal ?? `code ${code}`}); it is being started again.`);
      await wait(Date.now() - begun > wellAfter ? 0 : 300);
      for (;;) {
        if (stopping) return;
        try {
          database = await startServer();
          running.set('database', database.child);
          if (stopping) await database.stop();
          else keepDatabase();
          return;
        } catch (error) {
          if (++failures >= mostFailures) return giveUp(`${error.message} Everything is stopped.`);
          await wait(pauseAfter(failures));
        }
      }
    });
  }
  keepDatabase();
  try {
    await Promise.all([
      ...(simulated
        ? [keepRunning('simulated channels', [join(root, 'dist/simulators.js')], {}, { spare: true })]
        : []),
      ...named('worker', workers).map((name) =>
        keepRunning(name, [...workerFlags, join(root, 'dist/worker.js')], {
          ...workerEnv,
          LIVELY_EVALUATOR: sockets,
        }),
      ),
      ...listening.map(([name, socket], at) =>
        keepRunning(name, [...evaluatorFlags, join(root, 'dist/evaluator.js')], {
          LIVELY_EVALUATOR_SOCKET: socket,
          LIVELY_EVALUATOR_PLACE: `${at}/${evaluators}`,
        }),
      ),
      ...webPorts.map(([name, port]) =>
        keepRunning(name, [join(root, 'scripts/web.mjs'), ...(dev ? ['--dev'] : [])], {
          LIVELY_EVALUATOR: sockets,
          PORT: String(port),
          // What channels fetch from outside they fetch at the first.
          LIVELY_PUBLIC_ADDRESS: env.LIVELY_PUBLIC_ADDRESS ?? `http://127.0.0.1:${ports.web}`,
        }),
      ),
    ]);
  } catch (error) {
    await stop();
    throw error;
  }
  const [address, ...further] = webPorts.map(([, port]) => `http://127.0.0.1:${port}`);
  return { address, further, env, stop, running };
}
