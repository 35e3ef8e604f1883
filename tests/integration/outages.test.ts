import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { submission } from '@/server/db/schema';
import { takeFile } from '@/server/import/sources';
import { settings } from '@/server/runtime/settings';
import { sendSubmission } from '@/server/submissions/delivery';
import { dueOn, toSendCount } from '@/server/submissions/due';
import { findSubmission, sendFeed } from '@/server/submissions/submissions';
import { type RunningProgram, startWorker } from '../support/programs';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

/** A disk without room, and clocks that are hours off: nothing is lost, and what waited goes on. */
let channels: Channels;
let worker: RunningProgram | undefined;
beforeAll(async () => {
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-outages-')), 0.05, 0.1);
});
beforeEach(async () => {
  await freshDemo();
  await channels.forget();
});
afterEach(async () => {
  await worker?.end();
  worker = undefined;
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

const feed = 'lanternry-de';
async function begin(): Promise<number> {
  const sent = await sendFeed(feed, 'due');
  if (!sent.ok) throw new Error(sent.reason);
  return sent.submission;
}
async function until<T>(look: () => Promise<T | undefined>): Promise<T> {
  for (let waited = 0; ; waited++) {
    const found = await look();
    if (found !== undefined) return found;
    if (waited > 1200) throw new Error('it comes to no end');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

describe('a disk without room', () => {
  const small = mkdtempSync(join(tmpdir(), 'lively-small-'));
  const mounted =
    spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=512k', 'tmpfs', small], { stdio: 'ignore' }).status === 0;
  const folder = settings.dataFolder;
  const use = (data: string) => {
    (settings as { dataFolder: string }).dataFolder = data;
  };
  /** Leaves no room on it. */
  const fill = () => {
    const { bavail, bsize } = statfsSync(small);
    writeFileSync(join(small, 'full'), Buffer.alloc(bavail * bsize));
  };
  beforeEach(() => {
    mkdirSync(small, { recursive: true });
    use(small);
  });
  afterEach(() => {
    use(folder);
    for (const name of readdirSync(small)) rmSync(join(small, name), { recursive: true, force: true });
  });
  afterAll(() => {
    if (mounted) spawnSync('umount', [small]);
    rmSync(small, { recursive: true, force: true });
  });

  // Only who may mount can make one.
  const where = mounted ? test : test.skip;

  where('leaves a submission where it was; once there is room it goes out whole', async () => {
    const id = await begin();
    fill();
    await expect(sendSubmission(id)).rejects.toThrow('ENOSPC');
    expect(await findSubmission(id)).toMatchObject({ state: 'queued' });
    // No half file is left that would take the room that is made.
    expect(readdirSync(join(small, 'made')).filter((name) => name.startsWith('.'))).toEqual([]);
    rmSync(join(small, 'full'));
    await untilAnswered(id);
    expect(await findSubmission(id)).toMatchObject({ state: 'answered' });
    expect(toSendCount((await dueOn(feed)) as never)).toBe(0);
  });

  where('refuses an upload in words, and keeps nothing of it', async () => {
    mkdirSync(join(small, 'uploads'), { recursive: true });
    fill();
    await expect(takeFile('big.csv', bodyOf(`SKU;Name\n${'A;B\n'.repeat(200_000)}`))).rejects.toThrow(
      'The disk of the server is full, so the file was not stored.',
    );
    expect(readdirSync(join(small, 'uploads'))).toEqual([]);
  });
});

describe.each([5, -5, 30])('a worker whose clock is %i hours off', (hours) => {
  test('sends, asks for the answer and ends as it should', async () => {
    worker = await startWorker({
      NODE_OPTIONS: `--require ${join(process.cwd(), 'tests/support/shiftedClock.cjs')}`,
      LIVELY_CLOCK_HOURS: String(hours),
      LIVELY_MINUTE: '0.1',
      LIVELY_PUBLIC_ADDRESS: settings.address,
    });
    const id = await begin();
    const state = await until(async () => {
      const found = await findSubmission(id);
      return found && ['answered', 'failed', 'stopped'].includes(found.state) ? found : undefined;
    });
    expect(state).toMatchObject({ state: 'answered', refused: 2, silent: 0 });
    // Another clock takes its place.
    await worker.end();
    worker = await startWorker({ LIVELY_MINUTE: '0.1', LIVELY_PUBLIC_ADDRESS: settings.address });
    expect(toSendCount((await dueOn(feed)) as never)).toBe(0);
    expect(await db.select().from(submission).where(eq(submission.id, id))).toHaveLength(1);
  });
});
