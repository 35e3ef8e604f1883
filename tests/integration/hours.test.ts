import { createHmac } from 'node:crypto';
import { existsSync, mkdtempSync } from 'node:fs';
import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, eq, inArray } from 'drizzle-orm';
import { scheduleSchema } from '@/core/schedule/schedule';
import { archiveItems, editCells } from '@/server/catalog/itemEdits';
import { db } from '@/server/db/connection';
import {
  activity,
  batch,
  feedSchedule,
  job,
  source,
  submission,
  submissionEntry,
  webhookDelivery,
} from '@/server/db/schema';
import { addDemoFeeds } from '@/server/demo/load';
import { enqueueDue, failFetch } from '@/server/import/fetching';
import { findItem } from '@/server/items/items';
import { ledgerOf } from '@/server/ledger/ledger';
import { evaluateFeeds } from '@/server/listings/refreshJob';
import { listNotifications, markRead, notify, unreadCount } from '@/server/notifications/notifications';
import {
  addHook,
  callAgain,
  callHook,
  changeHook,
  listHooks,
  removeHook,
  signatureOf,
  tryHook,
} from '@/server/notifications/webhooks';
import { settings } from '@/server/runtime/settings';
import { dropOld, readRetention, saveRetention } from '@/server/schedules/retention';
import { editSchedule, enqueueSchedules, requestQuickSend, scheduleView } from '@/server/schedules/schedules';
import { pathOfStored } from '@/server/storage/files';
import { insights, submissionsView } from '@/server/submissions/list';
import { restoreEarlier } from '@/server/submissions/planning/restoring';
import { sendQuick, sendScheduled } from '@/server/submissions/scheduled';
import {
  findSubmission,
  listSubmissions,
  releaseSubmission,
  sendFeed,
} from '@/server/submissions/submissions';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

