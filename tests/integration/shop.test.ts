import { mkdtempSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, asc, eq, inArray, like, notLike } from 'drizzle-orm';
import sharp from 'sharp';
import type { Issue } from '@/core/checks/issue';
import { shopVisitsSchema } from '@/core/forms/shopVisits';
import { raiseRevision, writeItems } from '@/server/catalog/changes';
import { compareSimilarItems, requestComparison } from '@/server/catalog/hints';
import { editCells } from '@/server/catalog/itemEdits';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { channelOf } from '@/server/channels/channels';
import { db } from '@/server/db/connection';
import { feedListing, item, itemHint, job, shopPage, source, workspace } from '@/server/db/schema';
import { addDemoFeeds, followSimulators } from '@/server/demo/load';
import { evaluationOf } from '@/server/evaluation/evaluation';
import { enqueue, unattended } from '@/server/jobs/queue';
import { evaluateFeeds } from '@/server/listings/refreshJob';
import { listNotifications } from '@/server/notifications/notifications';
import { measureAll } from '@/server/pictures/duplicates';
import { takePicture } from '@/server/pictures/editing';
import { pictureFolder } from '@/server/pictures/pictures';
import { feedPlans } from '@/server/plans/drafts';
import { settings } from '@/server/runtime/settings';
import {
  learnPages,
  pageOfItem,
  readVisits,
  saveVisits,
  visitAllNow,
  visitShop,
  visitsView,
} from '@/server/shop/visits';
import { listSubmissions, sendFeed } from '@/server/submissions/submissions';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

