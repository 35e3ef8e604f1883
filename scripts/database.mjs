/** MariaDB in a folder of the project's, on loopback only, run by whoever runs the script. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { connect, createServer } from 'node:net';
import { hostname, tmpdir, totalmem, userInfo } from 'node:os';
import { join } from 'node:path';
import { findProgram, Trouble } from './machine.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** How long a server may take to shut down before it is killed. */
const SHUTDOWN_MS = 60_000;

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

/**
 * What the database may keep of its tables in memory, in MB: a quarter of the machine's, which it takes only as tables grow.
 * With less than the listings of a large catalog need, every count of them waits for the disk.
 */
function tableMemory() {
  const given = Number(process.env.LIVELY_DB_MEMORY_MB);
  if (given > 0) return Math.round(given);
  const allowed = process.constrainedMemory?.() || Number.POSITIVE_INFINITY;
  return Math.min(Math.max(Math.round(Math.min(allowed, totalmem()) / 4 / 2 ** 20), 256), 8192);
}

/** The folder that a database process serves, by its own command line; undefined where the process is none. */
function servedBy(pid) {
  try {
    const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
    if (!/(^|\/)(mariadbd|mysqld)$/.test(words[0] ?? '')) return undefined;
    return words.find((word) => word.startsWith('--datadir='))?.slice('--datadir='.length);
  } catch {
    return undefined;
  }
}

/** Whether two paths are one folder, whatever links lead there. */
function isSameFolder(one, other) {
  try {
    const [a, b] = [statSync(one), statSync(other)];
    return a.dev === b.dev && a.ino === b.ino;
  } catch {
    return false;
  }
}

/**
 * Ends a server that an earlier start left behind in the same folder. A number in a file proves nothing: the folder may be a copy
 * of one that is in use, or the number may belong to another process by now. The process is asked which folder it serves.
 */
async function endLeftBehind(pidFile, data) {
  if (!existsSync(pidFile)) return;
  const pid = Number(readFileSync(pidFile, 'utf8'));
  const served = Number.isInteger(pid) && pid > 1 ? servedBy(pid) : undefined;
  if (served === undefined || !isSameFolder(served, data)) return rmSync(pidFile, { force: true });
  process.kill(pid, 'SIGTERM');
  for (let i = 0; i < 100 && isAlive(pid); i++) await wait(100);
}

/** Folders that this process holds, each with what gives it back. */
const heldFolders = new Map();

/**
 * Holds a folder for this process, so that a second start on it touches nothing. The kernel lets go of it when the process ends,
 * however it ends. Source: unix(7), abstract socket addresses.
 * @throws Trouble where another process holds it
 */
export async function holdFolder(folder) {
  const { dev, ino } = statSync(folder);
  const name = `lively-cart ${dev} ${ino}`;
  if (heldFolders.has(name)) return heldFolders.get(name);
  const server = createServer((socket) => socket.destroy());
  await new Promise((resolve, reject) => {
    server.once('error', (error) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Trouble(
              `Lively Cart is running on ${folder} already. Nothing was touched: end it first, or start with another folder.`,
            )
          : error,
      ),
    );
    server.listen(`\0${name}`, resolve);
  });
  server.unref();
  const release = () => {
    heldFolders.delete(name);
    server.close();
  };
  heldFolders.set(name, release);
  return release;
}

/** The system's user that the server runs as, where root starts it: it owns nothing else, and nobody signs in as it. */
const databaseUser = 'lively-cart-db';

const userNamed = (name) => {
  const found = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .map((line) => line.split(':'))
    .find(([user]) => user === name);
  return found && { name, uid: Number(found[2]), gid: Number(found[3]) };
};

/**
 * Whom the server runs as: whoever runs the script, but never root where another user can reach the folder. That user is the
 * server's own, and is made where it is not there yet.
 * @returns a user's name with its numbers, or undefined for oneself
 */
function anotherUser(folder) {
  if (process.getuid?.() !== 0) return undefined;
  if (!userNamed(databaseUser))
    spawnSync('useradd', [
      '--system',
      '--user-group',
      '--no-create-home',
      '--shell',
      '/usr/sbin/nologin',
      databaseUser,
    ]);
  const user = userNamed(databaseUser);
  if (!user) return undefined;
  // Others pass through to what is theirs by the folder's group, and see nothing.
  chownSync(folder, 0, user.gid);
  chmodSync(folder, 0o710);
  // Somewhere above the folder may be closed to others, as a home is.
  const { uid, gid } = user;
  return spawnSync('test', ['-x', folder], { uid, gid }).status === 0 ? user : undefined;
}

