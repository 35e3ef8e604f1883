import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { ledger, ledgerRevision, rateLimit, submission, submissionEntry } from '@/server/db/schema';
import { addDemoFeeds } from '@/server/demo/load';
import { dueOn } from '@/server/submissions/due';
import { findSubmission, resumeSubmission, sendFeed } from '@/server/submissions/submissions';
import { faults } from '../../src/simulators/kit';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

/** Every simulated channel with every fault: it ends as it would without, nothing twice, nothing lost, never too fast. */
let channels: Channels;
const feeds = {
  'orrin-bazaar': 'orrin-bazaar-de',
  lanternry: 'lanternry-gb',
  'tessel-boards': 'tessel-boards-de',
  flickerstall: 'flickerstall-de-en',
  'plazuela-norte': 'plazuela-norte-es',
  'own-shop': 'own-shop-de',
} as const;
type Code = keyof typeof feeds;

/** Few listings of each, so that what is slow by rule is soon over. */
const chosen = new Map<Code, string[]>();

beforeAll(async () => {
  await freshDemo();
  await addDemoFeeds('demo');
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-channels-')), 0.05, 0.1);
  await forget();
  for (const [code, feed] of Object.entries(feeds) as [Code, string][]) {
    const due = await dueOn(feed);
    const most = code === 'tessel-boards' ? 2 : 5;
    chosen.set(
      code,
      (due?.listings ?? []).flatMap(({ sku, out }) => (out && !out.relation ? [sku] : [])).slice(0, most),
    );
  }
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

async function forget(): Promise<void> {
  await channels.forget();
  for (const table of [ledger, submissionEntry, submission, rateLimit]) await db.delete(table);
}

async function begin(code: Code): Promise<number> {
  const result = await sendFeed(feeds[code], { only: chosen.get(code) ?? [] });
  if (!result.ok) throw new Error(result.reason);
  return result.submission;
}

/** What a channel holds of ours, without the numbers that it gives in the order of arrival. */
async function heldBy(code: Code) {
  const held = (await channels.state())[code]?.listings ?? {};
  return Object.fromEntries(Object.entries(held).map(([key, { row }]) => [key, row]));
}

const ended = async (id: number) => {
  const found = await findSubmission(id);
  const entries = await db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, id));
  return { state: found?.state, answers: entries.map(({ sku, answer }) => [sku, answer]).sort() };
};

describe.each(Object.keys(feeds) as Code[])('%s', (code) => {
  let without: { held: Awaited<ReturnType<typeof heldBy>>; end: Awaited<ReturnType<typeof ended>> };

  beforeAll(async () => {
    await forget();
    // The pages that others visit.
    if (code === 'tessel-boards') {
      const due = await dueOn(feeds['own-shop']);
      const id = await sendFeed(feeds['own-shop'], 'due');
      if (!id.ok || !due) throw new Error('the shop has nothing');
      await untilAnswered(id.submission);
    }
    const id = await begin(code);
    await untilAnswered(id);
    without = { held: await heldBy(code), end: await ended(id) };
  });

  test('without faults everything that was sent has its answer and is there', () => {
    expect(without.end.state).toBe('answered');
    expect(new Set(without.end.answers.map(([, answer]) => answer))).toEqual(new Set(['accepted']));
    expect(Object.keys(without.held).length).toBeGreaterThanOrEqual((chosen.get(code) ?? []).length);
  });

  test.each(Object.keys(faults))('%s', async (fault) => {
    // As nothing else does: a ledger without a revision is read anew.
    await db.delete(ledger).where(eq(ledger.feed, feeds[code]));
    await db.delete(ledgerRevision).where(eq(ledgerRevision.feed, feeds[code]));
    const before = (await channels.state())[code];
    await channels.fault(code, fault);
    const id = await begin(code);
    await untilAnswered(id);
    if (fault === 'expired') {
      // A person is wanted: nothing is tried against a closed door.
      expect(await findSubmission(id)).toMatchObject({
        state: 'paused',
        error: expect.stringContaining('credentials'),
      });
      await resumeSubmission(id);
      await untilAnswered(id);
    }
    if (fault === 'lost') {
      // Nobody knows; it is said, and can be sent again.
      const { answers } = await ended(id);
      expect(answers.some(([, answer]) => answer === 'silent')).toBe(true);
      expect((await dueOn(feeds[code]))?.counts.again).toBeGreaterThan(0);
      const again = await sendFeed(feeds[code], { only: chosen.get(code) ?? [] });
      if (!again.ok) throw new Error(again.reason);
      await untilAnswered(again.submission);
      expect(await ended(again.submission)).toEqual(without.end);
    } else expect(await ended(id)).toEqual(without.end);
    expect(await heldBy(code)).toEqual(without.held);
    const now = (await channels.state())[code];
    expect(now?.tooFast).toBe(before?.tooFast);
    const due = await dueOn(feeds[code]);
    const mine = new Set(chosen.get(code));
    expect(due?.listings.filter(({ sku, due: what }) => mine.has(sku) && what !== 'unchanged')).toEqual([]);
  });

  test('nothing was worked on twice that was sent once', async () => {
    const { doubles = 0 } = (await channels.state())[code] ?? {};
    // The same listings were sent once for each fault, and once more where an answer was lost: that is meant.
    const parts = code === 'tessel-boards' ? (chosen.get(code)?.length ?? 0) : 1;
    expect(doubles).toBeLessThanOrEqual((Object.keys(faults).length + 1) * parts);
  });
});
