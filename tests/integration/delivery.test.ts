import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, asc, eq, like } from 'drizzle-orm';
import type { ChannelStatus } from '@/core/conditions/conditions';
import { checkDigit } from '@/core/identifiers/gtin';
import { toPut } from '@/core/ledger/ledger';
import type { PlanEdit } from '@/core/plans/edit';
import { raiseRevision } from '@/server/catalog/changes';
import { archiveItems, editCells } from '@/server/catalog/itemEdits';
import { inParts, insertRows } from '@/server/db/bulk';
import { db } from '@/server/db/connection';
import {
  batch,
  destination,
  feedListing,
  item,
  ledger,
  publication,
  submission,
  submissionEntry,
} from '@/server/db/schema';
import { addDemoFeeds } from '@/server/demo/load';
import { type FeedContext, loadFeedContext } from '@/server/evaluation/feedContext';
import { acceptedValues, ledgerOf, raiseLedgerRevision } from '@/server/ledger/ledger';
import { evaluateFeeds } from '@/server/listings/refreshJob';
import { listNotifications } from '@/server/notifications/notifications';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { rulesStage } from '@/server/stages/rules';
import { sendStage } from '@/server/stages/send';
import { pathOfStored } from '@/server/storage/files';
import { FinalRefusal, sendSubmission, stopSubmission, submissionFiles } from '@/server/submissions/delivery';
import { dueOn, listingsForReview, toSendCount } from '@/server/submissions/due';
import { fileView, wholeFile } from '@/server/submissions/feedFile';
import { insights } from '@/server/submissions/list';
import { answersFromFile, answersInTable, answersOfAll } from '@/server/submissions/manual';
import { restoreEarlier } from '@/server/submissions/planning/restoring';
import {
  dropSubmission,
  findSubmission,
  listSubmissions,
  pauseSubmission,
  releaseSubmission,
  resumeSubmission,
  sendFeed,
  sendHeldListings,
} from '@/server/submissions/submissions';
import { destinationView, editDestination } from '@/server/transports/destinations';
import { answerFetch, rangeOf } from '@/server/transports/publicationFile';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

let channels: Channels;
beforeAll(async () => {
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-channels-')), 0.05, 0.1);
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
const orrin = 'orrin-bazaar-de';
const due = async (code: string) => {
  const found = await dueOn(code);
  if (!found) throw new Error(`${code} is not published`);
  return found;
};

async function send(code: string, what: Parameters<typeof sendFeed>[1] = 'due'): Promise<number> {
  const result = await sendFeed(code, what);
  if (!result.ok) throw new Error(`${result.reason}: ${JSON.stringify((await listSubmissions(code))[0])}`);
  await untilAnswered(result.submission);
  return result.submission;
}
const entriesOf = (id: number) =>
  db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, id));

test('a file that is fetched is worked on and answered listing by listing', async () => {
  const before = toSendCount(await due(feed));
  const id = await send(feed);
  const entries = await entriesOf(id);
  const refused = entries.filter(({ answer }) => answer === 'refused');
  expect(refused.map(({ sku, problems }) => [sku, problems.map(({ field }) => field)])).toEqual([
    ['QM-POT-RDG-TER-10', ['barcode']],
    ['QM-POT-RDG-TER-14', ['barcode']],
  ]);
  expect(await findSubmission(id)).toMatchObject({
    state: 'answered',
    total: before,
    refused: 2,
    accepted: before - 2,
  });
  const now = await due(feed);
  expect([toSendCount(now), now.counts.unchanged, now.counts.refused]).toEqual([0, before - 2, 2]);
  // The channel’s own numbers came along with nothing; what was accepted is kept with its values.
  const kept = (await ledgerOf(feed)).get(entries.find(({ answer }) => answer === 'accepted')?.sku ?? '');
  expect(kept).toMatchObject({ held: { submission: id } });
  expect([...(await acceptedValues(feed, [...(await ledgerOf(feed)).keys()])).values()][0]).toMatchObject({
    headline: expect.any(String),
  });
});

