import { expect, test } from '@playwright/test';
import { startOwnStack } from '../support/ownStack';

/** The database stands still for a while, and the application is stopped in the middle of sending. */
const seconds = Number(process.env.LIVELY_OUTAGE ?? 8);
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
// A process of its own: settings and connections of this one belong to one application.
test.use({ launchOptions: { args: ['--outages'] } });
const env = { LIVELY_MINUTE: '0.5', LIVELY_SIMULATOR_SECONDS: '1' };
const feed = 'lanternry-de';

async function begin() {
  const { editCells } = await import('../../src/server/catalog/itemEdits');
  const { sendFeed, releaseSubmission } = await import('../../src/server/submissions/submissions');
  await editCells([
    { sku: 'QM-CLO-GLA-18', attribute: 'price', text: `${20 + Math.floor(Math.random() * 9)}.45` },
  ]);
  const sent = await sendFeed(feed, 'everything');
  if (!sent.ok) throw new Error(sent.reason);
  if (sent.held) await releaseSubmission(sent.submission, 'it is a trial');
  return sent.submission;
}

async function answered(id: number): Promise<void> {
  const { findSubmission } = await import('../../src/server/submissions/submissions');
  for (let waited = 0; waited < 1800; waited++) {
    const found = await findSubmission(id).catch(() => undefined);
    if (found?.state === 'answered') return expect(found).toMatchObject({ silent: 0 });
    if (found && ['failed', 'stopped'].includes(found.state))
      throw new Error(`${found.state}: ${found.error}`);
    await pause(100);
  }
  throw new Error('it comes to no end');
}

test(`the database stands still for ${seconds} s, and the application is stopped while it sends: nothing is lost`, async () => {
  test.setTimeout(900_000);
  let stack = await startOwnStack('first', env);
  Object.assign(process.env, stack.env);
  const { closePools } = await import('../../src/server/db/connection');
  const { listSubmissions } = await import('../../src/server/submissions/submissions');
  const looks = async () =>
    (await fetch(`${stack.address}/feeds/${feed}/send`, { signal: AbortSignal.timeout(60_000) })).status;
  try {
    expect(await looks()).toBe(200);
    const first = await begin();
    const database = stack.running.get('database')?.pid ?? 0;
    process.kill(database, 'SIGSTOP');
    const meanwhile = looks().catch((error) => error);
    await pause(seconds * 1000);
    process.kill(database, 'SIGCONT');
    // A page that was asked for meanwhile comes, late, or says that it could not; the next ones are as before.
    expect([200, 500, 503]).toContain(await meanwhile);
    await answered(first);
    expect(await looks()).toBe(200);
    expect(stack.running.get('database')?.pid).toBe(database);

    const second = await begin();
    await pause(150);
    await stack.stop(true);
    stack = await stack.again();
    await answered(second);
    expect((await listSubmissions(feed)).map(({ id }) => id).slice(0, 2)).toEqual([second, first]);
    expect(await looks()).toBe(200);
  } finally {
    await closePools().catch(() => undefined);
    await stack.stop();
  }
});