let channels: Channels;
const simulators = settings.simulators;
beforeAll(async () => {
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-shop-')), 0.05, 0.1);
});
beforeEach(async () => {
  settings.simulators = simulators;
  settings.haste = 600;
  await freshDemo();
  await channels.forget();
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

const pot = 'QM-POT-RDG-MOS-14';
const address = 'https://quillmoss.example/ridge-pot-with-drip-tray-and-felt-feet-moss-14-cm';

/** What the kept listings of a feed say, where it is about what was found by looking; and the same from nothing. */
const ofLooking = new Set([
  'shopPage',
  'pictureSize',
  'pictureFormat',
  'picture',
  'priceOutlier',
  'otherBrand',
]);
async function said(code: string) {
  await evaluateFeeds();
  const rows = await db
    .select({ sku: feedListing.sku, issues: feedListing.issues })
    .from(feedListing)
    .where(eq(feedListing.feed, code))
    .orderBy(asc(feedListing.sku));
  const plans = await feedPlans(code);
  if (!plans) throw new Error(code);
  const { listings } = await evaluationOf(
    plans.published ?? plans.draft,
    await channelOf(plans.head.channel),
    await currentSnapshot(),
  );
  const found = (issues: readonly Issue[]) => issues.filter(({ check }) => ofLooking.has(check));
  const anew = new Map([...listings].map(({ sku, issues }) => [sku, found(issues)]));
  for (const { sku, issues } of rows) expect([sku, found(issues)]).toEqual([sku, anew.get(sku)]);
  return new Map(
    rows.map(({ sku, issues }) => [sku, found(issues)] as const).filter(([, list]) => list.length > 0),
  );
}

/** Visits for as long as anything is due. */
async function visitAll(most = 60): Promise<void> {
  for (let rounds = 0; rounds < most; rounds++) {
    const after = await visitShop(unattended);
    if (after === undefined || after > 2000) return;
  }
  throw new Error('The visits come to no end.');
}

const on = (more: object = {}) =>
  saveVisits(
    shopVisitsSchema.parse({
      on: true,
      perMinute: 600,
      pages: 'https://quillmoss.example/',
      at: `${settings.simulators}/own-shop/pages/`,
      ...more,
    }),
  );

/** Of the pages those of one family stay: each takes its time. */
async function onlyPots(): Promise<void> {
  await learnPages(new Date());
  await db.delete(shopPage).where(notLike(shopPage.address, '%/ridge-pot-%'));
}

async function openShop(): Promise<void> {
  await addDemoFeeds('demo');
  const [sent] = await listSubmissions('own-shop-de');
  await untilAnswered(sent?.id ?? 0);
}

const jobsOf = (kind: string) =>
  db
    .select()
    .from(job)
    .where(and(eq(job.kind, kind), eq(job.state, 'queued')));

test('the shop’s pages are visited, and what they say is held against the listings that lead there', async () => {
  await openShop();
  expect(await visitShop(unattended)).toBeUndefined();
  await on();
  await onlyPots();
  await visitAll();
  const view = await visitsView();
  expect(view).toMatchObject({ failing: 0, trouble: undefined });
  expect(view.states.due).toBe(0);
  expect(view.states.read).toBeGreaterThan(8);
  expect(await pageOfItem(pot)).toMatchObject({
    address,
    seen: {
      state: 'read',
      products: [{ sku: pot, price: '24.90', currency: 'EUR', availability: 'InStock' }],
    },
  });
  // What the shop does not show has no page; all else agrees with it.
  const clean = await said('lanternry-de');
  expect([...clean.values()].flat().every(({ facts }) => 'what' in facts && facts.what === 'gone')).toBe(
    true,
  );
  expect(clean.has(pot)).toBe(false);
  expect((await said('own-shop-de')).size).toBe(0);

  // The catalog goes ahead of the shop.
  await editCells([{ sku: pot, attribute: 'price', text: '29.90' }]);
  expect((await said('lanternry-de')).get(pot)).toMatchObject([
    {
      check: 'shopPage',
      severity: 'risk',
      field: 'price',
      facts: { what: 'price', page: '24.90 EUR', listing: '29.90 EUR' },
    },
  ]);
  // The change has the page visited soon; the shop still says the old price, which the source may know of.
  await db.update(source).set({ fetchedAt: null });
  await visitAll();
  expect((await said('lanternry-de')).get(pot)).toHaveLength(1);

  // The shop follows.
  const sent = await sendFeed('own-shop-de');
  await untilAnswered('submission' in sent ? sent.submission : 0);
  await visitAllNow();
  await visitAll();
  expect((await said('lanternry-de')).has(pot)).toBe(false);
  expect((await said('plazuela-norte-es')).has(pot)).toBe(false);
  expect(await readVisits()).toMatchObject({ on: true, perMinute: 600 });
});

test('a shop that goes ahead of the catalog has the source fetched again, once, and it is told once a day', async () => {
  await openShop();
  await on();
  await editCells([
    { sku: pot, attribute: 'price', text: '31.00' },
    { sku: 'QM-POT-RDG-MOS-10', attribute: 'price', text: '32.00' },
  ]);
  await db.update(source).set({ fetchedAt: null });
  await onlyPots();
  await visitAll();
  const [told, ...more] = (await listNotifications()).filter(({ kind }) => kind === 'shopDiffers');
  expect(more).toEqual([]);
  expect(told?.words).toMatch(/show another price or stock than the catalog for .* fetching 1 source again/);
  expect(await jobsOf('fetchSource')).toHaveLength(1);
});

test('no page is visited faster than set, none that the shop forbids, and none by a nameless visitor', async () => {
  await openShop();
  await editCells([{ sku: pot, attribute: 'url', text: 'https://quillmoss.example/basket/ridge-pot' }]);
  settings.haste = 1;
  await on();
  // A dozen of them, the forbidden one among them.
  await visitShop(unattended);
  const first = ((await channels.state())['own-shop'] as unknown as { visits: Visit[] }).visits;
  interface Visit {
    path: string;
    at: number;
    agent: string;
  }
  expect(first.length).toBeGreaterThan(12);
  expect(first[0]?.path).toBe('/pages/robots.txt');
  const gaps = first.slice(1).map(({ at }, i) => at - (first[i]?.at ?? at));
  expect(Math.min(...gaps)).toBeGreaterThanOrEqual(100);
  await db.update(shopPage).set({ nextAt: new Date(Date.now() + 86_400_000) });
  await db.update(shopPage).set({ nextAt: new Date() }).where(like(shopPage.address, '%/basket/%'));
  await visitAll();
  const { visits } = (await channels.state())['own-shop'] as unknown as { visits: Visit[] };
  expect(visits.filter(({ path }) => path.includes('basket'))).toEqual([]);
  expect(new Set(visits.map(({ agent }) => agent))).toEqual(new Set(['LivelyCart/1.0']));
  expect((await pageOfItem(pot))?.seen).toMatchObject({ state: 'forbidden' });
}, 60_000);

describe('a shop in trouble', () => {
  let server: Server;
  let asked: string[];
  let answers: Record<string, (request: IncomingMessage, response: ServerResponse) => void>;
  let sentBytes = 0;
  const good = `<script type="application/ld+json">${JSON.stringify({ '@type': 'Product', sku: pot, offers: { price: '24.90', priceCurrency: 'EUR' } })}</script>`;
  const html = (response: ServerResponse, body: string) =>
    response.writeHead(200, { 'content-type': 'text/html' }).end(body);

  beforeEach(async () => {
    asked = [];
    sentBytes = 0;
    answers = { '/robots.txt': (_request, response) => response.writeHead(404).end() };
    server = createServer((request, response) => {
      asked.push(request.url ?? '');
      const answer = answers[request.url ?? ''];
      if (answer) answer(request, response);
      else html(response, good);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    settings.simulators = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    // One page alone.
    await editCells([{ sku: pot, attribute: 'url', text: 'https://quillmoss.example/pot' }]);
    await on({ at: `${settings.simulators}/` });
    await learnPages(new Date());
    await visitOne();
    expect(await now()).toMatchObject({ failures: 0, seen: { state: 'read' } });
    asked = [];
  });
  afterEach(async () => {
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  });
  /** Visits the pot's page and no other. */
  async function visitOne(): Promise<void> {
    const far = new Date(Date.now() + 86_400_000);
    await db.update(shopPage).set({ nextAt: far });
    await db.execute('delete from rate_limit');
    await db
      .update(shopPage)
      .set({ nextAt: new Date() })
      .where(eq(shopPage.address, 'https://quillmoss.example/pot'));
    await visitShop(unattended);
  }
  const now = async () => {
    const [row] = await db
      .select()
      .from(shopPage)
      .where(eq(shopPage.address, 'https://quillmoss.example/pot'));
    return row;
  };

  const fails: [string, (response: ServerResponse) => void, RegExp][] = [
    ['never answers', () => undefined, /seconds/],
    [
      'begins and stops in the middle',
      (response) => response.writeHead(200, { 'content-type': 'text/html' }).write('<html>'),
      /seconds/,
    ],
    ['answers 500', (response) => response.writeHead(500).end('broken'), /answered 500/],
    ['answers 429', (response) => response.writeHead(429, { 'retry-after': '1' }).end(), /answered 429/],
    ['hangs up', (response) => void response.destroy(), /closed|socket|hang|terminated/i],
    [
      'leads in a circle',
      (response) => response.writeHead(301, { location: '/pot' }).end(),
      /leads on more than 5 times/,
    ],
    [
      'leads to another host for now',
      (response) => response.writeHead(302, { location: 'http://10.0.0.1/admin' }).end(),
      /leads to 10\.0\.0\.1/,
    ],
  ];
  test.each(fails)(
    'that %s: what it said before stands, and it is tried again later',
    async (_what, answer, words) => {
      answers['/pot'] = (_request, response) => answer(response);
      const before = await now();
      await visitOne();
      const after = await now();
      expect(after).toMatchObject({ failures: 1, seen: before?.seen });
      expect(after?.trouble).toMatch(words);
      expect((after?.nextAt.getTime() ?? 0) - Date.now()).toBeGreaterThan(60_000);
      answers['/pot'] = (_request, response) => html(response, good);
      await visitOne();
      expect(await now()).toMatchObject({ failures: 0, trouble: null });
    },
  );

  test.each<[string, (response: ServerResponse) => void, object]>([
    ['is gone', (response) => response.writeHead(410).end(), { state: 'gone' }],
    [
      'moved for good',
      (response) => response.writeHead(308, { location: '/new-pot' }).end(),
      { state: 'moved', words: 'https://quillmoss.example/new-pot' },
    ],
    [
      'moved for good to where nobody may go',
      (response) => response.writeHead(301, { location: 'http://169.254.169.254/latest' }).end(),
      { state: 'moved' },
    ],
    [
      'leads on for now',
      (response) => response.writeHead(302, { location: '/pot?from=here' }).end(),
      { state: 'read' },
    ],
    [
      'is a picture',
      (response) => response.writeHead(200, { 'content-type': 'image/png' }).end('x'),
      { state: 'silent' },
    ],
    ['says nothing', (response) => html(response, '<h1>Pot</h1>'), { state: 'silent' }],
  ])('a page that %s', async (_what, answer, expected) => {
    answers['/pot'] = (_request, response) => answer(response);
    await visitOne();
    expect((await now())?.seen).toMatchObject(expected);
  });

  test('of 200 MB no more is read than may be', async () => {
    const part = Buffer.alloc(64 * 1024, ' ');
    answers['/pot'] = (_request, response) => {
      response.writeHead(200, { 'content-type': 'text/html' }).write(good.replace('24.90', '19.90'));
      const write = () => {
        while (sentBytes < 200 * 1024 ** 2) {
          sentBytes += part.length;
          if (!response.write(part)) return void response.once('drain', write);
        }
        response.end();
      };
      write();
    };
    await visitOne();
    expect((await now())?.seen).toMatchObject({ state: 'read', products: [{ price: '19.90' }] });
    expect(sentBytes).toBeLessThan(40 * 1024 ** 2);
  });

  test('whose rules cannot be read is not visited until they can', async () => {
    await db.execute('delete from shop_rules');
    answers['/robots.txt'] = (_request, response) => response.writeHead(503).end();
    await visitOne();
    expect(asked.filter((path) => path === '/pot')).toHaveLength(0);
    expect(await now()).toMatchObject({ failures: 1, trouble: 'its robots.txt cannot be read' });
  });

  test('an address inside the network is not visited, whatever leads there', async () => {
    await expect(on({ at: 'http://127.0.0.1:9/' })).rejects.toMatchObject({ code: 'ownNetwork' });
    await on({ pages: '', at: '' });
    await editCells([{ sku: pot, attribute: 'url', text: 'http://127.0.0.1:9/pot' }]);
    await db.update(shopPage).set({ nextAt: new Date(Date.now() + 86_400_000) });
    await visitShop(unattended);
    expect(await pageOfItem(pot)).toMatchObject({ seen: null, trouble: expect.stringMatching(/network/) });
  });
});

test('half of where pages are visited instead counts for nothing, and visits that are off are not asked for', async () => {
  // One is typed before the other, and saved at once.
  await saveVisits(shopVisitsSchema.parse({ on: false, pages: 'https://quillmoss.example/' }));
  await saveVisits(shopVisitsSchema.parse({ on: false, at: `${settings.simulators}/own-shop/pages/` }));
  await expect(visitAllNow()).rejects.toMatchObject({ code: 'visitsOff' });
  // However often it is asked for, one job does it.
  await saveVisits(shopVisitsSchema.parse({ on: true }));
  await visitAllNow();
  await visitAllNow();
  expect(await jobsOf('visitShop')).toHaveLength(1);
});

test('a picture that was measured is held against what each channel takes, for items and for families', async () => {
  await addDemoFeeds('demo');
  const { mkdir, writeFile } = await import('node:fs/promises');
  await mkdir(pictureFolder(), { recursive: true });
  const draw = (side: number) =>
    sharp({ create: { width: side, height: side, channels: 3, background: '#ffffff' } })
      .jpeg()
      .toBuffer();
  await writeFile(join(pictureFolder(), 'qm-pot-rdg-mos-14-1.jpg'), await draw(300));
  await measureAll();
  expect((await said('orrin-bazaar-de')).get(pot)).toMatchObject([
    { check: 'pictureSize', severity: 'blocker', facts: { found: '300 × 300', least: 1000 } },
  ]);
  expect((await said('lanternry-de')).has(pot)).toBe(false);
  // One that is uploaded for all of a family reaches its items.
  async function* body() {
    yield new Uint8Array(await draw(200));
  }
  const [shared] = await db
    .select({ family: item.family })
    .from(item)
    .where(eq(item.sku, 'QM-APR-LIN-FER-M'));
  const members = await db
    .select({ sku: item.sku })
    .from(item)
    .where(eq(item.family, shared?.family ?? ''));
  for (const { sku } of members) await editCells([{ sku, attribute: 'image', text: '' }]);
  await takePicture({ family: shared?.family ?? '' }, 'apron.jpg', body());
  await measureAll();
  const found = await said('orrin-bazaar-de');
  expect(found.get('QM-APR-LIN-FER-M')).toMatchObject([
    { check: 'pictureSize', facts: { found: '200 × 200' } },
  ]);
});

test('a slipped decimal point and another brand are found after an edit, and gone after the next', async () => {
  await compareSimilarItems(unattended);
  expect((await said('lanternry-de')).size).toBe(0);
  await editCells([
    { sku: pot, attribute: 'price', text: '2490' },
    { sku: 'VR-LGT-HAL-TYC-40', attribute: 'name', text: 'Tarnholt halo light' },
  ]);
  await requestComparison();
  await requestComparison();
  expect(await jobsOf('compareLikes')).toHaveLength(1);
  await compareSimilarItems(unattended);
  const found = await said('lanternry-de');
  expect(found.get(pot)).toMatchObject([{ check: 'priceOutlier', severity: 'risk' }]);
  expect(found.get('VR-LGT-HAL-TYC-40')).toMatchObject([
    { check: 'otherBrand', facts: { found: 'Tarnholt' } },
  ]);
  expect(found.size).toBe(2);
  await editCells([{ sku: pot, attribute: 'price', text: '24.90' }]);
  // It is gone at once, before anybody looks again.
  expect((await said('lanternry-de')).has(pot)).toBe(false);
  await compareSimilarItems(unattended);
  expect((await said('lanternry-de')).size).toBe(1);
  expect(
    await db
      .select()
      .from(item)
      .where(inArray(item.sku, [pot])),
  ).toHaveLength(1);
});

test('a category that items have left, or that lost some, is held against itself again', async () => {
  const wax = (at: number, price: string) => ({
    sku: `WAX-${at}`,
    family: null,
    values: { name: `Wax ${at}`, brand: 'Tarnholt', category: 'Waxes', price },
    origins: {},
    archived: false,
    category: 'Waxes',
    brand: 'Tarnholt',
    sourceId: null,
  });
  await db.transaction(async (tx) => {
    const revision = await raiseRevision(tx);
    await tx
      .insert(item)
      .values(
        ['18', '18', '19', '17', '18', '18', '180'].map((price, at) => ({ ...wax(at, price), revision })),
      );
  });
  const told = async () => {
    await compareSimilarItems(unattended);
    const hints = await db.select().from(itemHint).where(like(itemHint.sku, 'WAX-%'));
    return hints.flatMap(({ sku, hints: one }) => (one?.price ? [[sku, one.price.alike]] : []));
  };
  expect(await told()).toEqual([['WAX-6', 6]]);
  await editCells([{ sku: 'WAX-0', attribute: 'category', text: 'Seals' }]);
  expect(await told()).toEqual([['WAX-6', 5]]);
  // Taken out of the database altogether, nothing is left that could tell where it was.
  await db.delete(item).where(eq(item.sku, 'WAX-1'));
  await db.transaction((tx) => raiseRevision(tx));
  expect(await told()).toEqual([['WAX-6', 4]]);
  // Too few are left to say what is usual.
  await editCells([{ sku: 'WAX-2', attribute: 'category', text: '' }]);
  expect(await told()).toEqual([]);
  await db.delete(item).where(like(item.sku, 'WAX-%'));
});

test('a large category is held against itself a part at a time, each currency by itself; not while a file comes in', async () => {
  const ink = (at: number, price: string) => ({
    sku: `INK-${at}`,
    family: null,
    values: { name: `Ink ${at}`, brand: 'Tarnholt', category: 'Inks', price },
    origins: {},
    archived: false,
    sourceId: null,
  });
  const slipped = new Set([3, 700, 1234]);
  await db.transaction(async (tx) => {
    const inks = Array.from({ length: 1300 }, (_, at) =>
      ink(at, slipped.has(at) ? '180' : `${15 + (at % 7)}`),
    );
    // As dear as the slipped ones, and as all others in their currency.
    const dear = Array.from({ length: 8 }, (_, at) => ink(2000 + at, `${170 + at} SEK`));
    await writeItems(tx, [...inks, ...dear], new Map(), await raiseRevision(tx));
    await enqueue(tx, 'applyRun', { run: 4711 });
  });
  await requestComparison();
  expect(await jobsOf('compareLikes')).toHaveLength(0);
  await db.delete(job).where(eq(job.kind, 'applyRun'));
  await requestComparison();
  expect(await jobsOf('compareLikes')).toHaveLength(1);
  await compareSimilarItems(unattended);
  const hints = await db.select().from(itemHint).where(like(itemHint.sku, 'INK-%'));
  expect(hints.map((one) => [one.sku, one.hints?.price]).sort()).toEqual(
    [...slipped].map((at) => [`INK-${at}`, { of: '180', usual: '18.00', alike: 1299 }]).sort(),
  );
});

test('the demo’s addresses follow the simulated channels to another port; a merchant’s own stay', async () => {
  const own = 'https://supplier.example/files/list.csv';
  const [first, second] = await db.select({ id: source.id }).from(source).limit(2);
  await db
    .update(source)
    .set({ address: 'http://127.0.0.1:9/files/a.xml' })
    .where(eq(source.id, first?.id ?? 0));
  await db
    .update(source)
    .set({ address: own })
    .where(eq(source.id, second?.id ?? 0));
  await db.update(workspace).set({
    shopVisits: shopVisitsSchema.parse({
      pages: 'https://quillmoss.example/',
      at: 'http://127.0.0.1:9/own-shop/pages/',
    }),
  });
  await followSimulators();
  await followSimulators();
  const addresses = new Map(
    (await db.select({ id: source.id, address: source.address }).from(source)).map((one) => [
      one.id,
      one.address,
    ]),
  );
  expect(addresses.get(first?.id ?? 0)).toBe(`${settings.simulators}/files/a.xml`);
  expect(addresses.get(second?.id ?? 0)).toBe(own);
  expect((await readVisits()).at).toBe(`${settings.simulators}/own-shop/pages/`);
});
