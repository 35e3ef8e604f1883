import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { batch, rateLimit, sheetVersion, submission, submissionEntry } from '@/server/db/schema';
import { settings } from '@/server/runtime/settings';
import { collectReport, failSubmission, sendSubmission } from '@/server/submissions/delivery';
import { dueOn } from '@/server/submissions/due';
import { findSubmission, sendFeed } from '@/server/submissions/submissions';
import { closeDatabase, freshDemo } from '../support/stack';

/** A channel that answers as each test says. */
let channel: Server;
let say: (request: IncomingMessage, response: ServerResponse) => void;
const posts: string[] = [];

const json = (response: ServerResponse, status: number, body: unknown, headers = {}) =>
  response.writeHead(status, { 'content-type': 'application/json', ...headers }).end(JSON.stringify(body));

beforeAll(async () => {
  channel = createServer((request, response) => {
    if (request.method === 'POST') posts.push(String(request.headers['idempotency-key']));
    request.resume().on('end', () => say(request, response));
  });
  await new Promise<void>((resolve, reject) => {
    channel.once('error', reject);
    channel.listen(Number(process.env.LIVELY_SIMULATORS_PORT ?? 3461), '127.0.0.1', resolve);
  });
});
beforeEach(async () => {
  posts.length = 0;
  settings.haste = 600;
  await freshDemo();
});
afterAll(async () => {
  channel.closeAllConnections();
  channel.close();
  await closeDatabase();
});

const feed = 'lanternry-de';
async function begun(): Promise<number> {
  const result = await sendFeed(feed);
  if (!result.ok) throw new Error(result.reason);
  return result.submission;
}
const batchOf = async (id: number) => (await db.select().from(batch).where(eq(batch.submissionId, id)))[0];
const entriesOf = (id: number) =>
  db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, id)).orderBy(submissionEntry.sku);
const taken = (_request: IncomingMessage, response: ServerResponse) => json(response, 202, { id: 'r1' });
/** The next try, its pause taken for over. */
async function tryAgain(id: number): Promise<number | undefined> {
  await db.update(rateLimit).set({ closedUntil: null, times: [] });
  return sendSubmission(id);
}

async function waiting(): Promise<number> {
  const id = await begun();
  say = taken;
  await sendSubmission(id);
  expect(await findSubmission(id)).toMatchObject({ state: 'waiting' });
  return id;
}