test('more listings than are read at once leave in one file, and each has its answer', async () => {
  const ready = (await due(feed)).listings.find(({ out }) => out);
  const [model] = await db
    .select()
    .from(item)
    .where(eq(item.sku, ready?.sku ?? ''));
  if (!model) throw new Error('nothing is ready');
  const { id: _own, ...like } = model;
  const clones = Array.from({ length: 2_300 }, (_, n) => {
    const digits = String(952_900_000_000 + n);
    const [sku, gtin] = [`CLONE-${n}`, `${digits}${checkDigit(digits)}`];
    const name = `${model.name} number ${n}`;
    return { ...like, sku, gtin, name, values: { ...model.values, sku, gtin, name } };
  });
  await db.transaction(async (tx) => {
    const revision = await raiseRevision(tx);
    for (const part of inParts(clones, 500))
      await insertRows(
        tx,
        item,
        part.map((one) => ({ ...one, revision })),
      );
  });
  const id = await send(feed, 'everything');
  const entries = await entriesOf(id);
  expect(entries.filter(({ sku }) => sku.startsWith('CLONE-'))).toHaveLength(clones.length);
  expect(new Set(entries.map(({ position }) => position)).size).toBe(entries.length);
  expect(entries.filter(({ answer }) => answer !== 'accepted' && answer !== 'refused')).toEqual([]);
  const [file] = await db.select().from(batch).where(eq(batch.submissionId, id));
  expect(file?.count).toBe(entries.length);
  const text = readFileSync(pathOfStored(file?.file ?? ''), 'utf8');
  expect(clones.filter(({ sku }) => text.split(`>${sku}<`).length !== 2)).toEqual([]);
  expect((await due(feed)).counts.unchanged).toBe(
    entries.filter(({ answer }) => answer === 'accepted').length,
  );

  // As a submission stands that was sent before files were kept: its file is made again, with every listing once.
  await db.delete(batch).where(eq(batch.submissionId, id));
  await db.update(submissionEntry).set({ position: 0 }).where(eq(submissionEntry.submissionId, id));
  const { files, again } = await submissionFiles(id);
  const stage = await sendStage((await loadFeedContext(feed)) as FeedContext, {
    submission: id,
    show: undefined,
    find: undefined,
  });
  expect([files, stage.submissions.find((one) => one.id === id)?.files]).toEqual([[], 1]);
  const pieces: Uint8Array[] = [];
  for await (const piece of again ?? []) pieces.push(piece);
  const sorted = (file: string) =>
    file
      .replace(/<\/feed>\s*$/, '')
      .trim()
      .split(/\s*<entry>/)
      .slice(1)
      .sort();
  expect(sorted(Buffer.concat(pieces).toString())).toEqual(sorted(text));
});

test('the ledger is read again where anything was written, also what is seen after something younger', async () => {
  await send(feed);
  const before = await ledgerOf(feed);
  expect(await ledgerOf(feed)).toBe(before);
  const [first, second] = [...before.keys()];
  if (!first || !second) throw new Error('nothing is there');
  const latest = Math.max(
    ...(await db.select().from(ledger).where(eq(ledger.feed, feed))).map(({ changedAt }) =>
      changedAt.getTime(),
    ),
  );
  const write = (sku: string, number: string, at: number) =>
    db.transaction(async (tx) => {
      const revision = await raiseLedgerRevision(tx, feed);
      await tx
        .update(ledger)
        .set({ number, changedAt: new Date(at), revision })
        .where(and(eq(ledger.feed, feed), eq(ledger.sku, sku)));
    });
  await write(first, 'written last', latest + 5000);
  const after = await ledgerOf(feed);
  expect([after.get(first)?.number, await ledgerOf(feed)]).toEqual(['written last', after]);
  // Another process began to write before, and ended later.
  await write(second, 'written before', latest + 4000);
  const again = await ledgerOf(feed);
  expect(again).not.toBe(after);
  expect([again.get(first)?.number, again.get(second)?.number]).toEqual(['written last', 'written before']);
  expect(await ledgerOf(feed)).toBe(again);
});

test('what was refused is sent again once it is mended, with the rest of the file and nothing else as new', async () => {
  await send(feed);
  await editCells([{ sku: 'QM-POT-RDG-TER-10', attribute: 'gtin', text: '9520000099992' }]);
  const now = await due(feed);
  expect([now.counts.mended, now.counts.changed]).toEqual([1, 0]);
  const id = await send(feed);
  expect((await entriesOf(id)).filter(({ due: what }) => what === 'mended')).toHaveLength(1);
  const after = await due(feed);
  // The other one was refused for having the same number; it stood in the same file, and is right by now too.
  expect([now.counts.refused, after.counts.refused]).toEqual([1, 0]);
});

