import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { editCells } from '@/server/catalog/itemEdits';
import { db } from '@/server/db/connection';
import { destination } from '@/server/db/schema';
import { addDemoFeeds } from '@/server/demo/load';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { unattended } from '@/server/jobs/queue';
import { ledgerOf } from '@/server/ledger/ledger';
import { sampleView } from '@/server/pages/representativeItems';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { familiesStage } from '@/server/stages/families';
import { matchingStage, refuseEntry } from '@/server/stages/matching';
import { requestChannelSearch, searchChannel } from '@/server/submissions/channelSearch';
import { dueOn } from '@/server/submissions/due';
import { listSubmissions, releaseSubmission, sendFeed } from '@/server/submissions/submissions';
import { destinationView } from '@/server/transports/destinations';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

let channels: Channels;
beforeAll(async () => {
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-families-')), 0.05, 0.1);
});
beforeEach(async () => {
  await freshDemo();
  await addDemoFeeds('demo');
  await channels.forget();
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

const orrin = 'orrin-bazaar-de';
const pot = 'POT-RDG';
type Edit = Parameters<typeof editDraft>[2];

async function edited(set: Extract<Edit, { edit: 'families' }>['set']): Promise<void> {
  const plans = await feedPlans(orrin);
  const saved = await editDraft(orrin, plans?.revision ?? 0, { edit: 'families', set });
  expect(saved).toMatchObject({ ok: true });
}
const work = async () => {
  const found = await loadFeedContext(orrin);
  if (!found) throw new Error('The feed is not there.');
  return found;
};
const stage = async (family = pot) => familiesStage(await work(), { family });

async function publishAndSend(what: 'due' | 'everything' = 'due'): Promise<void> {
  const plans = await feedPlans(orrin);
  if ((await work()).changes > 0) await publishDraft(orrin, plans?.revision ?? 0, 'a trial');
  const sent = await sendFeed(orrin, what);
  if (!sent.ok) throw new Error(sent.reason);
  if (sent.held) await releaseSubmission(sent.submission, 'a trial');
  await untilAnswered(sent.submission);
}
/** What the channel itself has of the pot: number, family and relation, by key. */
async function there() {
  const listings = (await channels.state())['orrin-bazaar']?.listings ?? {};
  return Object.fromEntries(
    Object.entries(listings)
      .filter(([key]) => key.startsWith(`QM-${pot}`) || key.startsWith(pot))
      .map(([key, { number, row }]) => [key, { number, row }]),
  );
}

test('a family is taken apart and joined again on the channel: numbers stay, and in the end everything is as it was', async () => {
  await publishAndSend('everything');
  const before = await there();
  const members = Object.keys(before).filter((key) => key !== pot);
  expect(members.length).toBeGreaterThan(8);
  expect(before[pot]?.row.relation).toEqual(['lead']);
  expect((await stage()).current).toMatchObject({ code: pot, shown: 'together', chosenBy: 'feed' });

  await edited({ families: { [pot]: 'singly' } });
  expect((await stage()).current).toMatchObject({ shown: 'singly', chosenBy: 'family' });
  // The thread of the value says why there is none.
  const [ready = ''] = members;
  const sample = await sampleView(await work(), ready, 'family_code');
  expect(sample?.thread.map(({ words }) => words)).toContain('variants are listed one by one here');
  await publishAndSend();
  const apart = await there();
  expect(Object.keys(apart).sort()).toEqual([...members].sort());
  for (const key of members) {
    expect(apart[key]?.number).toBe(before[key]?.number);
    expect([apart[key]?.row.family_code, apart[key]?.row.relation]).toEqual([[], []]);
    expect(apart[key]?.row.entry_name).toEqual(before[key]?.row.entry_name);
  }

  await edited({ families: { [pot]: null } });
  await publishAndSend();
  const again = await there();
  expect(Object.keys(again).sort()).toEqual(Object.keys(before).sort());
  for (const key of members) expect(again[key]).toEqual(before[key]);
  // The lead is made anew; what it says is what it said.
  expect(again[pot]?.row).toEqual(before[pot]?.row);
});

test('a branch may show its families singly, and one of them otherwise; an axis may part them', async () => {
  const { current } = await stage();
  await edited({ branches: { [current?.branch?.code ?? '']: 'singly' } });
  expect((await stage()).current).toMatchObject({ shown: 'singly', chosenBy: 'branch' });
  await edited({ families: { [pot]: 'together' } });
  expect((await stage()).current).toMatchObject({ shown: 'together', chosenBy: 'family' });
  await edited({ branches: {}, families: {}, apart: ['glaze'] });
  const { draft, sheet } = await work();
  const at = sheet.fields.findIndex(({ role }) => role === 'group');
  const groups = new Set(
    [...draft.listings].filter(({ sku }) => sku.startsWith('QM-POT-RDG')).map(({ values }) => values[at]),
  );
  expect(groups).toContain('POT-RDG-MOSS');
  expect(groups.size).toBe(4);
});

test('the stage shows the grid with the channel’s words, and what is wrong', async () => {
  const first = await stage();
  expect(first.manner).toBe('leads');
  const { current } = first;
  expect(current?.axes.map(({ label }) => label)).toEqual(['Glaze', 'Diameter']);
  expect(current?.across).toEqual(['10 cm', '14 cm', '18 cm']);
  const moss = current?.down.find(({ words }) => words === 'moss');
  expect(moss?.theirs).toMatch(/green/);
  expect(moss?.cells.map((cells) => cells.map(({ state }) => state))).toEqual([
    ['ready'],
    ['ready'],
    ['ready'],
  ]);
  const twin = moss?.cells[0]?.[0]?.sku ?? '';
  await editCells([{ sku: twin, attribute: 'diameter', text: '14 cm' }]);
  const after = await stage();
  expect(after.current?.faults.map(({ words }) => words).join('; ')).toMatch(
    /QM-POT-RDG-MOS-10, QM-POT-RDG-MOS-14 are both moss, 14 cm/,
  );
  expect(after.toShape).toBe(first.toShape + 1);
});

test('single items of one brand and category that differ by a colour could be one family', async () => {
  expect((await stage()).joinable).toEqual([]);
  const { moveItems } = await import('@/server/catalog/families');
  const skus = (await work()).snapshot.items
    .filter(({ family }) => family === pot)
    .map(({ sku }) => sku)
    .slice(0, 3);
  await moveItems(skus, null);
  expect((await stage('')).joinable).toEqual([
    { skus, name: expect.stringContaining('Ridge pot'), axes: expect.arrayContaining(['Diameter']) },
  ]);
});

/** Asks the channel for all that waits, as the worker does. */
async function searched(): Promise<void> {
  for (;;) {
    const wait = await searchChannel(orrin, unattended);
    if (wait === undefined) return;
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}

describe('what the channel has already', () => {
  const can = 'QM-CAN-LON-COP-1';
  const odd = 'QM-CAN-LON-WHI-1';
  const joining = async () => matchingStage(await work());
  const join = async (joined: Extract<Edit, { edit: 'joined' }>['joined']) =>
    expect(
      await editDraft(orrin, (await feedPlans(orrin))?.revision ?? 0, { edit: 'joined', joined }),
    ).toMatchObject({ ok: true });

  test('is looked for by number, then by name; surely the same is told from what is in doubt', async () => {
    const before = await joining();
    expect(before).toMatchObject({ can: true, asked: 0, waiting: 0, sure: [], doubts: [] });
    expect(await requestChannelSearch(orrin)).toBe(before.unasked);
    expect((await joining()).waiting).toBe(before.unasked);
    await searched();
    const found = await joining();
    expect(found).toMatchObject({ waiting: 0, asked: before.unasked, unasked: 0, trouble: undefined });
    // Not asked a second time so soon.
    expect(await requestChannelSearch(orrin)).toBe(0);
    const sure = new Map(found.sure.map(({ item, entry }) => [item.code, entry.code]));
    expect(sure.get(can)).toBe('OB-700001');
    expect(sure.get('QM-TRY-OVA-HON')).toBe('OB-700003');
    expect(sure.get('SP-BOK-SMA-PAP')).toBe('OB-700004');
    // One number, another brand: a doubt that is not taken.
    const doubt = found.doubts.find(({ item }) => item.code === odd);
    expect(doubt?.candidates.map(({ variant }) => variant.code)).toEqual(['OB-700002']);
    expect(doubt?.candidates[0]?.supports).toContain('the same GTIN');
    expect(doubt?.candidates[0]?.objects.join('; ')).toMatch(/Verrin/);
    expect(sure.has(odd)).toBe(false);
    // What the feed's own listings stand on is nothing to join.
    const own = new Set([...(await ledgerOf(orrin)).values()].flatMap(({ number }) => number ?? []));
    for (const { entry } of found.sure) expect(own.has(entry.code)).toBe(false);
    await refuseEntry(orrin, odd, 'OB-700002', true);
    const after = await joining();
    expect(after.doubts.some(({ item }) => item.code === odd)).toBe(false);
    expect(after.none.some(({ code }) => code === odd)).toBe(true);
    await refuseEntry(orrin, odd, 'OB-700002', false);
    expect((await joining()).doubts.some(({ item }) => item.code === odd)).toBe(true);
  });

  test('an item that joins is ready with little, is sent as an offer of the entry, and parts again', async () => {
    const stateOf = async () => [...(await work()).draft.listings].find(({ sku }) => sku === can);
    expect((await stateOf())?.state).toBe('blocked');
    await join({ [can]: { entry: 'OB-700001', name: 'A can' } });
    expect(await stateOf()).toMatchObject({ state: 'ready', issues: [] });
    await publishAndSend();
    const held = (await channels.state())['orrin-bazaar']?.listings[can];
    expect(held?.number).toBe('OB-700001');
    expect(held?.row).toMatchObject({
      entry_number: ['OB-700001'],
      entry_name: [],
      long_text: [],
      relation: [],
    });
    expect(held?.row.offer_price?.[0]).toMatch(/^38(\.00)? EUR$/);
    expect((await ledgerOf(orrin)).get(can)).toMatchObject({ held: expect.anything(), number: 'OB-700001' });
    expect((await joining()).joined).toMatchObject([{ item: { code: can }, sent: 'taken' }]);
    await join({ [can]: null });
    expect((await stateOf())?.state).toBe('blocked');
    expect((await work()).plans.draft.joined).toBeUndefined();
  });

  test('an entry that is there no more is refused at its field; where the channel cannot be asked, that is said', async () => {
    await join({ [can]: { entry: 'OB-1', name: 'gone' } });
    await publishAndSend();
    expect((await ledgerOf(orrin)).get(can)?.problems).toEqual([
      { code: 'OB-206', field: 'entry_number', text: 'There is no entry of this number' },
    ]);
    // An address that is none stops the search, and says so; all is asked for again with the next press.
    await destinationView({ code: orrin, channel: 'orrin-bazaar' });
    await db.update(destination).set({ address: 'http://127.0.0.1:9' }).where(eq(destination.feed, orrin));
    const asked = await requestChannelSearch(orrin);
    expect(await searchChannel(orrin, unattended)).toBeUndefined();
    expect(await joining()).toMatchObject({
      waiting: 0,
      unasked: asked,
      trouble: expect.stringMatching(/network|inside/i),
    });
  });
});

test('cards of many: one entry a family on a channel of single listings, with the main pictures of all; what its members had is taken back', async () => {
  const boards = 'tessel-boards-de';
  // The shop's pages come first: the demo has them on their way.
  for (const { id, state } of await listSubmissions('own-shop-de'))
    if (state === 'queued' || state === 'sending') await untilAnswered(id);
  const before = await dueOn(boards);
  const groupAt = before?.sheet.fields.findIndex(({ role }) => role === 'group') ?? -1;
  const groupOf = ({ out }: { out: { values: readonly unknown[] } | undefined }) =>
    String(out?.values[groupAt] ?? '');
  const found = before?.listings ?? [];
  const groups = [...new Set(found.map(groupOf))]
    .filter((code) => code !== '')
    .map((code) => [code, found.filter((one) => groupOf(one) === code)] as const);
  const [[own = '', members = []] = []] = groups.sort(([, a], [, b]) => b.length - a.length);
  expect(members.length).toBeGreaterThan(1);
  const edit = async (set: Extract<Edit, { edit: 'families' }>['set']) => {
    expect(
      await editDraft(boards, (await feedPlans(boards))?.revision ?? 0, { edit: 'families', set }),
    ).toMatchObject({ ok: true });
    await publishDraft(boards, (await feedPlans(boards))?.revision ?? 0, 'a trial');
  };
  await edit({ asOne: true });
  const after = await dueOn(boards);
  const card = after?.listings.find(({ sku }) => sku === own);
  expect(card).toMatchObject({ due: 'new' });
  const there = members.filter(({ kept }) => kept?.held).map(({ sku }) => sku);
  for (const sku of there)
    expect([sku, after?.listings.find((one) => one.sku === sku)?.due]).toEqual([sku, 'withdraw']);
  const sent = await sendFeed(boards, { only: [own] });
  if (!sent.ok) throw new Error(sent.reason);
  await untilAnswered(sent.submission);
  const row = (await channels.state())['tessel-boards']?.listings[own]?.row;
  expect(row?.card_key).toEqual([own]);
  // The file has them in one cell; each is a picture of another member.
  const pictures = (row?.more_pictures?.[0] ?? '').split('|');
  expect(pictures.length).toBeGreaterThan(1);
  expect(new Set(pictures).size).toBe(pictures.length);
  await edit({ asOne: false });
  expect((await dueOn(boards))?.listings.find(({ sku }) => sku === own)?.due).toBe('withdraw');
});
