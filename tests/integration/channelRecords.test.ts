import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, eq } from 'drizzle-orm';
import { channelOf } from '@/server/channels/channels';
import { db } from '@/server/db/connection';
import { channelComparison, job, ledger, ledgerRevision } from '@/server/db/schema';
import { unattended } from '@/server/jobs/queue';
import { listNotifications } from '@/server/notifications/notifications';
import {
  askChannel,
  askChannelNow,
  comparisonView,
  requestLaterReports,
  takeListOver,
} from '@/server/submissions/channelRecords';
import { dueOn, toSendCount } from '@/server/submissions/due';
import { findSubmission, sendFeed } from '@/server/submissions/submissions';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

/** What a channel says beside its first answers: results that change later, and the list of what it has. */
let channels: Channels;
beforeAll(async () => {
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-records-')), 0.05, 0.1);
});
beforeEach(async () => {
  await freshDemo();
  await channels.forget();
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

const feed = 'lanternry-de';
async function send() {
  const sent = await sendFeed(feed, 'due');
  if (!sent.ok) throw new Error(sent.reason);
  await untilAnswered(sent.submission);
  return sent.submission;
}
const heldBy = async () =>
  (await db.select().from(ledger).where(eq(ledger.feed, feed)))
    .filter(({ acceptedDigest, withdrawn }) => acceptedDigest !== null && !withdrawn)
    .map(({ sku }) => sku)
    .sort();
const atChannel = async () =>
  Object.keys((await channels.state()).lanternry?.listings ?? {})
    .map((key) => key.slice(3))
    .sort();
const compared = async () => {
  await db.update(channelComparison).set({ comparedAt: null });
  await askChannel(feed, unattended);
  return comparisonView(feed, (await channelOf('lanternry')).sheet);
};

test('what the channel accepts later, of what it had refused, is asked for and counts', async () => {
  const id = await send();
  const first = await findSubmission(id);
  expect([first?.refused, await heldBy()]).toEqual([2, await atChannel()]);

  // It gives up a rule and fetches again by itself; nobody is told.
  await channels.giveUp('lanternry', 'L142');
  await channels.lookAgain();
  expect((await atChannel()).length).toBe((await heldBy()).length + 2);
  await askChannel(feed, unattended);
  expect(await heldBy()).toEqual(await atChannel());
  expect(await findSubmission(id)).toMatchObject({
    state: 'answered',
    refused: 0,
    accepted: (first?.accepted ?? 0) + 2,
    answeredAt: first?.answeredAt,
  });
  expect((await listNotifications())[0]).toMatchObject({ kind: 'laterResults', submission: id });
  expect(toSendCount((await dueOn(feed)) as never)).toBe(0);
  // Asked again, nothing more has changed.
  const told = (await listNotifications()).length;
  await askChannel(feed, unattended);
  expect((await listNotifications()).length).toBe(told);
});

test('our records are compared with the channel’s own list, and the list can be taken over', async () => {
  await send();
  expect(await compared()).toMatchObject({ ours: (await heldBy()).length, differing: 0, trouble: undefined });

  // Our records go wrong in each way there is.
  const [lost, other, unknown] = (await heldBy()) as [string, string, string];
  const one = (sku: string) => and(eq(ledger.feed, feed), eq(ledger.sku, sku));
  const [row] = await db.select().from(ledger).where(one(lost));
  if (!row) throw new Error('nothing is held');
  await db
    .insert(ledger)
    .values({ ...row, sku: 'NEVER-THERE', acceptedSubmission: 1, acceptedValues: { ref: 'NEVER-THERE' } });
  await db
    .update(ledger)
    .set({ acceptedValues: { ...row.acceptedValues, price: '1.00 EUR' } })
    .where(one(lost));
  await db
    .update(ledger)
    .set({
      rejectedDigest: row.acceptedDigest,
      rejectedSubmission: row.acceptedSubmission,
      acceptedDigest: null,
      acceptedSubmission: null,
    })
    .where(one(other));
  await db.delete(ledger).where(one(unknown));
  await db.delete(ledgerRevision).where(eq(ledgerRevision.feed, feed));
  const view = await compared();
  expect(view?.differing).toBe(4);
  expect(view?.differences).toEqual(
    expect.arrayContaining([
      { what: 'missing', sku: 'NEVER-THERE' },
      {
        what: 'differs',
        sku: lost,
        field: 'price',
        ours: '1.00 EUR',
        theirs: expect.stringContaining(' EUR'),
      },
      { what: 'extra', sku: other, known: true },
      { what: 'extra', sku: unknown, known: false },
    ]),
  );
  expect((await listNotifications())[0]).toMatchObject({ kind: 'recordsDiffer' });

  expect(await takeListOver(feed)).toBe(4);
  expect((await heldBy()).includes('NEVER-THERE')).toBe(false);
  await expect(takeListOver(feed)).rejects.toThrow('no longer differ');
  // What is not known exactly is sent again, and then both are the same.
  await send();
  expect([(await compared())?.differing, await heldBy()]).toEqual([0, await atChannel()]);
});

test('a channel is asked by itself, once at a time, and a trouble is shown', async () => {
  await send();
  await requestLaterReports(new Date());
  await requestLaterReports(new Date());
  const queued = async () => (await db.select().from(job).where(eq(job.kind, 'askChannel'))).length;
  expect(await queued()).toBe(1);
  await channels.fault('lanternry', 'late');
  await askChannel(feed, unattended);
  expect((await comparisonView(feed, (await channelOf('lanternry')).sheet))?.trouble).toContain('404');
  await askChannel(feed, unattended);
  expect((await comparisonView(feed, (await channelOf('lanternry')).sheet))?.trouble).toBeUndefined();
  await expect(askChannelNow('orrin-bazaar-de')).rejects.toThrow();
});