test('a rule asks how a listing stands at the channel, and follows what it answers', async () => {
  const change = async (edit: PlanEdit) => {
    const { revision = 0 } = (await feedPlans(feed)) ?? {};
    const done = await editDraft(feed, revision, edit);
    if (!done.ok) throw new Error(done.reason);
    await publishDraft(feed, done.revision, 'a trial');
  };
  const leaves = (id: string, value: string): PlanEdit => ({
    edit: 'addRule',
    rule: {
      id,
      name: 'As it stands',
      on: true,
      when: { fact: 'standing', is: 'equals', value },
      then: [{ do: 'leaveOut', reason: `it is ${value}` }],
    },
  });
  /** The items that are left out for how they stand, as they are kept and as an evaluation from nothing says. */
  const leftOut = async () => {
    await evaluateFeeds();
    const rows = await db
      .select({ sku: feedListing.sku, reason: feedListing.reason })
      .from(feedListing)
      .where(and(eq(feedListing.feed, feed), like(feedListing.reason, 'it is %')))
      .orderBy(asc(feedListing.sku));
    const { published } = (await loadFeedContext(feed)) ?? {};
    const whole = [...(published?.listings ?? [])].filter(({ reason }) => reason?.startsWith('it is '));
    expect(
      whole.map(({ sku, reason }) => ({ sku, reason })).sort((a, b) => (a.sku < b.sku ? -1 : 1)),
    ).toEqual(rows);
    return rows.map(({ sku, reason }) => `${sku} ${reason}`);
  };
  await change(leaves('rule-50', 'refused'));
  expect(await leftOut()).toEqual([]);
  await send(feed);
  const refused = ['QM-POT-RDG-TER-10 it is refused', 'QM-POT-RDG-TER-14 it is refused'];
  expect(await leftOut()).toEqual(refused);
  expect((await due(feed)).counts.refused).toBe(0);
  // Nothing else is left out by a rule on what the channel has taken back.
  await change(leaves('rule-51', 'back'));
  expect(await leftOut()).toEqual(refused);
  await change({ edit: 'removeRule', id: 'rule-50' });
  expect(await leftOut()).toEqual([]);
  // What mends a refused listing because it was refused lasts until it is accepted: that is said before it happens.
  const writes = (id: string, value: ChannelStatus): PlanEdit => ({
    edit: 'addRule',
    rule: {
      id,
      name: `Written while ${value}`,
      on: true,
      when: { fact: 'standing', is: 'equals', value },
      then: [{ do: 'set', field: 'brand', text: `Mended ${id}` }],
    },
  });
  await change(writes('rule-52', 'refused'));
  await change(writes('rule-53', 'there'));
  const work = await loadFeedContext(feed);
  if (!work) throw new Error('no feed');
  const remarks = new Map(
    (await rulesStage(work, undefined)).rules.map(({ rule, remarks: own }) => [rule.id, own]),
  );
  expect(remarks.get('rule-52')).toContainEqual({
    remark: 'goesBack',
    words: 'is undone on 2 of 2 once the channel accepts them, because it asks for their state there',
  });
  expect(remarks.get('rule-53')?.map(({ remark }) => remark)).not.toContain('goesBack');
});

test('one listing sent by itself takes no other along, in a file that holds all too', async () => {
  await send(feed);
  const [one, other, going] = ['QM-POT-RDG-CHA-14', 'QM-POT-RDG-CHA-18', 'QM-POT-RDG-CHA-10'];
  await editCells([
    { sku: one, attribute: 'price', text: '25.10' },
    { sku: other, attribute: 'price', text: '33.30' },
  ]);
  await archiveItems([going], true);
  const id = await send(feed, { only: [one] });
  const { lanternry } = await channels.state();
  const price = (sku: string) => lanternry?.listings[`DE ${sku}`]?.row.price?.[0];
  expect(price(one)).toBe('25.10 EUR');
  // The others are there as they were; what is due of them is still due.
  expect(price(other)).not.toBe('33.30 EUR');
  expect(price(going)).toBeDefined();
  expect((await due(feed)).counts).toMatchObject({ changed: 1, withdraw: 1 });
  expect(await findSubmission(id)).toMatchObject({ state: 'answered', refused: 2 });
});

test('the file is what was written down, not what the catalog says now', async () => {
  const result = await sendFeed(feed);
  if (!result.ok) throw new Error(result.reason);
  const [first, second] = await entriesOf(result.submission);
  await editCells([{ sku: first?.sku ?? '', attribute: 'name', text: 'Another name for it' }]);
  await archiveItems([second?.sku ?? ''], true);
  await untilAnswered(result.submission);
  const [file] = await db.select().from(batch).where(eq(batch.submissionId, result.submission));
  const text = readFileSync(pathOfStored(file?.file ?? ''), 'utf8');
  expect(text).not.toContain('Another name for it');
  expect(text.match(/<entry>/g)).toHaveLength(result.count);
  // Both are found by comparing: one changed, one gone.
  const now = await due(feed);
  expect([now.counts.changed, now.counts.withdraw]).toEqual([1, 1]);
  await send(feed);
  const { lanternry } = await channels.state();
  expect(Object.keys(lanternry?.listings ?? {})).not.toContain(`DE ${second?.sku}`);
  expect((await ledgerOf(feed)).get(second?.sku ?? '')).toMatchObject({ held: undefined, withdrawn: true });
});

test('a submission that does not exist is refused for good', async () => {
  await expect(sendSubmission(999_999)).rejects.toThrow(FinalRefusal);
});

