/** MariaDB in a folder of the project's, on loopback only, run by whoever runs the script. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { findProgram, Trouble } from './machine.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Whether something listens on a loopback port. */
export function isTaken(port) {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1');
    socket.once('connect', () => socket.destroy() && resolve(true));
    socket.once('error', () => resolve(false));
  });
}

const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** Ends a server that an earlier start left behind in the same folder. */
async function endLeftBehind(pidFile) {
  if (!existsSync(pidFile)) return;
  const pid = Number(readFileSync(pidFile, 'utf8'));
  const name = existsSync(`/proc/${pid}/comm`) ? readFileSync(`/proc/${pid}/comm`, 'utf8').trim() : '';
  if (!/^(mariadbd|mysqld)$/.test(name)) return;
  process.kill(pid, 'SIGTERM');
  for (let i = 0; i < 100 && isAlive(pid); i++) await wait(100);
}

/**
 * Starts a server and waits until it answers.
 * @returns its process, its password, and how to stop it
 */
export async function startDatabase({ folder, port, quick = false, localFiles = false }) {
  const server = findProgram('mariadbd');
  const data = join(folder, 'mariadb');
  const pidFile = join(folder, 'mariadb.pid');
  const logFile = join(folder, 'mariadb.log');
  const secretFile = join(folder, 'database-password');
  mkdirSync(folder, { recursive: true });
  await endLeftBehind(pidFile);
  if (await isTaken(port))
    throw new Trouble(
      `Port ${port} is taken, which the database needs: end what uses it, or set LIVELY_DB_PORT to another.`,
    );
  const user = userInfo().username;
  if (!existsSync(join(data, 'mysql'))) {
    rmSync(data, { recursive: true, force: true });
    const made = spawnSync(
      findProgram('mariadb-install-db'),
      [
        '--no-defaults',
        `--datadir=${data}`,
        `--user=${user}`,
        '--auth-root-authentication-method=normal',
        '--skip-test-db',
      ],
      { encoding: 'utf8' },
    );
    if (made.status !== 0)
      throw new Trouble(
        `The database's folder could not be made: ${(made.stderr || made.stdout || '').trim().split('\n').at(-1)}`,
      );
  }
  if (!existsSync(secretFile)) writeFileSync(secretFile, randomBytes(18).toString('hex'), { mode: 0o600 });
  const password = readFileSync(secretFile, 'utf8');
  const initFile = join(folder, 'database-init.sql');
  writeFileSync(
    initFile,
    [
      'CREATE DATABASE IF NOT EXISTS lively CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;',
      `CREATE OR REPLACE USER lively@'127.0.0.1' IDENTIFIED BY '${password}';`,
      "GRANT ALL ON lively.* TO lively@'127.0.0.1';",
      `ALTER USER root@localhost IDENTIFIED BY '${password}';`,
    ].join('\n'),
    { mode: 0o600 },
  );
  // A socket's path may have 107 bytes at most, so it does not stand in the project's folder.
  const socket = join(tmpdir(), `lively-${createHash('md5').update(data).digest('hex').slice(0, 12)}.sock`);
  const log = openSync(logFile, 'a');
  const child = spawn(
    server,
    [
      '--no-defaults',
      `--datadir=${data}`,
      `--user=${user}`,
      '--bind-address=127.0.0.1',
      `--port=${port}`,
      `--socket=${socket}`,
      `--pid-file=${pidFile}`,
      `--init-file=${initFile}`,
      '--skip-name-resolve',
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_bin',
      '--max-allowed-packet=64M',
      '--innodb-buffer-pool-size=256M',
      `--local-infile=${localFiles ? 1 : 0}`,
      ...(quick ? ['--innodb-flush-log-at-trx-commit=0', '--skip-log-bin'] : []),
    ],
    { stdio: ['ignore', log, log], detached: true },
  );
  let ended = false;
  child.once('exit', () => {
    ended = true;
  });
  for (let i = 0; i < 300 && !(await isTaken(port)); i++) {
    if (ended) throw new Trouble(`The database did not start; its reasons are at the end of ${logFile}.`);
    await wait(100);
  }
  const stop = async () => {
    if (ended) return;
    child.kill('SIGTERM');
    for (let i = 0; i < 200 && !ended; i++) await wait(50);
    if (!ended) child.kill('SIGKILL');
    rmSync(socket, { force: true });
  };
  return { child, password, stop };
}