let channels: Channels;
beforeAll(async () => {
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-hours-')), 0.05, 0.1);
});
beforeEach(async () => {
  await freshDemo();
  await channels.forget();
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

const lanternry = { code: 'lanternry-de', channel: 'lanternry' };
const orrin = { code: 'orrin-bazaar-de', channel: 'orrin-bazaar' };
const edit = async (head: typeof orrin, change: Parameters<typeof editSchedule>[2]) =>
  editSchedule(head.code, (await scheduleView(head)).revision, change);
const jobsOf = (kind: string) =>
  db
    .select()
    .from(job)
    .where(and(eq(job.kind, kind), eq(job.state, 'queued')));
const kinds = async () => (await listNotifications()).map(({ kind }) => kind);

describe('the hour of a feed', () => {
  const night = scheduleSchema.parse({ every: 'day', at: '03:00' });

  test('is kept in the merchant’s zone, paused, taken away, and changed by one person at a time', async () => {
    await edit(lanternry, { set: 'schedule', schedule: night });
    const { next, zone, words, revision } = await scheduleView(lanternry);
    const here = new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit' });
    expect([here.format(next), words]).toEqual(['03:00', 'every day at 03:00']);
    expect(next?.getTime()).toBeGreaterThan(Date.now());
    await expect(
      editSchedule(lanternry.code, revision - 1, { set: 'paused', on: true }),
    ).rejects.toMatchObject({
      code: 'scheduleChanged',
    });
    await edit(lanternry, { set: 'paused', on: true });
    expect((await scheduleView(lanternry)).next).toBeUndefined();
    await enqueueSchedules(new Date(Date.now() + 7 * 86_400_000));
    expect(await jobsOf('sendScheduled')).toEqual([]);
    await edit(lanternry, { set: 'paused', on: false });
    await edit(lanternry, { set: 'schedule', schedule: null });
    expect(await scheduleView(lanternry)).toMatchObject({ schedule: undefined, next: undefined });
  });

  test('asleep over two of them, it is sent once, and that it was missed is told', async () => {
    await edit(lanternry, { set: 'schedule', schedule: night });
    const twoDays = new Date(Date.now() + 2 * 86_400_000 + 3_600_000);
    await Promise.all([enqueueSchedules(twoDays), enqueueSchedules(twoDays)]);
    expect((await jobsOf('sendScheduled')).map(({ payload }) => payload)).toEqual([{ feed: lanternry.code }]);
    expect((await scheduleView(lanternry)).next?.getTime()).toBeGreaterThan(twoDays.getTime());
    expect(await kinds()).toEqual(['scheduleMissed']);
    await sendScheduled(lanternry.code);
    const [sent] = await listSubmissions(lanternry.code);
    expect(sent).toMatchObject({ cause: 'schedule' });
    expect((await scheduleView(lanternry)).lastWords).toMatch(/listings sent/);
    await untilAnswered(sent?.id ?? 0);
    expect(await kinds()).toEqual(['finished', 'scheduleMissed']);
    await sendScheduled(lanternry.code);
    expect((await scheduleView(lanternry)).lastWords).toBe('nothing had changed');
    expect(await listSubmissions(lanternry.code)).toHaveLength(1);
  });

  test('a clock that is put back leaves no hour far ahead, of feeds and of sources', async () => {
    await edit(lanternry, { set: 'schedule', schedule: night });
    const next = (await scheduleView(lanternry)).next;
    const [made] = await db
      .insert(source)
      .values({
        name: 'by the hour',
        address: 'https://supplier.example/list.csv',
        schedule: night,
        fetchAt: next ?? null,
        createdAt: new Date(),
      })
      .$returningId();
    const fetchAt = async () =>
      (
        await db
          .select()
          .from(source)
          .where(eq(source.id, made?.id ?? 0))
      )[0]?.fetchAt?.getTime();
    const later = new Date(Date.now() + 5 * 86_400_000);
    await enqueueSchedules(later);
    await enqueueDue(later);
    expect((await scheduleView(lanternry)).next?.getTime()).toBeGreaterThan(later.getTime());
    expect(await fetchAt()).toBeGreaterThan(later.getTime());
    await enqueueSchedules(new Date());
    await enqueueDue(new Date());
    expect([(await scheduleView(lanternry)).next, await fetchAt()]).toEqual([next, next?.getTime()]);
  });

  test('a feed that is not published is not sent, and says so', async () => {
    await db.delete(submission);
    const { createFeed } = await import('@/server/plans/feeds');
    await createFeed('tessel-boards', 'AT', 'de').catch(() => createFeed('tessel-boards', 'DE', 'de'));
    const { listFeeds } = await import('@/server/plans/drafts');
    const code = (await listFeeds()).find(({ channel }) => channel === 'tessel-boards')?.code ?? '';
    await sendScheduled(code);
    expect((await listNotifications())[0]).toMatchObject({
      kind: 'notSent',
      words: 'not published yet',
    });
  });
});

describe('prices and stock at once', () => {
  const heads = [
    orrin,
    { code: 'plazuela-norte-es', channel: 'plazuela-norte' },
    { code: 'flickerstall-de-en', channel: 'flickerstall' },
    { code: 'tessel-boards-de', channel: 'tessel-boards' },
  ];
  const price = (sku: string, text: string) => editCells([{ sku, attribute: 'price', text }]);

  /** Sends a feed whole, and names a listing that its channel has taken, and another. */
  async function taken(head: typeof orrin): Promise<[string, string]> {
    await addDemoFeeds('demo');
    if (head.channel === 'tessel-boards') {
      // Its cards lead to pages that it visits.
      const [going] = await listSubmissions('own-shop-de');
      if (going) await untilAnswered(going.id);
      const shop = await sendFeed('own-shop-de', 'everything');
      if (!shop.ok) throw new Error(shop.reason);
      if (shop.held) await releaseSubmission(shop.submission, 'a trial');
      await untilAnswered(shop.submission);
    }
    const first = await sendFeed(head.code, 'everything');
    if (!first.ok) throw new Error(first.reason);
    if (first.held) await releaseSubmission(first.submission, 'a trial');
    await untilAnswered(first.submission);
    await edit(head, { set: 'quick', on: true });
    const entries = await db
      .select()
      .from(submissionEntry)
      .where(eq(submissionEntry.submissionId, first.submission));
    const skus = entries
      .filter(({ answer, relation }) => answer === 'accepted' && relation !== 'lead')
      .map(({ sku }) => sku);
    return [skus[0] ?? '', skus.at(-1) ?? ''];
  }

  test.each(heads)(
    '$channel: a changed price goes out by itself, alone, without anybody sending',
    async (head) => {
      const [sku, other] = await taken(head);
      const item = await findItem(sku);
      const was = Number(item?.own.price ?? item?.shared.price);
      await price(sku, (was + 1).toFixed(2));
      await editCells([{ sku: other, attribute: 'name', text: 'A quite different name of it' }]);
      await evaluateFeeds();
      await requestQuickSend([head.code, lanternry.code]);
      await requestQuickSend([head.code]);
      expect((await jobsOf('sendQuick')).map(({ payload }) => payload)).toEqual([{ feed: head.code }]);
      expect(await sendQuick(head.code)).toBeUndefined();
      const [sent] = await listSubmissions(head.code);
      expect(sent).toMatchObject({ cause: 'quick', total: 1 });
      await untilAnswered(sent?.id ?? 0);
      const entries = await db
        .select()
        .from(submissionEntry)
        .where(eq(submissionEntry.submissionId, sent?.id ?? 0));
      expect(entries.map((one) => [one.sku, one.answer, one.quick])).toEqual([
        [sku, 'accepted', head.channel === 'orrin-bazaar'],
      ]);
      // The channel itself has the new price, and was never asked faster than it allows.
      const state = (await channels.state())[head.channel];
      expect(JSON.stringify(state?.listings[sku]?.row)).toMatch(
        new RegExp((was + 1).toFixed(2).replace('.', '[.,]')),
      );
      expect(state?.tooFast).toBe(0);
      // That prices were taken is no news.
      expect((await listNotifications()).filter(({ submission: id }) => id === sent?.id)).toEqual([]);
    },
  );

  test('a tenfold price is held back and told; nothing more goes by itself until it is looked at', async () => {
    const [sku] = await taken(orrin);
    await price(sku, '990.00');
    await sendQuick(orrin.code);
    const [last] = await listSubmissions(orrin.code);
    expect(last?.cause).not.toBe('quick');
    const [notice] = await listNotifications();
    expect(notice).toMatchObject({ kind: 'listingsHeld', feed: orrin.code });
    expect(await sendQuick(orrin.code)).toBeUndefined();
    expect((await listSubmissions(orrin.code))[0]?.id).toBe(last?.id);
    // Of the same listings it is told once.
    expect((await listNotifications())[0]?.id).toBe(notice?.id);
  });

  test('a channel that takes files as a whole only has no such switch', async () => {
    await addDemoFeeds('demo');
    expect((await scheduleView(lanternry)).quick).toBeUndefined();
    expect((await scheduleView(orrin)).quick).toBe(false);
  });
});

describe('going back, and what came of it all', () => {
  const state = async () => {
    const listings = (await channels.state())['orrin-bazaar']?.listings ?? {};
    return Object.fromEntries(Object.entries(listings).map(([key, { row }]) => [key, row]));
  };
  const through = async (result: Awaited<ReturnType<typeof sendFeed>>): Promise<number> => {
    if (!result.ok) throw new Error(result.reason);
    if (result.held) await releaseSubmission(result.submission, 'a trial');
    await untilAnswered(result.submission);
    return result.submission;
  };

  test('the channel stands as it stood once the earlier submission was answered, exactly; the hour is paused', async () => {
    await addDemoFeeds('demo');
    const orrinInsights = async () => {
      const { feeds, causes } = await insights(30);
      const own = feeds.find(({ code }) => code === orrin.code);
      const ofIt = causes.filter(({ feed }) => feed === own?.name);
      return {
        accepted: own?.accepted ?? 0,
        refused: own?.refused ?? 0,
        codes: new Map(ofIt.map(({ code, count }) => [code, count])),
      };
    };
    const before = await orrinInsights();
    const first = await through(await sendFeed(orrin.code, 'everything'));
    await edit(orrin, { set: 'schedule', schedule: scheduleSchema.parse({ every: 'day' }) });
    const then = await state();
    expect(Object.keys(then).length).toBeGreaterThan(50);
    const accepted = (await db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, first)))
      .filter(({ answer, relation }) => answer === 'accepted' && relation === null)
      .map(({ sku }) => sku);
    const [gone = '', changed = '', renamed = ''] = accepted;
    await archiveItems([gone], true);
    await editCells([
      { sku: changed, attribute: 'price', text: '77.70' },
      { sku: renamed, attribute: 'name', text: 'Another name altogether' },
    ]);
    const second = await through(await sendFeed(orrin.code));
    expect(await state()).not.toEqual(then);
    const back = await through(await restoreEarlier(orrin.code, first, 'a trial'));
    expect(await state()).toEqual(then);
    expect(await findSubmission(back)).toMatchObject({ cause: 'back', refused: 0 });
    expect((await scheduleView(orrin)).paused).toBe(true);
    await expect(restoreEarlier(orrin.code, first, 'a trial')).rejects.toMatchObject({
      code: 'nothingToBringBack',
    });
    await expect(restoreEarlier('lanternry-de', first, 'a trial')).rejects.toMatchObject({
      code: 'noSubmission',
    });

    // What the simulator itself has answered since: every offer of every file, and what it had against it.
    const taken = Object.values((await channels.state())['orrin-bazaar']?.taken ?? {});
    const said = { accepted: 0, refused: 0, codes: new Map<string, number>() };
    for (const { answers } of taken)
      for (const { outcome, messages } of answers as { outcome: string; messages: { id: string }[] }[]) {
        said[outcome === 'ok' ? 'accepted' : 'refused']++;
        if (outcome !== 'ok')
          for (const { id } of messages) said.codes.set(id, (said.codes.get(id) ?? 0) + 1);
      }
    const figures = await orrinInsights();
    const withdrawn = (await listSubmissions(orrin.code)).reduce(
      (sum, one) => sum + (one.id >= first ? one.withdrawn : 0),
      0,
    );
    expect(said.refused).toBeGreaterThan(0);
    expect([figures.accepted - before.accepted + withdrawn, figures.refused - before.refused]).toEqual([
      said.accepted,
      said.refused,
    ]);
    for (const [code, count] of said.codes)
      expect([code, (figures.codes.get(code) ?? 0) - (before.codes.get(code) ?? 0)]).toEqual([code, count]);

    // Where the listings of a submission by then are not kept any more, nothing is guessed, and nothing taken back.
    const [oldest] = (await listSubmissions(orrin.code, 500)).slice(-1);
    const kept = await db
      .select()
      .from(submissionEntry)
      .where(eq(submissionEntry.submissionId, oldest?.id ?? 0));
    await db.delete(submissionEntry).where(eq(submissionEntry.submissionId, oldest?.id ?? 0));
    await expect(restoreEarlier(orrin.code, second, 'a trial')).rejects.toMatchObject({
      code: 'listingsDropped',
    });
    await db.insert(submissionEntry).values(kept);

    // Insights against the answers of the simulator, as they were taken in.
    const found = await insights(30);
    const own = found.feeds.find(({ code }) => code === orrin.code);
    const submissions = (await listSubmissions(orrin.code)).filter(({ state }) => state === 'answered');
    const entries = await db
      .select()
      .from(submissionEntry)
      .where(
        inArray(
          submissionEntry.submissionId,
          submissions.map(({ id }) => id),
        ),
      );
    const count = (answer: string) => entries.filter((one) => one.answer === answer).length;
    expect([own?.accepted, own?.refused]).toEqual([count('accepted'), count('refused')]);
    expect(own?.days.reduce((sum, { accepted }) => sum + accepted, 0)).toBe(own?.accepted);
    const problems = entries.flatMap(({ answer, problems }) => (answer === 'refused' ? problems : []));
    for (const { feed, code, count: said } of found.causes.filter((one) => one.feed.startsWith('Orrin')))
      expect([feed, code, said]).toEqual([feed, code, problems.filter((one) => one.code === code).length]);
    expect(own?.seconds).toBeGreaterThan(0);

    const view = await submissionsView({ feed: orrin.code });
    expect(view.done.slice(0, 3).map(({ id, cause }) => [id, cause])).toEqual([
      [back, 'back'],
      [second, 'hand'],
      [first, 'hand'],
    ]);
    expect(
      (await submissionsView({ feed: orrin.code, before: second })).done.map(({ id }) => id),
    ).not.toContain(second);
    expect(view.feeds.find(({ code }) => code === orrin.code)?.hour).toMatchObject({ paused: true });
  });
});