/** Closes what stands in the data folder to every other user; what the database keeps is its own matter. */
function closeToOthers(folder, data) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (path === data || entry.isSymbolicLink()) continue;
    if (entry.isDirectory()) {
      chmodSync(path, 0o700);
      closeToOthers(path, data);
    } else if (entry.isFile()) chmodSync(path, 0o600);
  }
}

/** Gives a folder and all in it to a user. */
function giveTo(path, { uid, gid }) {
  chownSync(path, uid, gid);
  for (const entry of readdirSync(path, { withFileTypes: true })) {
    const inner = join(path, entry.name);
    if (entry.isDirectory()) giveTo(inner, { uid, gid });
    else if (entry.isFile()) chownSync(inner, uid, gid);
  }
}

/** What the server does first: one account with a password and the rights it needs, and no other. */
const accounts = (password, others) =>
  [
    'CREATE DATABASE IF NOT EXISTS lively CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;',
    `CREATE OR REPLACE USER lively@'127.0.0.1' IDENTIFIED BY '${password}';`,
    ...['lively', ...others].map(
      (database) =>
        `GRANT SELECT, INSERT, UPDATE, DELETE, CREATE, ALTER, DROP, INDEX, REFERENCES ON \`${database}\`.* TO lively@'127.0.0.1';`,
    ),
    ...['localhost', '127.0.0.1', '::1', hostname().toLowerCase()].flatMap((host) =>
      ['root', ''].map((user) => `DROP USER IF EXISTS '${user}'@'${host}';`),
    ),
    'DROP USER IF EXISTS mysql@localhost;',
  ].join('\n');

/**
 * Starts a server and waits until it answers.
 * @param quick whether what was written may be lost when the machine itself dies; not when the server does
 * @param databases patterns of further databases that may be made, for tests
 * @returns its process, its password, and how to stop it
 */
export async function startDatabase({ folder, port, quick = false, localFiles = false, databases = [] }) {
  const server = findProgram('mariadbd');
  const data = join(folder, 'mariadb');
  const pidFile = join(data, 'lively.pid');
  const logFile = join(folder, 'mariadb.log');
  const secretFile = join(folder, 'database-password');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const release = await holdFolder(folder);
  chmodSync(folder, 0o700);
  await endLeftBehind(pidFile, data);
  if (await isTaken(port))
    throw new Trouble(
      `Port ${port} is taken, which the database needs: end what uses it, or set LIVELY_DB_PORT to another.`,
    );
  const other = anotherUser(folder);
  const user = other?.name ?? userInfo().username;
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
  const initFile = join(data, 'lively-accounts.sql');
  writeFileSync(initFile, accounts(password, databases), { mode: 0o600 });
  // The only folder that statements may read files from or write them to; nothing is ever put there.
  const filesFolder = join(data, 'no-files');
  mkdirSync(filesFolder, { recursive: true, mode: 0o500 });
  chmodSync(data, 0o700);
  if (other) giveTo(data, other);
  // A socket's path may have 107 bytes at most, so it does not stand in the project's folder.
  const socket = join(tmpdir(), `lively-${createHash('md5').update(data).digest('hex').slice(0, 12)}.sock`);
  closeToOthers(folder, data);
  const log = openSync(logFile, 'a', 0o600);
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
      `--secure-file-priv=${filesFolder}`,
      '--skip-name-resolve',
      '--skip-symbolic-links',
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_bin',
      '--max-allowed-packet=64M',
      '--max-connections=400',
      `--innodb-buffer-pool-size=${quick ? 256 : tableMemory()}M`,
      `--local-infile=${localFiles ? 1 : 0}`,
      ...(quick ? ['--innodb-flush-log-at-trx-commit=2', '--skip-log-bin'] : []),
    ],
    { stdio: ['ignore', log, log], detached: true },
  );
  let ended = false;
  child.once('exit', () => {
    ended = true;
  });
  for (let i = 0; i < 600 && !(await isTaken(port)); i++) {
    if (ended) throw new Trouble(`The database did not start; its reasons are at the end of ${logFile}.`);
    await wait(50);
  }
  const stop = async () => {
    release();
    if (ended) return;
    const exited = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    // A busy machine writes its last pages slowly; a server that is killed has to repair its tables at the next start.
    const late = setTimeout(() => child.kill('SIGKILL'), SHUTDOWN_MS);
    await exited;
    clearTimeout(late);
    rmSync(socket, { force: true });
  };
  return { child, password, stop };
}