describe('held back', () => {
  beforeEach(() => addDemoFeeds('demo'));

  /** All of a submission is held where single listings are in doubt. */
  const holdAll = async () => {
    const { revision } = await destinationView({ code: orrin, channel: 'orrin-bazaar' });
    await editDestination(orrin, revision, { set: 'hold', hold: 'all' });
  };

  test('single doubtful prices wait for a person with their families, and the rest is sent', async () => {
    const before = await due(orrin);
    const doubtful = listingsForReview(before);
    const byPrice = [...doubtful].filter(([, doubt]) => doubt === 'prices');
    expect(byPrice.length).toBeGreaterThanOrEqual(3);
    const result = await sendFeed(orrin);
    expect(result).toMatchObject({ ok: true, held: false, doubtful: doubtful.size });
    const id = result.ok ? result.submission : 0;
    await untilAnswered(id);
    const sent = new Set(
      (await entriesOf(id)).filter(({ due: what }) => what !== 'left').map(({ sku }) => sku),
    );
    expect([...doubtful.keys()].filter((sku) => sent.has(sku))).toEqual([]);
    expect(sent.size).toBe(toSendCount(before) - doubtful.size);
    const told = async () => (await listNotifications()).filter(({ kind }) => kind === 'listingsHeld').length;
    expect(await told()).toBe(1);

    // What is left is in doubt: nothing is sent, and it is told once.
    // Until there is nothing else: what is held is never taken along, and is told once.
    for (;;) {
      const again = await sendFeed(orrin, 'due', 'schedule');
      if (!again.ok) {
        expect(again.reason).toBe('doubtful');
        break;
      }
      await untilAnswered(again.submission);
      const skus = (await entriesOf(again.submission)).map(({ sku }) => sku);
      expect(skus.filter((sku) => doubtful.has(sku))).toEqual([]);
    }
    expect(await told()).toBe(1);
    const stage = await sendStage((await loadFeedContext(orrin)) as FeedContext, {
      submission: undefined,
      show: undefined,
      find: undefined,
    });
    expect(stage.doubtful.count).toBe(doubtful.size);

    const released = await sendHeldListings(orrin, 'the lights are on sale');
    expect(released).toMatchObject({ ok: true, count: doubtful.size });
    const gone = (await entriesOf(released.ok ? released.submission : 0)).map(({ sku }) => sku);
    expect([...doubtful.keys()].filter((sku) => !gone.includes(sku))).toEqual([]);
  });

  test('a file that holds all keeps what the channel has of a doubtful listing', async () => {
    await send(feed);
    const sku = 'QM-POT-RDG-CHA-14';
    await editCells([
      { sku, attribute: 'price', text: '2490.00 EUR' },
      { sku: 'QM-POT-RDG-CHA-18', attribute: 'price', text: '33.90 EUR' },
    ]);
    const result = await sendFeed(feed);
    expect(result).toMatchObject({ ok: true, held: false, doubtful: 1 });
    const entries = await entriesOf(result.ok ? result.submission : 0);
    expect(entries.find((one) => one.sku === sku)).toMatchObject({ due: 'left' });
    expect(JSON.stringify(entries.find((one) => one.sku === sku)?.values)).not.toContain('2490');
    expect(entries.find((one) => one.sku === 'QM-POT-RDG-CHA-18')).toMatchObject({ due: 'changed' });

    // Then only the doubtful one is due: rejected listings that would go along do not send the whole file again.
    await untilAnswered(result.ok ? result.submission : 0);
    expect((await due(feed)).counts.refused).toBeGreaterThan(0);
    expect(await sendFeed(feed)).toEqual({ ok: false, reason: 'doubtful' });
  });

  test('what looks wrong stays until somebody says that it is right; nothing is on its way before', async () => {
    await holdAll();
    const result = await sendFeed(orrin);
    expect(result).toMatchObject({ ok: true, held: true });
    const id = result.ok ? result.submission : 0;
    expect(await sendSubmission(id)).toBeUndefined();
    expect((await channels.state())['orrin-bazaar']?.arrivals).toEqual([]);
    expect((await due(orrin)).counts.waiting).toBe(0);
    expect(await sendFeed(orrin)).toEqual({ ok: false, reason: 'underWay' });
    expect(await findSubmission(id)).toMatchObject({ alarms: [{ alarm: 'prices', count: 3 }] });
    await releaseSubmission(id, 'the lights are on sale');
    await expect(releaseSubmission(id, 'twice')).rejects.toThrow('no longer held for review');
    await untilAnswered(id);
    expect(await findSubmission(id)).toMatchObject({
      state: 'answered',
      releasedBy: 'owner',
      releaseWords: 'the lights are on sale',
    });
    // Three were taken back by a row each; leads went along with their members.
    const entries = await entriesOf(id);
    expect(entries.filter(({ answer }) => answer === 'withdrawn')).toHaveLength(3);
    const [file] = await db.select().from(batch).where(eq(batch.submissionId, id));
    const text = readFileSync(pathOfStored(file?.file ?? ''), 'utf8');
    expect(text.split('\n')[0]).toContain('action\trelation');
    expect(text.match(/\tdelete\t/g)).toHaveLength(3);
  });

  test('the file that is looked at is the one that would leave: leads, what each row is for, what is taken back', async () => {
    const work = await loadFeedContext(orrin);
    if (!work) throw new Error('the feed is gone');
    const view = await fileView(work);
    const codes = view.columns.map(({ name }) => name);
    expect(codes.slice(-2)).toEqual(['action', 'relation']);
    expect(view.rows.map(({ cells }) => cells.at(-2))).toEqual(expect.arrayContaining(['update', 'delete']));
    const { pieces } = await wholeFile(work);
    let text = '';
    for await (const piece of pieces) text += Buffer.from(piece).toString();
    const lines = text
      .split('\r\n')
      .slice(1)
      .filter((line) => line !== '');
    expect(lines.filter((line) => line.includes('\tdelete\t'))).toHaveLength(3);
    expect(lines.filter((line) => line.endsWith('\tupdate\tmember')).length).toBeGreaterThan(0);
    expect(lines).toHaveLength(view.count);
  });

  test('dropping it leaves everything as it was', async () => {
    await holdAll();
    const before = (await due(orrin)).counts;
    const result = await sendFeed(orrin);
    await dropSubmission(result.ok ? result.submission : 0);
    expect((await due(orrin)).counts).toEqual(before);
    expect((await sendFeed(orrin)).ok).toBe(true);
  });

  test('limits are the feed’s; a wider one lets it go', async () => {
    const { revision } = await destinationView({ code: orrin, channel: 'orrin-bazaar' });
    await editDestination(orrin, revision, { set: 'limit', limit: 'price', value: 95 });
    await expect(
      editDestination(orrin, revision, { set: 'limit', limit: 'price', value: 1 }),
    ).rejects.toThrow('Someone else changed');
    expect(await sendFeed(orrin)).toMatchObject({ ok: true, held: false });
  });

  test('the stage shows what changes, largest prices first, and what is held back and why', async () => {
    const work = await loadFeedContext(orrin);
    if (!work) throw new Error('the feed is gone');
    const stage = await sendStage(work, { submission: undefined, show: undefined, find: undefined });
    expect(stage.tabs.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['offer_price', 'all', 'new', 'withdraw']),
    );
    expect(stage.lines.slice(0, 3).map(({ change }) => change)).toEqual([-90, -90, -90]);
    expect(stage.alarms).toEqual([]);
    expect(stage.doubtful.reasons[0]).toMatch(/^the price changes by more than 50 %: /);
    const found = await sendStage(work, { submission: undefined, show: 'all', find: 'vr-lgt' });
    expect(found.matching).toBe(3);
  });
});

