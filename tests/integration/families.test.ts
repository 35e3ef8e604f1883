import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { editCells } from '@/server/catalog/itemEdits';
import { addDemoFeeds } from '@/server/demo/load';
import { editDraft, feedPlans, publishDraft } from '@/server/feeds/drafts';
import { familiesStage } from '@/server/feeds/familiesStage';
import { sampleView } from '@/server/feeds/samples';
import { loadFeed } from '@/server/feeds/work';
import { releaseSubmission, sendFeed } from '@/server/submissions/submissions';
import { closeDatabase, freshDemo } from '../support/stack';
import { type Channels, startChannels, untilAnswered } from '../support/standins';

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
  const found = await loadFeed(orrin);
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
  expect(sample?.thread.map(({ words }) => words)).toContain('members stand singly here');
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
    draft.listings.filter(({ sku }) => sku.startsWith('QM-POT-RDG')).map(({ values }) => values[at]),
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