test('a channel that fetches all of it can be brought back as well', async () => {
  await addDemoFeeds('demo');
  const rows = async () =>
    Object.entries((await channels.state()).lanternry?.listings ?? {})
      .map(([key, { row }]) => [key, row] as const)
      .sort(([a], [b]) => a.localeCompare(b));
  const through = async (result: Awaited<ReturnType<typeof sendFeed>>): Promise<number> => {
    if (!result.ok) throw new Error(result.reason);
    if (result.held) await releaseSubmission(result.submission, 'a trial');
    await untilAnswered(result.submission);
    return result.submission;
  };
  const first = await through(await sendFeed(lanternry.code, 'everything'));
  const then = await rows();
  expect(then.length).toBeGreaterThan(50);
  // The channel calls them by country and SKU.
  const [gone = '', changed = ''] = then.map(([key]) => key.replace(/^DE /, ''));
  await archiveItems([gone], true);
  await editCells([{ sku: changed, attribute: 'price', text: '77.70' }]);
  await through(await sendFeed(lanternry.code));
  expect((await rows()).map(([key]) => key)).not.toContain(`DE ${gone}`);
  await through(await restoreEarlier(lanternry.code, first, 'a trial'));
  expect(await rows()).toEqual(then);
});

test('a source that cannot be fetched is told; notices are seen one by one or all', async () => {
  await failFetch(1, 'the address answered 500');
  await db.transaction((tx) =>
    notify(tx, 'failing', lanternry.code, { submission: 3, words: 'It was removed.' }),
  );
  const [second, first] = await listNotifications();
  expect(first).toMatchObject({ about: 'Sources', source: 1, read: false });
  expect(second).toMatchObject({ about: 'Lanternry DE', submission: 3, words: 'It was removed.' });
  expect(await unreadCount()).toBe(2);
  await markRead(first?.id);
  expect(await unreadCount()).toBe(1);
  await markRead();
  expect(await unreadCount()).toBe(0);
});