describe('blocked listings that the channel has', () => {
  test('are left as they are, in a file that holds all too, or taken back: the merchant says', async () => {
    await send(feed);
    const sku = 'QM-POT-RDG-CHA-14';
    await editCells([{ sku, attribute: 'url', text: '/only-a-path' }]);
    expect((await due(feed)).counts).toMatchObject({ left: 1, withdraw: 0 });
    await send(feed, 'everything');
    expect(Object.keys((await channels.state()).lanternry?.listings ?? {})).toContain(`DE ${sku}`);
    const { revision } = await destinationView({ code: feed, channel: 'lanternry' });
    await editDestination(feed, revision, { set: 'ofBlocked', ofBlocked: 'withdraw' });
    expect((await due(feed)).counts).toMatchObject({ left: 0, withdraw: 1 });
    await send(feed);
    expect(Object.keys((await channels.state()).lanternry?.listings ?? {})).not.toContain(`DE ${sku}`);
  });
});

describe('on the way', () => {
  beforeEach(() => addDemoFeeds('demo'));

  test('paused, it sends nothing more; it goes on where it was; stopped, the rest can be sent again', async () => {
    await send('own-shop-de', 'everything').catch(() => undefined);
    const boards = 'tessel-boards-de';
    const result = await sendFeed(boards);
    if (!result.ok) throw new Error(result.reason);
    await sendSubmission(result.submission);
    await pauseSubmission(result.submission);
    const arrived = async () => (await channels.state())['tessel-boards']?.arrivals.length ?? 0;
    const before = await arrived();
    expect(await sendSubmission(result.submission)).toBeUndefined();
    expect(await arrived()).toBe(before);
    await resumeSubmission(result.submission);
    await sendSubmission(result.submission);
    await stopSubmission(result.submission);
    await untilAnswered(result.submission);
    const entries = await entriesOf(result.submission);
    const stopped = entries.filter(({ answer }) => answer === 'failed').length;
    expect(stopped).toBeGreaterThan(0);
    expect(await findSubmission(result.submission)).toMatchObject({ state: 'answered' });
    expect((await due(boards)).counts.new).toBe(stopped);
  });

  test('without its credentials a channel lets nothing in: it waits for a person and forgets nothing', async () => {
    const boards = 'tessel-boards-de';
    await db.update(destination).set({ credential: null }).where(eq(destination.feed, boards));
    const result = await sendFeed(boards);
    if (!result.ok) throw new Error(result.reason);
    await untilAnswered(result.submission);
    expect(await findSubmission(result.submission)).toMatchObject({
      state: 'paused',
      error: expect.stringContaining('Connect an account first.'),
    });
    const { revision } = await destinationView({ code: boards, channel: 'tessel-boards' });
    await editDestination(boards, revision, { set: 'credential', credential: 'quillmoss-boards' });
    const view = await destinationView({ code: boards, channel: 'tessel-boards' });
    expect(view).toMatchObject({ hasCredential: true });
    expect(JSON.stringify(view)).not.toContain('quillmoss-boards');
    const [row] = await db.select().from(destination).where(eq(destination.feed, boards));
    expect(row?.credential).not.toContain('quillmoss');
  });

  test('at the test account all is answered, and what the channel is known to have stays', async () => {
    const set = async (code: string, channel: string, edit: Parameters<typeof editDestination>[2]) =>
      editDestination(code, (await destinationView({ code, channel })).revision, edit);
    await set(orrin, 'orrin-bazaar', { set: 'testing', on: true });
    const [before, ledger, live] = [await due(orrin), await ledgerOf(orrin), await channels.state()];
    const figures = await insights(2);
    expect(toSendCount(before)).toBeGreaterThan(0);
    const id = await send(orrin);
    const tried = await findSubmission(id);
    expect(tried).toMatchObject({ state: 'answered', cause: 'test', total: toSendCount(before) });
    expect((tried?.accepted ?? 0) + (tried?.refused ?? 0)).toBeGreaterThan(0);
    const state = await channels.state();
    expect(Object.keys(state['orrin-bazaar/test']?.listings ?? {})).toHaveLength(tried?.accepted ?? 0);
    expect(state['orrin-bazaar']).toEqual(live['orrin-bazaar']);
    expect(await ledgerOf(orrin)).toBe(ledger);
    expect((await due(orrin)).counts).toEqual(before.counts);
    // Nothing goes there by itself, and going back would change what shoppers see.
    expect(await sendFeed(orrin, 'due', 'schedule')).toEqual({ ok: false, reason: 'testing' });
    await expect(restoreEarlier(orrin, id, 'a try')).rejects.toThrow();
    expect(await insights(2)).toEqual(figures);
    await set(orrin, 'orrin-bazaar', { set: 'testing', on: false });
    expect((await findSubmission(await send(orrin)))?.accepted).toBe(tried?.accepted);
    // A channel that fetches has one address.
    await expect(set(feed, 'lanternry', { set: 'testing', on: true })).rejects.toThrow(/Check the file/);
  });

  test('saved as drafts nobody sees them; a person sends them for review, and one that expired is new again', async () => {
    const stall = 'flickerstall-de-en';
    const [first = '', second = ''] = (await due(stall)).listings.flatMap(({ sku, out, due: what }) =>
      out && what === 'unchanged' ? [sku] : [],
    );
    await editCells([first, second].map((sku) => ({ sku, attribute: 'price', text: '41.50 EUR' })));
    const held = async () => (await channels.state()).flickerstall;
    const before = await held();
    const { counts, listings } = await due(stall);
    const id = await send(stall, 'asDrafts');
    expect(await findSubmission(id)).toMatchObject({ cause: 'draft', state: 'answered', refused: 0 });
    const saved = listings.filter(({ due: what }) => toPut.has(what)).map(({ sku }) => sku);
    expect(saved).toEqual(expect.arrayContaining([first, second]));
    expect((await entriesOf(id)).map(({ answer }) => answer)).toEqual(saved.map(() => 'drafted'));
    expect(Object.keys((await held())?.drafts ?? {}).sort()).toEqual([...saved].sort());
    expect((await held())?.listings).toEqual(before?.listings);
    expect((await due(stall)).counts).toMatchObject({
      drafted: saved.length,
      unchanged: counts.unchanged,
      new: 0,
      changed: 0,
    });
    // Its hour does not send them: a person does.
    expect(counts.withdraw).toBe(0);
    expect(await sendFeed(stall, 'due', 'schedule')).toMatchObject({ ok: false });
    // After thirty days it has thrown them away.
    const wanted = async () => (await due(stall)).listings.find(({ sku }) => sku === first)?.due;
    await db
      .update(submission)
      .set({ answeredAt: new Date(Date.now() - 31 * 86_400_000) })
      .where(eq(submission.id, id));
    expect(await wanted()).toBe('changed');
    await db.update(submission).set({ answeredAt: new Date() }).where(eq(submission.id, id));
    expect(await wanted()).toBe('drafted');
    const work = await loadFeedContext(stall);
    if (!work) throw new Error('no feed');
    const stage = await sendStage(work, { submission: undefined, show: 'drafted', find: undefined });
    expect(stage).toMatchObject({ takesDrafts: true, drafts: saved.length, tab: 'drafted' });
    await send(stall, 'drafts');
    expect((await due(stall)).counts).toMatchObject({ drafted: 0 });
    expect((await held())?.drafts).toEqual({});
    expect((await ledgerOf(stall)).get(first)).toMatchObject({ held: expect.anything(), draft: undefined });
  });

  test('an address inside the network is no destination', async () => {
    const { revision } = await destinationView({ code: feed, channel: 'lanternry' });
    await expect(
      editDestination(feed, revision, { set: 'address', address: 'http://127.0.0.1:9/x' }),
    ).rejects.toThrow(/own network|inside/i);
  });

  test('what a review says later is taken in later', async () => {
    const stall = 'flickerstall-de-en';
    const [one] = (await due(stall)).listings.flatMap(({ sku, out }) => (out ? [sku] : []));
    await editCells([
      {
        sku: one ?? '',
        attribute: 'description',
        text: `<p>A miracle for every room. ${'It grows and grows. '.repeat(5)}</p>`,
      },
    ]);
    const id = await send(stall, { only: [one ?? ''] });
    const [entry] = await entriesOf(id);
    expect(entry).toMatchObject({
      answer: 'refused',
      problems: [{ code: '51007', text: 'Reviewed and refused: it promises too much' }],
    });
    const kept = (await ledgerOf(stall)).get(one ?? '');
    // What was accepted earlier is still there.
    expect(kept).toMatchObject({ held: expect.anything(), inReview: false });
  });
});

