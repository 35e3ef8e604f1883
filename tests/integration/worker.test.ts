import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { desc, eq } from 'drizzle-orm';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { db } from '@/server/db/connection';
import { job, run, source } from '@/server/db/schema';
import { settings } from '@/server/settings';
import { addAddress, enqueueDue, nextFetch, setAddress } from '@/server/sources/fetching';
import { changeMapping, findRun, startRun, takeFile } from '@/server/sources/sources';
import { wholeCatalog } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

const suppliers = mkdtempSync(join(tmpdir(), 'lively-suppliers-'));
const children: ChildProcess[] = [];

async function start(program: string, env: Record<string, string> = {}): Promise<ChildProcess> {
  const child = spawn(process.execPath, [program], {
    env: { ...process.env, LIVELY_LEASE_SECONDS: '2', LIVELY_SUPPLIER_FILES: suppliers, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  children.push(child);
  await new Promise((resolve) => child.once('message', resolve));
  return child;
}

async function end(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await gone;
}

/** Waits for something in the database to become so. */
async function until<T>(look: () => Promise<T | undefined>): Promise<T> {
  for (let i = 0; i < 1200; i++) {
    const found = await look();
    if (found !== undefined) return found;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('it did not happen within 30 s');
}

const inState = (id: number, state: string) =>
  until(async () => {
    const found = await findRun(id);
    if (found?.state === 'failed') throw new Error(found.error ?? '');
    return found?.state === state ? found : undefined;
  });

beforeAll(async () => {
  await freshDemo();
  await start('dist/standins.js');
});
afterAll(async () => {
  for (const child of children) await end(child, 'SIGTERM');
  await closeDatabase();
});

test('kill -9 in the middle of checking, bringing in and undoing: the run goes on and ends as an undisturbed one', async () => {
  const lines = Array.from(
    { length: 24_000 },
    (_, i) => `K${i},Pot ${i},F${Math.floor(i / 4)},${(i % 90) + 1}.90,${'SMLX'[i % 4]}`,
  );
  const file = `sku,name,family,price,size\n${lines.join('\n')}\n`;
  const empty = await wholeCatalog();
  let worker = await start('dist/worker.js');
  /** Kills the worker when a stage is in its middle, and starts another. */
  const disturb = async (id: number, state: string) => {
    await until(async () => {
      const found = await findRun(id);
      if (found && found.state !== state) throw new Error(`it was ${found.state} before it could be killed`);
      return found && found.rowsDone > 2000 ? found : undefined;
    });
    await end(worker, 'SIGKILL');
    expect((await findRun(id))?.state).toBe(state);
    worker = await start('dist/worker.js');
  };

  const undisturbed = await takeFile('killed.csv', bodyOf(file));
  await startRun(undisturbed, 'check');
  const { counts } = await inState(undisturbed, 'checked');
  await startRun(undisturbed, 'apply');
  await inState(undisturbed, 'done');
  const wanted = (await wholeCatalog()).replaceAll(
    `"sourceId":${(await findRun(undisturbed))?.sourceId}`,
    '"sourceId":0',
  );
  await startRun(undisturbed, 'undo');
  await disturb(undisturbed, 'undoing');
  await inState(undisturbed, 'undone');
  expect(await wholeCatalog()).toBe(empty);

  const id = await takeFile('killed.csv', bodyOf(file));
  await startRun(id, 'check');
  await disturb(id, 'checking');
  expect((await inState(id, 'checked')).counts).toEqual(counts);
  await startRun(id, 'apply');
  await disturb(id, 'applying');
  await inState(id, 'done');
  const found = (await wholeCatalog()).replaceAll(
    `"sourceId":${(await findRun(id))?.sourceId}`,
    '"sourceId":0',
  );
  expect(found).toBe(wanted);
  await end(worker, 'SIGTERM');
}, 180_000);

describe('a source at an address', () => {
  const latest = async (sourceId: number) =>
    (await db.select().from(run).where(eq(run.sourceId, sourceId)).orderBy(desc(run.id)).limit(1))[0];

  test('is fetched, checked, and once it was brought in, brought in again without asking; nothing new is not fetched twice', async () => {
    const worker = await start('dist/worker.js');
    const address = `${settings.standins}/files/weekly.csv`;
    writeFileSync(join(suppliers, 'weekly.csv'), 'sku,name,price\nAD-1,Hook,1.00\n');
    const id = await addAddress(address);
    const first = await until(async () => {
      const one = await latest(id);
      return one?.state === 'checked' ? one : undefined;
    });
    await changeMapping(first.id, { ...first.mapping, repairs: ['invisible'] });
    await startRun(first.id, 'check');
    await inState(first.id, 'checked');
    await startRun(first.id, 'apply');
    await inState(first.id, 'done');

    await setAddress(id, {
      address,
      schedule: { every: 'day', at: '04:30', zone: 'Europe/Berlin' },
      automatic: true,
    });
    const [set] = await db.select().from(source).where(eq(source.id, id));
    expect(set?.fetchAt?.getTime()).toBeGreaterThan(Date.now());
    writeFileSync(join(suppliers, 'weekly.csv'), 'sku,name,price\nAD-1,Hook,2.00\n');
    const due = new Date((set?.fetchAt?.getTime() ?? 0) + 1000);
    await enqueueDue(due);
    await until(async () => {
      const one = await latest(id);
      return one && one.id !== first.id && one.state === 'done' ? one : undefined;
    });
    const { items, positionOf } = await currentSnapshot();
    expect(items[positionOf('AD-1') ?? -1]?.values.price).toBe('2.00');
    const second = await latest(id);

    await db.delete(job);
    await enqueueDue(new Date(due.getTime() + 48 * 3600_000));
    await until(async () => {
      const [one] = await db.select().from(source).where(eq(source.id, id));
      return one?.fetchWords === 'nothing new at its address' ? one : undefined;
    });
    expect((await latest(id))?.id).toBe(second?.id);
    await end(worker, 'SIGTERM');
  }, 60_000);

  test.each(['http://169.254.1.1/x', 'http://localhost:1/x', 'ftp://a.example/x', 'not an address'])(
    '%s is not fetched from',
    async (address) => {
      await expect(addAddress(address)).rejects.toThrow(/own network|Only http|not an address/);
    },
  );

  // Source: the IANA database through croner: Berlin goes from +02:00 to +01:00 on 2026-10-25 at 03:00.
  test('the clock change moves the fetch with the clock on the wall', () => {
    const daily = { every: 'day', at: '04:30', zone: 'Europe/Berlin' } as const;
    expect(nextFetch(daily, new Date('2026-10-24T12:00:00Z')).toISOString()).toBe('2026-10-25T03:30:00.000Z');
    expect(nextFetch(daily, new Date('2026-10-23T12:00:00Z')).toISOString()).toBe('2026-10-24T02:30:00.000Z');
    expect(nextFetch({ ...daily, every: 'week' }, new Date('2026-11-23T12:00:00Z')).toISOString()).toBe(
      '2026-11-30T03:30:00.000Z',
    );
    expect(nextFetch({ ...daily, every: 'hour' }, new Date('2026-11-23T12:00:00Z')).toISOString()).toBe(
      '2026-11-23T12:30:00.000Z',
    );
  });
});
