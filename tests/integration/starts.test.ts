import { spawn } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { createServer, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Starts beside each other: copied folders, a second start, what other users can read, and simulators nobody else may ask. */
const base = mkdtempSync(join(tmpdir(), 'lively-starts-'));
chmodSync(base, 0o711);
const children: ReturnType<typeof spawn>[] = [];
afterAll(async () => {
  for (const child of children) child.kill('SIGTERM');
  const running = children.filter(({ exitCode, signalCode }) => exitCode === null && signalCode === null);
  await Promise.all(running.map((child) => new Promise((resolve) => child.once('exit', resolve))));
  rmSync(base, { recursive: true, force: true });
});

const program = `
  import { startDatabase } from './scripts/database.mjs';
  import { freePort } from './scripts/ports.mjs';
  try {
    const database = await startDatabase({ folder: process.argv[1], port: await freePort(), quick: true });
    // Before it says that it is up: who hears that may end it at once, and the database would be left running.
    process.on('SIGTERM', () => void database.stop().then(() => process.exit(0)));
    console.log('up ' + database.child.pid);
    setInterval(() => {}, 1000);
  } catch (error) {
    console.log('refused ' + error.message);
    process.exit(3);
  }
`;

/** Starts a database on a folder as the start command does. @returns its first line */
async function start(folder: string): Promise<{ says: string; stop(): Promise<void> }> {
  const child = spawn(process.execPath, ['--input-type=module', '-e', program, folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  children.push(child);
  const says = await new Promise<string>((resolve, reject) => {
    let text = '';
    child.stdout?.on('data', (chunk) => {
      text += chunk;
      if (text.includes('\n')) resolve(text.trim());
    });
    child.once('exit', (code) => reject(new Error(`ended with ${code} before it said anything: ${text}`)));
  });
  return {
    says,
    stop: async () => {
      const gone = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await gone;
    },
  };
}

const isAlive = (pid: number) => existsSync(`/proc/${pid}`);
const pidIn = (says: string) => Number(/^up (\d+)$/.exec(says)?.[1]);

test('a second start on one folder touches nothing; a copy elsewhere leaves the running one alone', async () => {
  const folder = join(base, 'shop');
  const first = await start(folder);
  const pid = pidIn(first.says);
  expect(isAlive(pid)).toBe(true);

  const second = await start(folder);
  expect(second.says).toMatch(/^refused Lively Cart is running on .* already\. Nothing was touched/);
  expect(isAlive(pid)).toBe(true);

  const copy = join(base, 'copy');
  cpSync(folder, copy, { recursive: true });
  expect(Number(readFileSync(join(copy, 'mariadb', 'lively.pid'), 'utf8'))).toBe(pid);
  const other = await start(copy).catch((error: Error) => error);
  // The copy was made while the first wrote, so its tables may need repair; the first must live in any case.
  expect(isAlive(pid)).toBe(true);
  if (!(other instanceof Error)) await other.stop();
  expect(isAlive(pid)).toBe(true);
  await first.stop();
  expect(isAlive(pid)).toBe(false);

  // A number that belongs to another process by now is not ended.
  const stranger = spawn('sleep', ['60']);
  children.push(stranger);
  writeFileSync(join(folder, 'mariadb', 'lively.pid'), String(stranger.pid));
  const again = await start(folder);
  expect(again.says).toMatch(/^up /);
  expect(stranger.exitCode).toBeNull();
  expect(isAlive(stranger.pid ?? 0)).toBe(true);
  await again.stop();
  expect(isAlive(pidIn(again.says))).toBe(false);
}, 120_000);

test('what stands in the data folder is closed to other users, also what an earlier version left open', async () => {
  // One of its own for each try: what a try leaves is no second one's beginning.
  const folder = mkdtempSync(join(base, 'open-'));
  const first = await start(folder);
  await first.stop();
  for (const [name, mode] of [
    ['uploads', 0o755],
    ['uploads/list.csv', 0o644],
    ['key', 0o644],
  ] as const) {
    if (name === 'uploads') mkdirSync(join(folder, name));
    else writeFileSync(join(folder, name), 'x');
    chmodSync(join(folder, name), mode);
  }
  const second = await start(folder);
  const modeOf = (name: string) => (statSync(join(folder, name)).mode & 0o777).toString(8);
  expect(
    ['uploads', 'uploads/list.csv', 'key', 'database-password', 'mariadb.log', 'mariadb'].map(modeOf),
  ).toEqual(['700', '600', '600', '600', '600', '700']);
  expect(['700', '710']).toContain(modeOf('.'));
  const owner = statSync(join(folder, 'mariadb')).uid;
  const nobody = Number(/^nobody:[^:]*:(\d+):/m.exec(readFileSync('/etc/passwd', 'utf8'))?.[1]);
  expect(owner).not.toBe(nobody);
  if (process.getuid?.() === 0) expect(owner).not.toBe(0);
  await second.stop();
}, 120_000);

test('simulators answer their own names and pages alone', async () => {
  const port = await new Promise<number>((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port: found } = server.address() as { port: number };
      server.close(() => resolve(found));
    });
  });
  const child = spawn(process.execPath, ['dist/simulators.js'], {
    env: { ...process.env, LIVELY_SIMULATORS_PORT: String(port), LIVELY_DATA: join(base, 'simulators') },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  children.push(child);
  await new Promise((resolve) => child.once('message', resolve));
  const ask = (headers: Record<string, string>, method = 'GET') =>
    new Promise<number>((resolve, reject) => {
      request(
        { host: '127.0.0.1', port, path: method === 'GET' ? '/state' : '/forget', method, headers },
        (answer) => {
          answer.resume();
          resolve(answer.statusCode ?? 0);
        },
      )
        .on('error', reject)
        .end();
    });
  expect(await ask({ host: `127.0.0.1:${port}` })).toBe(200);
  expect(await ask({ host: `localhost:${port}`, origin: `http://localhost:${port}` }, 'POST')).toBe(200);
  expect(await ask({ host: 'simulators.example' })).toBe(421);
  expect(await ask({ host: `127.0.0.1:${port}`, origin: 'https://foreign.example' }, 'POST')).toBe(421);
  expect(await ask({ host: `127.0.0.1:${port}`, origin: 'null' }, 'POST')).toBe(421);
});