test('what is taken back by calls goes a call a turn: the rate holds for it too', async () => {
  await addDemoFeeds('demo');
  const stall = 'flickerstall-de-en';
  const known = (await due(stall)).listings.filter(({ due: what }) => what === 'unchanged').slice(0, 3);
  await archiveItems(
    known.map(({ sku }) => sku),
    true,
  );
  const id = await send(stall, { only: known.map(({ sku }) => sku) });
  const batches = await db.select().from(batch).where(eq(batch.submissionId, id));
  expect(batches.map(({ count, state }) => [count, state])).toEqual(known.map(() => [1, 'answered']));
  expect((await entriesOf(id)).map(({ answer }) => answer)).toEqual(known.map(() => 'withdrawn'));
  expect((await due(stall)).counts.withdraw).toBe(0);
});

describe('a channel without a way out', () => {
  test('ends in a file; its answer is brought in, line by line or for all', async () => {
    await addDemoFeeds('demo');
    const { sheetVersion } = await import('@/server/db/schema');
    const [row] = await db.select().from(sheetVersion).where(eq(sheetVersion.channel, 'plazuela-norte'));
    if (!row) throw new Error('no sheet');
    await db
      .update(sheetVersion)
      .set({
        sheet: { ...row.sheet, delivery: { ...row.sheet.delivery, manner: 'byHand' } },
        revision: row.revision + 1,
      })
      .where(eq(sheetVersion.channel, 'plazuela-norte'));
    const market = 'plazuela-norte-es';
    const result = await sendFeed(market);
    if (!result.ok) throw new Error(result.reason);
    await untilAnswered(result.submission);
    expect(await findSubmission(result.submission)).toMatchObject({ state: 'waiting' });
    const [first, second] = await entriesOf(result.submission);
    const answer = await answersFromFile(
      result.submission,
      `key;result;problem\r\n${first?.ref};ok;\r\n${second?.ref};rejected;No stock\r\nSOMEBODY;ok;\r\n`,
    );
    expect(answer).toEqual({ read: 3, rest: result.count - 2 });
    expect(await answersOfAll(result.submission, 'accepted')).toBe(0);
    expect(await findSubmission(result.submission)).toMatchObject({ state: 'answered', refused: 1 });
  });

  test.each([
    ['name;result\nA;ok', 'a column “key”'],
    ['key,result\nA,maybe', 'line 2 says “maybe”'],
    ['key,result\n,ok', 'line 2 says no key'],
    ['"key,result', 'cannot be read'],
  ])('%j is refused with the place', (text, words) => {
    expect(() => answersInTable(text)).toThrow(words);
  });

  test('several lines of one listing are its several problems', () => {
    expect(answersInTable('sku\tstatus\tmessage\nA\tfailed\tx\nA\tfailed\ty\nB\tlive\t')).toMatchObject([
      { key: 'A', result: 'refused', problems: [{ text: 'x' }, { text: 'y' }] },
      { key: 'B', result: 'accepted', problems: [] },
    ]);
  });
});