describe('a file that cannot be handed over', () => {
  test.each([
    ['the channel is down', 503, { 'retry-after': '3' }],
    ['too many files', 429, {}],
    ['the channel stumbles', 500, {}],
    ['suspended for a while', 403, { 'retry-after': '3' }],
  ])('%s: it is tried again with the same key, and goes out once', async (_name, status, headers) => {
    const id = await begun();
    say = (_request, response) => json(response, status, { error: 'later' }, headers);
    const wait = await sendSubmission(id);
    expect(wait).toBeGreaterThanOrEqual('retry-after' in headers ? 3000 : 1);
    expect(await findSubmission(id)).toMatchObject({
      state: 'sending',
      error: expect.stringContaining(`The channel answered ${status}`),
    });
    expect(await batchOf(id)).toMatchObject({ state: 'checked', receipt: null });
    say = taken;
    await tryAgain(id);
    expect(await batchOf(id)).toMatchObject({ state: 'sent', receipt: 'r1', error: null });
    expect(new Set(posts).size).toBe(1);
  });

  test('the connection breaks before the answer: nothing is known, so it is sent again with the same key', async () => {
    const id = await begun();
    say = (request) => request.socket.destroy();
    expect(await sendSubmission(id)).toBeGreaterThan(0);
    say = taken;
    await tryAgain(id);
    expect(await findSubmission(id)).toMatchObject({ state: 'waiting' });
    expect(new Set(posts).size).toBe(1);
  });

  test('an answer larger than is read says nothing: the file may have been taken, so it is sent again with the same key', async () => {
    const id = await begun();
    say = (_request, response) => {
      response.writeHead(202, { 'content-type': 'application/json' });
      const piece = Buffer.alloc(1024 * 1024, 'x');
      const more = (left: number): void => {
        if (left === 0 || response.destroyed) return void response.end();
        response.write(piece, () => more(left - 1));
      };
      more(70);
    };
    expect(await sendSubmission(id)).toBeGreaterThan(0);
    expect(await batchOf(id)).toMatchObject({ state: 'checked' });
    expect(await findSubmission(id)).toMatchObject({ state: 'sending' });
    say = taken;
    await tryAgain(id);
    expect(await findSubmission(id)).toMatchObject({ state: 'waiting' });
    expect(new Set(posts).size).toBe(1);
  });

  test('where it must not be sent twice, a broken connection ends it, and it is said that nobody knows', async () => {
    const [sheet] = await db.select().from(sheetVersion).where(eq(sheetVersion.channel, 'lanternry'));
    if (!sheet) throw new Error('no sheet');
    await db
      .update(sheetVersion)
      .set({
        sheet: { ...sheet.sheet, delivery: { ...sheet.sheet.delivery, repeatable: 'no' } },
        revision: sheet.revision + 1,
      })
      .where(eq(sheetVersion.version, sheet.version));
    const id = await begun();
    say = (request) => request.socket.destroy();
    await sendSubmission(id);
    expect(await batchOf(id)).toMatchObject({ state: 'lost' });
    await collectReport(id);
    expect(posts).toHaveLength(1);
    // What came of it, and what the channel did last.
    expect(await findSubmission(id)).toMatchObject({
      state: 'answered',
      error: expect.stringMatching(/^The connection broke before the answer.* unknown/),
    });
    const due = await dueOn(feed);
    expect(due?.counts.again).toBe((await entriesOf(id)).length);
  });

  test.each([
    ['a receipt that is none', 202, { ok: true }],
    ['an answer that is no JSON', 202, undefined],
  ])('%s: nothing is taken for sent', async (_name, status, body) => {
    const id = await begun();
    say = (_request, response) =>
      body ? json(response, status, body) : response.writeHead(status).end('<html>busy</html>');
    expect(await sendSubmission(id)).toBeGreaterThan(0);
    expect(await batchOf(id)).toMatchObject({ state: 'checked', receipt: null });
  });

  test('a refusal is final, in the channel’s own words; its listings count as not sent', async () => {
    const id = await begun();
    say = (_request, response) => json(response, 400, { error: 'not a readable file' });
    await sendSubmission(id);
    await collectReport(id);
    expect(await findSubmission(id)).toMatchObject({
      state: 'failed',
      error: 'The channel answered 400: not a readable file',
    });
    expect((await dueOn(feed))?.counts.waiting).toBe(0);
    expect((await sendFeed(feed)).ok).toBe(true);
  });

  test('a channel that fails again and again is left alone for a while, and says so', async () => {
    const id = await begun();
    say = (_request, response) => json(response, 500, {});
    settings.haste = 1;
    for (let tried = 0; tried < 5; tried++)
      await sendSubmission(id).then(() => db.update(rateLimit).set({ times: [] }));
    const before = posts.length;
    expect(await sendSubmission(id)).toBeGreaterThan(10);
    expect(posts.length).toBe(before);
    expect((await db.select().from(rateLimit))[0]).toMatchObject({
      failures: 5,
      words: expect.stringContaining('failed 5 times in a row'),
    });
  });

  test('an outage that outlasts all patience ends it in words; nothing of the ledger is lost', async () => {
    const id = await begun();
    say = (_request, response) => json(response, 500, {});
    await sendSubmission(id);
    // However long ago it was made: what counts is when something of it last left.
    await db
      .update(submission)
      .set({ createdAt: new Date(Date.now() - 90_000_000) })
      .where(eq(submission.id, id));
    expect(await tryAgain(id)).toBeGreaterThan(0);
    await db.update(batch).set({ sentAt: new Date(Date.now() - 90_000_000) });
    await tryAgain(id);
    await collectReport(id);
    expect(await findSubmission(id)).toMatchObject({
      state: 'failed',
      error: 'The channel answered 500: {}',
    });
  });
});

