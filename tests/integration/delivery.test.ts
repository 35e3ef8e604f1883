import { type ChildProcess, spawn } from 'node:child_process';
import { eq } from 'drizzle-orm';
import { archiveItems, editCells } from '@/server/catalog/itemEdits';
import { db } from '@/server/db/connection';
import { listing, submission, submissionEntry } from '@/server/db/schema';
import { fileView, wholeFile } from '@/server/feeds/feedFile';
import { loadFeed } from '@/server/feeds/work';
import { collectReport, FinalRefusal, sendSubmission, submissionFile } from '@/server/submissions/delivery';
import { sendFeed } from '@/server/submissions/submissions';
import { closeDatabase, freshDemo } from '../support/stack';

let channel: ChildProcess;

/** The real stand-in channel, as the start command runs it. */
beforeAll(async () => {
  channel = spawn(process.execPath, ['dist/standins.js'], {
    env: { ...process.env, LIVELY_STANDIN_SECONDS: '0.3' },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  await new Promise<void>((resolve, reject) => {
    channel.once('message', () => resolve());
    channel.once('exit', (code) => reject(new Error(`The stand-in channels ended with ${code}.`)));
  });
});
beforeEach(freshDemo);
afterAll(async () => {
  channel.kill('SIGTERM');
  await closeDatabase();
});

const feed = 'lanternry-de';
const find = async (id: number) => (await db.select().from(submission).where(eq(submission.id, id)))[0];

async function sent(): Promise<number> {
  const result = await sendFeed(feed, false);
  if (!result.ok) throw new Error(result.reason);
  await sendSubmission(result.submission);
  return result.submission;
}

async function answered(id: number): Promise<void> {
  for (;;) {
    const wait = await collectReport(id);
    if (wait === undefined) return;
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}

test('a submission is taken, worked on, and answered listing by listing', async () => {
  const id = await sent();
  expect(await find(id)).toMatchObject({ state: 'waiting', accepted: 0 });
  // While the channel is at work it says when to ask again; on a busy machine it may be done by now.
  const wait = await collectReport(id);
  if (wait !== undefined) expect(wait).toBeGreaterThan(0);
  await answered(id);
  const entries = await db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, id));
  const refused = entries.filter(({ answer }) => answer === 'refused');
  expect(refused.map(({ sku, problems }) => [sku, problems.map(({ field }) => field)])).toEqual([
    ['QM-POT-RDG-TER-10', ['barcode']],
    ['QM-POT-RDG-TER-14', ['barcode']],
  ]);
  expect(await find(id)).toMatchObject({ state: 'answered', refused: 2, accepted: entries.length - 2 });
  const rows = await db.select().from(listing);
  for (const row of rows)
    expect([row.sku, row.acceptedDigest === row.sentDigest]).toEqual([row.sku, row.answer === 'accepted']);
});

test('sending twice gives the channel one file', async () => {
  const id = await sent();
  const first = (await find(id))?.remoteId;
  await db.update(submission).set({ state: 'sending' }).where(eq(submission.id, id));
  await sendSubmission(id);
  expect((await find(id))?.remoteId).toBe(first);
  await answered(id);
  await sendSubmission(id);
  expect(await find(id)).toMatchObject({ state: 'answered' });
});

test('the file is what was written down, not what the catalog says now', async () => {
  const result = await sendFeed(feed, false);
  if (!result.ok) throw new Error(result.reason);
  const file = async () => Buffer.from(await submissionFile(result.submission)).toString();
  const before = await file();
  // Something that was sent is changed, and something else goes.
  const [first, second] = await db
    .select({ sku: submissionEntry.sku })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, result.submission))
    .limit(2);
  await editCells([{ sku: first?.sku ?? '', attribute: 'price', text: '1234.56' }]);
  await archiveItems([second?.sku ?? ''], true);
  expect(before).not.toContain('1234.56');
  expect(await file()).toBe(before);
  expect(before.match(/<entry>/g)).toHaveLength(result.count);
});

test('a submission that does not exist is refused for good', async () => {
  await expect(sendSubmission(999_999)).rejects.toThrow(FinalRefusal);
});

test('a feed’s file can be looked at before it leaves: its rows with their items, its beginning, and all of it', async () => {
  const work = await loadFeed('lanternry-de');
  if (!work) throw new Error('the feed is gone');
  const view = await fileView(work);
  const ready = work.published.listings.filter(({ state }) => state === 'ready');
  expect(view).toMatchObject({
    label: 'Atom',
    name: 'lanternry-de.xml',
    count: ready.length,
    ofDraft: false,
  });
  expect(view.rows.map(({ sku }) => sku)).toEqual(ready.slice(0, 20).map(({ sku }) => sku));
  const ref = view.columns.findIndex(({ code }) => code === 'ref');
  expect(view.rows.every(({ sku, cells }) => cells[ref] === sku)).toBe(true);
  const { pieces, mediaType } = await wholeFile(work);
  let text = '';
  for await (const piece of pieces) text += Buffer.from(piece).toString();
  expect(mediaType).toBe('application/atom+xml');
  expect(text.match(/<entry>/g)).toHaveLength(ready.length);
  const entries = (all = '') => all.slice(all.indexOf('<entry>'), 4000);
  // Only the time at which each was made differs.
  const timeless = (all: string) => all.replace(/<updated>[^<]*<\/updated>/g, '');
  expect(timeless(text)).toContain(timeless(entries(view.begins)));
});
