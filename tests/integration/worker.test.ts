import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { desc, eq, inArray } from 'drizzle-orm';
import { scheduleSchema } from '@/core/schedule/schedule';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { db } from '@/server/db/connection';
import { job, run, source } from '@/server/db/schema';
import { addAddress, enqueueDue, setAddress } from '@/server/import/fetching';
import { editMapping, findRun, startRun } from '@/server/import/runs';
import { settings } from '@/server/runtime/settings';
import { closeDatabase, freshDemo } from '../support/stack';

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

/** Waits for something in the database to become so; the test's own limit catches what never does. */
async function until<T>(look: () => Promise<T | undefined>): Promise<T> {
  for (;;) {
    const found = await look();
    if (found !== undefined) return found;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}

const inState = (id: number, state: string) =>
  until(async () => {
    const found = await findRun(id);
    if (found?.state === 'failed') throw new Error(found.error ?? '');
    return found?.state === state ? found : undefined;
  });

beforeAll(async () => {
  await freshDemo();
  await start('dist/simulators.js');
});
afterAll(async () => {
  for (const child of children) await end(child, 'SIGTERM');
  await closeDatabase();
});

describe('a source at an address', () => {
  const latest = async (sourceId: number) =>
    (await db.select().from(run).where(eq(run.sourceId, sourceId)).orderBy(desc(run.id)).limit(1))[0];

  test('is fetched, checked, and once it was brought in, brought in again without asking; nothing new is not fetched twice', async () => {
    const worker = await start('dist/worker.js');
    const address = `${settings.simulators}/files/weekly.csv`;
    writeFileSync(join(suppliers, 'weekly.csv'), 'sku,name,price\nAD-1,Hook,1.00\n');
    const id = await addAddress(address);
    const first = await until(async () => {
      const one = await latest(id);
      return one?.state === 'checked' ? one : undefined;
    });
    await editMapping(first.id, { edit: 'repair', damage: 'invisible', accepted: true });
    await startRun(first.id, 'check');
    await inState(first.id, 'checked');
    await startRun(first.id, 'apply');
    await inState(first.id, 'done');

    await setAddress(id, {
      address,
      schedule: scheduleSchema.parse({ every: 'day', at: '04:30' }),
      automatic: true,
    });
    const [set] = await db.select().from(source).where(eq(source.id, id));
    expect(set?.fetchAt?.getTime()).toBeGreaterThan(Date.now());
    writeFileSync(join(suppliers, 'weekly.csv'), 'sku,name,price\nAD-1,Hook,1.02\n');
    const due = new Date((set?.fetchAt?.getTime() ?? 0) + 1000);
    await enqueueDue(due);
    await until(async () => {
      const one = await latest(id);
      return one && one.id !== first.id && one.state === 'done' ? one : undefined;
    });
    const { items, positionOf } = await currentSnapshot();
    expect(items[positionOf('AD-1') ?? -1]?.values.price).toBe('1.02');
    const second = await latest(id);

    // The fetch that brought it is still at work when the run is done: it then writes down what it has seen.
    await until(async () => {
      const open = await db
        .select()
        .from(job)
        .where(inArray(job.state, ['queued', 'running']));
      return open.length === 0 ? true : undefined;
    });
    await enqueueDue(new Date(due.getTime() + 48 * 3600_000));
    await until(async () => {
      const [one] = await db.select().from(source).where(eq(source.id, id));
      return one?.fetchWords === 'no change at its address' ? one : undefined;
    });
    expect((await latest(id))?.id).toBe(second?.id);
    await end(worker, 'SIGTERM');
  });

  test.each(['http://169.254.1.1/x', 'http://localhost:1/x', 'ftp://a.example/x', 'not a complete address'])(
    '%s is not fetched from',
    async (address) => {
      await expect(addAddress(address)).rejects.toThrow(/own network|Only http|not a complete address/);
    },
  );
});