describe('a report', () => {
  const report = (entries: unknown) => (_request: IncomingMessage, response: ServerResponse) =>
    json(response, 200, { entries });
  const accepted = (ref: string) => ({ ref, result: 'accepted', problems: [] });

  test('in another order, with entries nobody sent and one named twice, counts what was sent', async () => {
    const id = await waiting();
    const skus = (await entriesOf(id)).map(({ sku }) => sku);
    say = report([accepted('SOMEBODY-ELSE'), ...skus.map(accepted).reverse(), accepted(skus[0] ?? '')]);
    expect(await collectReport(id)).toBeUndefined();
    expect(await findSubmission(id)).toMatchObject({
      state: 'answered',
      accepted: skus.length,
      refused: 0,
      error: null,
    });
  });

  test('that does not name some listings is asked for again, then they count as never answered', async () => {
    const id = await waiting();
    const [first, second, ...rest] = (await entriesOf(id)).map(({ sku }) => sku);
    say = report(rest.map(accepted));
    expect(await collectReport(id)).toBeGreaterThan(0);
    expect(await findSubmission(id)).toMatchObject({
      state: 'waiting',
      error: expect.stringContaining('does not name 2 of the listings'),
    });
    for (let asked = 0; asked < 3; asked++) await collectReport(id);
    expect(await findSubmission(id)).toMatchObject({
      state: 'answered',
      accepted: rest.length,
      silent: 2,
      error: expect.stringContaining('no result for 2 of the listings'),
    });
    const due = await dueOn(feed);
    expect(
      due?.listings
        .filter(({ due: what }) => what === 'again')
        .map(({ sku }) => sku)
        .sort(),
    ).toEqual([first, second].sort());
  });

  test('that has gone forgets nothing the channel had accepted', async () => {
    const id = await waiting();
    const skus = (await entriesOf(id)).map(({ sku }) => sku);
    say = report(skus.map(accepted));
    await collectReport(id);
    // The same again, whose report is lost.
    const again = await sendFeed(feed, 'everything');
    if (!again.ok) throw new Error(again.reason);
    await db.update(rateLimit).set({ times: [] });
    say = taken;
    await sendSubmission(again.submission);
    say = (_request, response) => json(response, 404, { error: 'no such report' });
    for (let asked = 0; asked < 5; asked++) await collectReport(again.submission);
    expect(await findSubmission(again.submission)).toMatchObject({ state: 'answered', silent: skus.length });
    const due = await dueOn(feed);
    expect(due?.listings.every(({ kept }) => kept?.held !== undefined)).toBe(true);
  });

  test.each([
    ['garbled', { entries: 'many' }],
    ['of another shape', { listings: [] }],
  ])('that is %s changes nothing and is asked for again', async (_name, body) => {
    const id = await waiting();
    say = (_request, response) => json(response, 200, body);
    expect(await collectReport(id)).toBeGreaterThan(0);
    expect(await findSubmission(id)).toMatchObject({ state: 'waiting', accepted: 0 });
    expect((await entriesOf(id)).every(({ answer }) => answer === 'waiting')).toBe(true);
  });

  test('that never comes has an end', async () => {
    const id = await waiting();
    say = (_request, response) => json(response, 202, { state: 'working' });
    expect(await collectReport(id)).toBeGreaterThan(0);
    await db.update(batch).set({ sentAt: new Date(Date.now() - 90_000_000) });
    await collectReport(id);
    expect(await findSubmission(id)).toMatchObject({ state: 'answered', accepted: 0 });
    expect((await findSubmission(id))?.silent).toBeGreaterThan(0);
  });

  test.each([
    ['at once', '0'],
    ['in a year', '31536000'],
    ['never', 'soon'],
  ])('that is to be asked for %s is asked for within sense', async (_name, after) => {
    const id = await waiting();
    say = (_request, response) => json(response, 202, { state: 'working' }, { 'retry-after': after });
    const wait = (await collectReport(id)) ?? -1;
    expect(wait).toBeGreaterThanOrEqual(250);
    expect(wait).toBeLessThanOrEqual(60 * 60 * 1000);
  });
});

test('a submission given up before anything left leaves the ledger as it was', async () => {
  const before = (await dueOn(feed))?.counts;
  const id = await begun();
  await failSubmission(id, 'The worker gave up.');
  expect((await dueOn(feed))?.counts).toEqual(before);
  expect(await findSubmission(id)).toMatchObject({ state: 'failed', error: 'The worker gave up.' });
});