describe('the address at which a channel fetches', () => {
  const token = async () => {
    const [row] = await db.select().from(destination).where(eq(destination.feed, feed));
    return row?.token ?? '';
  };
  const fetchWith = async (headers: Record<string, string> = {}, given?: string) =>
    answerFetch(feed, given ?? (await token()), new Request('http://here/', { headers }));

  test('gives the last file whole, says what has not changed, and parts of it (RFC 9110)', async () => {
    await send(feed);
    const whole = await fetchWith();
    const text = await whole.text();
    expect(text).toContain('<feed');
    expect(whole.headers.get('content-length')).toBe(String(Buffer.byteLength(text)));
    const etag = whole.headers.get('etag') ?? '';
    expect((await fetchWith({ 'if-none-match': etag })).status).toBe(304);
    expect((await fetchWith({ 'if-none-match': `"x", W/${etag}` })).status).toBe(304);
    expect((await fetchWith({ 'if-none-match': '"other"' })).status).toBe(200);
    expect((await fetchWith({ 'if-modified-since': whole.headers.get('last-modified') ?? '' })).status).toBe(
      304,
    );
    const part = await fetchWith({ range: 'bytes=5-14' });
    expect([part.status, await part.text(), part.headers.get('content-range')]).toEqual([
      206,
      text.slice(5, 15),
      `bytes 5-14/${Buffer.byteLength(text)}`,
    ]);
    expect((await fetchWith({ range: 'bytes=99999999-' })).status).toBe(416);
    // A part of what is not there any more is no part: all of what is.
    expect((await fetchWith({ range: 'bytes=0-4', 'if-range': '"old"' })).status).toBe(200);
  });

  test('is known by its token alone, which can be withdrawn', async () => {
    await send(feed);
    expect((await fetchWith({}, 'f'.repeat(48))).status).toBe(404);
    expect((await fetchWith({}, '')).status).toBe(404);
    const old = await token();
    const { revision } = await destinationView({ code: feed, channel: 'lanternry' });
    await editDestination(feed, revision, { set: 'token' });
    expect((await fetchWith({}, old)).status).toBe(404);
    expect((await fetchWith()).status).toBe(200);
  });

  test('keeps the last ten files', async () => {
    const sku = 'QM-POT-RDG-CHA-14';
    for (let at = 0; at < 12; at++) {
      await editCells([{ sku, attribute: 'price', text: `${20 + at / 10}` }]);
      await send(feed);
    }
    expect((await db.select().from(publication)).map(({ number }) => number)).toEqual([
      3, 4, 5, 6, 7, 8, 9, 10, 11, 12,
    ]);
  });

  test.each([
    ['bytes=0-0', { start: 0, end: 0 }],
    ['bytes=-3', { start: 7, end: 9 }],
    ['bytes=4-', { start: 4, end: 9 }],
    ['bytes=4-99', { start: 4, end: 9 }],
    ['bytes=10-', null],
    ['bytes=5-2', null],
    ['bytes=-', undefined],
    ['items=0-1', undefined],
    ['bytes=0-1,3-4', undefined],
  ])('of ten bytes %s', (header, expected) => {
    expect(rangeOf(header, 10)).toEqual(expected);
  });
});