describe('addresses that are told', () => {
  let server: Server;
  let calls: { path: string; headers: IncomingHttpHeaders; body: string }[] = [];
  const simulators = settings.simulators;
  beforeAll(async () => {
    server = createServer((request, response) => {
      const pieces: Buffer[] = [];
      request.on('data', (piece) => pieces.push(piece));
      request.on('end', () => {
        calls.push({
          path: request.url ?? '',
          headers: request.headers,
          body: Buffer.concat(pieces).toString(),
        });
        if (request.url === '/down') response.writeHead(503).end('down');
        else if (request.url === '/elsewhere')
          response.writeHead(302, { location: 'http://127.0.0.1:1/' }).end();
        else if (request.url !== '/silent') response.writeHead(204).end();
      });
    }).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    settings.simulators = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(async () => {
    settings.simulators = simulators;
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  });
  beforeEach(() => {
    calls = [];
  });
  const latest = async () => (await listHooks()).deliveries[0];

  test('are called with a signature that an HMAC made apart confirms, and whose id is the same when it is repeated', async () => {
    const { secret } = await addHook(`${settings.simulators}/ok`);
    await db.transaction((tx) => notify(tx, 'failing', lanternry.code, { submission: 7, words: 'Closed.' }));
    const queued = await latest();
    expect(await callHook(queued?.id ?? 0)).toBeUndefined();
    const [call] = calls;
    const [id, at] = [String(call?.headers['webhook-id']), String(call?.headers['webhook-timestamp'])];
    // Node’s HMAC, fed by hand as the Standard Webhooks specification says.
    const key = Buffer.from(secret.slice('whsec_'.length), 'base64');
    expect(key).toHaveLength(32);
    const right = createHmac('sha256', key).update(`${id}.${at}.${call?.body}`, 'utf8').digest('base64');
    expect(call?.headers['webhook-signature']).toBe(`v1,${right}`);
    expect(Math.abs(Number(at) - Date.now() / 1000)).toBeLessThan(120);
    expect(JSON.parse(call?.body ?? '')).toMatchObject({
      type: 'failing',
      data: { feed: lanternry.code, submission: 7, words: 'Closed.' },
    });
    expect(await latest()).toMatchObject({ state: 'done', status: 204, tries: 1 });
    await callAgain(queued?.id ?? 0);
    await callHook(queued?.id ?? 0);
    expect(calls.map(({ headers }) => headers['webhook-id'])).toEqual([id, id]);
  });

  test('the example of the specification is signed as it is there', () => {
    // https://github.com/standard-webhooks/standard-webhooks: the example of its reference libraries.
    expect(
      signatureOf(
        'whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw',
        'msg_p5jXN8AQM9LWM0D4loKWxJek',
        1614265330,
        '{"test": 2432232314}',
      ),
    ).toBe('v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=');
  });

  test.each([
    ['down', 'answered 503'],
    ['elsewhere', 'answered 302'],
  ])('%s: it is tried again for a while, then given up, with its words in the log', async (path, words) => {
    await addHook(`${settings.simulators}/${path}`);
    const { hooks } = await listHooks();
    await tryHook(hooks.at(-1)?.id ?? 0);
    const id = (await latest())?.id ?? 0;
    const waits: (number | undefined)[] = [];
    for (let tries = 0; tries < 6; tries++) waits.push(await callHook(id));
    expect(waits).toEqual([60_000, 300_000, 1_800_000, 7_200_000, 86_400_000, undefined]);
    expect(await latest()).toMatchObject({ state: 'failed', tries: 6 });
    expect((await latest())?.words).toMatch(path === 'down' ? words : /302|redirect/i);
    expect(calls.every((call) => call.path === `/${path}`)).toBe(true);
  });

  test('a receiver that never answers is not waited for longer than it has', async () => {
    await addHook(`${settings.simulators}/silent`);
    const { hooks } = await listHooks();
    await tryHook(hooks.at(-1)?.id ?? 0);
    const id = (await latest())?.id ?? 0;
    expect(await callHook(id, 0.3)).toBe(60_000);
    expect(calls).toHaveLength(1);
    expect(await latest()).toMatchObject({ state: 'queued', tries: 1, status: undefined });
    expect((await latest())?.words).toMatch(/0.3 s|longer|slow/i);
  });

  test('a private address is refused, one that is switched off is not called, one that is taken away is forgotten', async () => {
    await expect(addHook('http://192.168.1.4/hook')).rejects.toMatchObject({ code: 'ownNetwork' });
    await addHook(`${settings.simulators}/ok`);
    const { hooks } = await listHooks();
    const hook = hooks[0]?.id ?? 0;
    await changeHook(hook, { on: false });
    await tryHook(hook);
    await callHook((await latest())?.id ?? 0);
    expect([calls.length, (await latest())?.words]).toEqual([0, 'switched off']);
    await changeHook(hook, { on: true, kinds: ['finished'] });
    await db.transaction((tx) => notify(tx, 'failing', lanternry.code, { submission: 7, words: 'Closed.' }));
    expect((await db.select().from(webhookDelivery)).length).toBe(1);
    await removeHook(hook);
    expect(await listHooks()).toEqual({ hooks: [], deliveries: [] });
  });
});

test('what was kept long enough is dropped and counted; what an auditor wants stays', async () => {
  await addDemoFeeds('demo');
  const [latest] = await listSubmissions('plazuela-norte-es');
  const old = latest?.id ?? 0;
  const [file] = await db.select().from(batch).where(eq(batch.submissionId, old));
  await db.transaction((tx) => notify(tx, 'failing', lanternry.code, { submission: 7, words: 'Closed.' }));
  const ledgerBefore = await ledgerOf('plazuela-norte-es');
  expect(existsSync(pathOfStored(file?.file ?? ''))).toBe(true);
  expect(await dropOld(new Date())).toMatchObject({ files: 0, entries: 0, notices: 0 });
  await saveRetention({ ...(await readRetention()), files: 1, entries: 5, notices: 3 });
  const dropped = await dropOld(new Date(Date.now() + 2 * 86_400_000));
  expect(dropped.files).toBeGreaterThan(0);
  // Those of the first weeks; the latest is younger than five days.
  expect(dropped.entries).toBeGreaterThan(500);
  expect(existsSync(pathOfStored(file?.file ?? ''))).toBe(false);
  const [after] = await db.select().from(batch).where(eq(batch.submissionId, old));
  expect(after).toMatchObject({ fileDropped: true, file: file?.file });
  expect(await findSubmission(old)).toEqual(latest);
  expect([...(await ledgerOf('plazuela-norte-es')).keys()]).toEqual([...ledgerBefore.keys()]);
  expect((await db.select().from(submissionEntry).where(eq(submissionEntry.submissionId, old))).length).toBe(
    latest?.total,
  );
  const later = await dropOld(new Date(Date.now() + 4 * 86_400_000));
  expect(later.files).toBe(0);
  expect(later.notices).toBeGreaterThan(0);
  const [said] = await db.select().from(activity).where(eq(activity.what, 'deleted data past its retention'));
  expect(said?.subject).toContain(`${dropped.entries} entries`);
});

test('a schedule is read through its type', async () => {
  await edit(lanternry, { set: 'schedule', schedule: scheduleSchema.parse({ every: 'week', weekday: '3' }) });
  const [row] = await db.select().from(feedSchedule);
  expect(row?.schedule).toMatchObject({ every: 'week', weekday: '3', at: '04:00' });
  expect(await findSubmission(999_999)).toBeUndefined();
});
