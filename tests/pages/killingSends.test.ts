import { expect, test } from '@playwright/test';
import { startOwnStack } from '../support/ownStack';

/** A stack of its own with three workers, whose processes are killed while listings are on their way to six channels. */
const kills = Number(process.env.LIVELY_KILLS ?? 15);
/** Tenths of a second in which a channel comes to rest. */
const mostWaits = Number(process.env.LIVELY_WAITS ?? 1800);
const feeds = [
  'own-shop-de',
  'lanternry-gb',
  'orrin-bazaar-de',
  'plazuela-norte-es',
  'flickerstall-de-en',
  'tessel-boards-de',
];

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

test(`${kills} kill -9 while six channels are sent to: each ends with what it should have, once`, async () => {
  test.setTimeout(1_800_000);
  const stack = await startOwnStack(
    'all',
    { LIVELY_MINUTE: '0.1', LIVELY_SIMULATOR_SECONDS: '0.2' },
    { workers: 3 },
  );
  Object.assign(process.env, stack.env);
  const { editCells } = await import('../../src/server/catalog/itemEdits');
  const { closePools } = await import('../../src/server/db/connection');
  const { editDraft, feedPlans, listVersions, publishDraft } = await import('../../src/server/plans/drafts');
  const { dueOn, toSendCount } = await import('../../src/server/submissions/due');
  const { ledgerOf } = await import('../../src/server/ledger/ledger');
  const { listSubmissions, releaseSubmission, sendFeed, sendHeldListings } = await import(
    '../../src/server/submissions/submissions'
  );
  /** Does something that fails while the database is away, until it is done. */
  async function surely<T>(work: () => Promise<T>): Promise<T> {
    for (let tried = 0; ; tried++)
      try {
        return await work();
      } catch (error) {
        if (tried > 600) throw error;
        await pause(100);
      }
  }
  const release = async (feed: string) => {
    for (const one of await surely(() => listSubmissions(feed)))
      if (one.state === 'held') await releaseSubmission(one.id, 'it is a trial').catch(() => undefined);
  };
  /** Sends what is due, and what is held for review where that is all. */
  const sendDue = async (feed: string) => {
    const sent = await sendFeed(feed).catch(() => undefined);
    if (sent && !sent.ok && sent.reason === 'doubtful')
      await sendHeldListings(feed, 'it is a trial').catch(() => undefined);
  };
  /** What is still open on a feed, for the message of a failure. */
  const openOn = async (feed: string) => {
    const { counts } = (await dueOn(feed)) ?? {};
    const { db } = await import('../../src/server/db/connection');
    const { batch, job } = await import('../../src/server/db/schema');
    const submissions = (await listSubmissions(feed)).filter(
      ({ state }) => state !== 'answered' && state !== 'failed',
    );
    const jobs = (await db.select().from(job)).filter(
      ({ state }) => state === 'queued' || state === 'running',
    );
    const batches = (await db.select().from(batch)).filter(({ state }) => state !== 'answered');
    return [counts, submissions, jobs, batches.slice(-5), await sendFeed(feed)];
  };
  /** Changes a few prices and sends what is due, on every feed. */
  let round = 0;
  const sendAll = async () => {
    round++;
    const cells = [
      'QM-TRY-OVA-CHA',
      'QM-TRY-ROU-CHA-12',
      'QM-CLO-GLA-18',
      'QM-SED-BAS-20',
      'QM-STD-LAD-120',
    ].map((sku, at) => ({ sku, attribute: 'price', text: (20 + at + (round % 10) / 10).toFixed(2) }));
    await surely(() => editCells(cells)).catch(() => undefined);
    await publishOne().catch(() => undefined);
    for (const feed of feeds) {
      await sendDue(feed);
      await release(feed);
    }
  };
  /** Versions that were told as published, by feed. */
  const published = new Map<string, number[]>();
  /** Publishes a rule that does nothing, on one feed after the other. */
  const publishOne = async () => {
    const feed = feeds[round % feeds.length] ?? '';
    const { revision = 0 } = (await feedPlans(feed)) ?? {};
    const edited = await editDraft(feed, revision, {
      edit: 'addRule',
      rule: {
        id: `round-${round}`,
        name: `Round ${round}`,
        on: false,
        when: { attribute: 'sku', is: 'empty' },
        then: [{ do: 'leaveOut', reason: 'never' }],
      },
    });
    if (!edited.ok) return;
    const done = await publishDraft(feed, edited.revision, `round ${round}`);
    if (done.ok) published.set(feed, [...(published.get(feed) ?? []), done.version ?? 0]);
  };
  try {
    let killed = 0;
    const killing = (async () => {
      const names = [
        'worker',
        'worker 2',
        'simulated channels',
        'worker 3',
        'evaluator',
        'worker',
        'web server',
        'database',
      ];
      for (let i = 0; killed < kills; i++) {
        await pause(40 + ((i * 7919) % 260));
        const name = names[i % names.length] ?? '';
        const child = stack.running.get(name);
        if (!child?.pid) continue;
        try {
          process.kill(child.pid, 'SIGKILL');
        } catch {
          continue;
        }
        killed++;
        // The next is killed when this one is there again, so that however busy the machine is the work goes on.
        while (stack.running.get(name) === child) await pause(30);
      }
    })();
    while (killed < kills) {
      await sendAll();
      await pause(200);
    }
    await killing;
    // Then it is left alone until nothing is due any more.
    for (const feed of feeds) {
      let calm = false;
      for (let waited = 0; waited < mostWaits && !calm; waited++) {
        const due = await surely(() => dueOn(feed));
        await release(feed);
        if (due && due.counts.waiting === 0) {
          if (toSendCount(due) === 0) calm = true;
          else await sendDue(feed);
        }
        if (!calm) await pause(100);
      }
      expect([feed, calm, calm ? [] : await openOn(feed)]).toEqual([feed, true, []]);
      // Each version that was told as published is there, and none is missing or twice.
      const versions = (await surely(() => listVersions(feed))).map(({ version }) => version);
      expect([feed, [...versions].sort((a, b) => a - b)]).toEqual([
        feed,
        Array.from({ length: versions.length }, (_, at) => at + 1),
      ]);
      expect([feed, (published.get(feed) ?? []).filter((one) => !versions.includes(one))]).toEqual([
        feed,
        [],
      ]);
    }
    const state = await surely(async () =>
      (await fetch(`http://127.0.0.1:${stack.env.LIVELY_SIMULATORS_PORT}/state`)).json(),
    );
    for (const feed of feeds) {
      const channel = feed.replace(/-(de|gb|es)(-en)?$/, '');
      const kept = [...(await ledgerOf(feed))].flatMap(([sku, { held }]) => (held ? [sku] : []));
      const holds = Object.keys(state[channel].listings).map((key) => key.replace(/^GB /, ''));
      // What the ledger says the channel has is what it has, and nothing of it twice.
      expect([feed, holds.filter((key) => !kept.includes(key))]).toEqual([feed, []]);
      const numbers = Object.values(state[channel].listings as Record<string, { number: string }>).map(
        ({ number }) => number,
      );
      expect([feed, numbers.length - new Set(numbers).size]).toEqual([feed, 0]);
      expect([feed, state[channel].tooFast]).toEqual([feed, 0]);
      const due = await dueOn(feed);
      const sent = due?.listings.filter(({ due: what, out }) => what === 'unchanged' && out) ?? [];
      const price = due?.sheet.fields.find(({ role }) => role === 'price')?.code ?? '';
      const at = due?.sheet.fields.findIndex(({ role }) => role === 'price') ?? -1;
      for (const { sku, out } of sent) {
        const row = (state[channel].listings[sku] ?? state[channel].listings[`GB ${sku}`])?.row;
        // What came before the simulated channels were started is known to the demo’s ledger alone.
        if (!row) continue;
        const meant = String(out?.values[at] ?? '').replace('.', channel === 'plazuela-norte' ? ',' : '.');
        expect([feed, sku, row[price]?.[0] ?? '']).toEqual([feed, sku, meant]);
      }
    }
  } finally {
    await closePools().catch(() => undefined);
    await stack.stop();
  }
});