test('a sheet that changes while something is on its way does not change what leaves', async () => {
  const plans = await feedPlans(feed);
  const result = await sendFeed(feed);
  if (!result.ok) throw new Error(result.reason);
  await editDraft(feed, plans?.revision ?? 0, { edit: 'fields', fields: { about: null } });
  await publishDraft(feed, (plans?.revision ?? 0) + 1, 'no texts');
  await untilAnswered(result.submission);
  const [file] = await db.select().from(batch).where(eq(batch.submissionId, result.submission));
  expect(readFileSync(pathOfStored(file?.file ?? ''), 'utf8')).toContain('<c:about>');
});

test('a feed’s file can be looked at before it leaves: its rows with their items, its beginning, and all of it', async () => {
  const work = await loadFeedContext('lanternry-de');
  if (!work) throw new Error('the feed is gone');
  const view = await fileView(work);
  const ready = [...work.published.listings].filter(({ state }) => state === 'ready');
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

describe('prices and stock by themselves', () => {
  test('only they leave where nothing else has changed, and the rest stays as the channel has it', async () => {
    await addDemoFeeds('demo');
    const { revision } = await destinationView({ code: orrin, channel: 'orrin-bazaar' });
    await editDestination(orrin, revision, { set: 'limit', limit: 'price', value: 95 });
    // The simulated channel was told to forget, so it is sent everything first.
    await send(orrin, 'everything');
    const sku = 'QM-POT-RDG-CHA-14';
    await editCells([{ sku, attribute: 'price', text: '26.40' }]);
    const id = await send(orrin);
    const [entry] = (await entriesOf(id)).filter((one) => one.sku === sku);
    expect(entry).toMatchObject({ quick: true, answer: 'accepted' });
    const [file] = await db.select().from(batch).where(eq(batch.submissionId, id));
    expect(readFileSync(pathOfStored(file?.file ?? ''), 'utf8').split('\r\n')).toEqual([
      'offer_code\toffer_price\tstock_state\tquantity',
      `${sku}\t26.40 EUR\tin_stock\t65`,
      '',
    ]);
    const held = (await channels.state())['orrin-bazaar']?.listings[sku]?.row;
    expect([held?.offer_price, held?.entry_name?.[0]]).toEqual([
      ['26.40 EUR'],
      expect.stringContaining('Ridge pot'),
    ]);
  });

  test('of what the channel does not know all is sent the next time, and a name that changes sends all of it', async () => {
    await addDemoFeeds('demo');
    const sku = 'QM-POT-RDG-CHA-14';
    await editCells([{ sku, attribute: 'price', text: '24.80' }]);
    const first = await send(orrin, { only: [sku] });
    expect(await entriesOf(first)).toMatchObject([
      { sku, quick: true, answer: 'refused', problems: [{ code: 'OB-404' }] },
    ]);
    expect((await due(orrin)).listings.find((one) => one.sku === sku)?.due).toBe('again');
    const second = await send(orrin, { only: [sku] });
    expect((await entriesOf(second)).every(({ quick }) => !quick)).toBe(true);
    const other = 'QM-POT-RDG-CHA-18';
    await editCells([{ sku: other, attribute: 'name', text: 'Ridge pot, now taller' }]);
    const third = await send(orrin, { only: [other] });
    expect((await entriesOf(third)).every(({ quick }) => !quick)).toBe(true);
  });
});
