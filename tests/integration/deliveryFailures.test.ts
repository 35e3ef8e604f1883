import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { listing, submission, submissionEntry } from '@/server/db/schema';
import { collectReport, FinalRefusal, failSubmission, sendSubmission } from '@/server/submissions/delivery';
import { sendFeed } from '@/server/submissions/submissions';
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
    channel.listen(Number(process.env.LIVELY_STANDINS_PORT ?? 3461), '127.0.0.1', resolve);
  });
});
beforeEach(async () => {
  posts.length = 0;
  await freshDemo();
});
afterAll(async () => {
  channel.closeAllConnections();
  channel.close();
  await closeDatabase();
});

async function begun(): Promise<number> {
  const result = await sendFeed('lanternry-de', false);
  if (!result.ok) throw new Error(result.reason);
  return result.submission;
}
const find = async (id: number) => (await db.select().from(submission).where(eq(submission.id, id)))[0];
const entriesOf = (id: number) =>
  db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, id)).orderBy(submissionEntry.sku);
const taken = (_request: IncomingMessage, response: ServerResponse) => json(response, 202, { id: 'r1' });

async function waiting(): Promise<number> {
  const id = await begun();
  say = taken;
  await sendSubmission(id);
  return id;
}

describe('a file that cannot be handed over', () => {
  test.each([
    ['the channel is down', 503],
    ['too many files', 429],
    ['the channel stumbles', 500],
  ])('%s: it is tried again with the same key, and goes out once', async (_name, status) => {
    const id = await begun();
    say = (_request, response) => json(response, status, { error: 'later' }, { 'retry-after': '3' });
    await expect(sendSubmission(id)).rejects.toThrow(`The channel answered ${status}`);
    expect(await find(id)).toMatchObject({ state: 'sending', remoteId: null });
    say = taken;
    await sendSubmission(id);
    expect(await find(id)).toMatchObject({ state: 'waiting', remoteId: 'r1' });
    expect(new Set(posts).size).toBe(1);
  });

  test('the connection breaks before the answer: nothing is known, so it is sent again with the same key', async () => {
    const id = await begun();
    say = (request) => request.socket.destroy();
    await expect(sendSubmission(id)).rejects.toThrow();
    say = taken;
    await sendSubmission(id);
    expect(await find(id)).toMatchObject({ state: 'waiting' });
    expect(new Set(posts).size).toBe(1);
  });

  test.each([
    ['a receipt that is none', 202, { ok: true }],
    ['an answer that is no JSON', 202, undefined],
  ])('%s: nothing is taken for sent', async (_name, status, body) => {
    const id = await begun();
    say = (_request, response) =>
      body ? json(response, status, body) : response.writeHead(status).end('<html>busy</html>');
    await expect(sendSubmission(id)).rejects.toThrow();
    expect(await find(id)).toMatchObject({ state: 'sending', remoteId: null });
  });

  test('a refusal is final, in the channel’s own words', async () => {
    const id = await begun();
    say = (_request, response) => json(response, 400, { error: 'not a readable file' });
    await expect(sendSubmission(id)).rejects.toThrow(FinalRefusal);
    await expect(sendSubmission(id)).rejects.toThrow('not a readable file');
    await failSubmission(id, 'The channel refused the file.');
    expect(await find(id)).toMatchObject({ state: 'failed', error: 'The channel refused the file.' });
    // Its listings count as not sent, so that they can be sent again.
    expect(await db.select().from(listing)).toEqual([]);
    expect((await sendFeed('lanternry-de', false)).ok).toBe(true);
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
    expect(await find(id)).toMatchObject({
      state: 'answered',
      accepted: skus.length,
      refused: 0,
      error: null,
    });
  });

  test('that does not name some listings says so, and they can be sent again', async () => {
    const id = await waiting();
    const [first, second, ...rest] = (await entriesOf(id)).map(({ sku }) => sku);
    say = report(rest.map(accepted));
    await collectReport(id);
    expect(await find(id)).toMatchObject({
      state: 'answered',
      accepted: rest.length,
      refused: 0,
      error: expect.stringContaining('does not name 2 of the listings'),
    });
    const again = await sendFeed('lanternry-de', false);
    if (!again.ok) throw new Error(again.reason);
    expect((await entriesOf(again.submission)).map(({ sku }) => sku)).toEqual([first, second].sort());
  });

  test.each([
    ['garbled', { entries: [{ ref: 1 }] }],
    ['of another shape', { listings: [] }],
  ])('that is %s changes nothing and is asked for again', async (_name, body) => {
    const id = await waiting();
    say = (_request, response) => json(response, 200, body);
    await expect(collectReport(id)).rejects.toThrow();
    expect(await find(id)).toMatchObject({ state: 'waiting', accepted: 0 });
    expect((await entriesOf(id)).every(({ answer }) => answer === 'waiting')).toBe(true);
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
