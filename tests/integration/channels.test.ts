import { listChannels, needsOfItem } from '@/server/channels/sheets';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { editDraft, listFeeds, publishDraft } from '@/server/plans/drafts';
import { createFeed } from '@/server/plans/feeds';
import { fieldsStage } from '@/server/stages/fields';
import { sendFeed } from '@/server/submissions/submissions';
import { closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

test('six channels, each with what a merchant compares them by', async () => {
  const channels = await listChannels();
  expect(channels.map(({ name }) => name)).toEqual([
    'Flickerstall',
    'Lanternry',
    'Orrin Bazaar',
    'Own shop',
    'Plazuela Norte',
    'Tessel Boards',
  ]);
  for (const { fields, musts, categories } of channels) {
    expect(musts).toBeGreaterThan(4);
    expect(fields).toBeGreaterThan(musts);
    expect(categories).toBeGreaterThan(150);
  }
});

describe('what an item would need', () => {
  const needed = async (channel: string, country: string, sku: string) =>
    new Map((await needsOfItem(channel, country, sku))?.lines.map(({ field, value }) => [field.code, value]));

  test.each([
    // Clothing: colour, size and whom it is for.
    [
      'orrin-bazaar',
      'DE',
      'QM-APR-LIN-FER-S',
      ['colour', 'size', 'department', 'responsible'],
      ['author', 'plug_type'],
    ],
    // The same in Great Britain: a customs code instead of a person in the EU.
    ['orrin-bazaar', 'GB', 'QM-APR-LIN-FER-S', ['customs_code'], ['responsible']],
    [
      'orrin-bazaar',
      'DE',
      'SP-BOK-SHA-HAR',
      ['author', 'binding', 'product_number'],
      ['colour', 'efficiency'],
    ],
    // Lamps: their plug and, in the EU, their efficiency class.
    ['orrin-bazaar', 'DE', 'VR-LGT-HAL-TYC-20', ['plug_type', 'efficiency'], ['author']],
    ['orrin-bazaar', 'GB', 'VR-LGT-HAL-TYC-20', ['plug_type'], ['efficiency']],
    // Children's goods.
    ['orrin-bazaar', 'DE', 'OB-KIT-FIR-SMA', ['age_from', 'warning'], ['colour']],
    ['flickerstall', 'DE', 'OB-KIT-FIR-SMA', ['age_from', 'warning_words', 'weight'], ['writer']],
    ['plazuela-norte', 'ES', 'SP-BOK-SHA-HAR', ['autor', 'encuadernacion'], ['color', 'advertencia']],
    ['tessel-boards', 'DE', 'QM-APR-LIN-FER-S', ['colour', 'size', 'made_for'], ['age_note']],
  ] as const)('%s in %s: %s', async (channel, country, sku, there, absent) => {
    const lines = await needed(channel, country, sku);
    for (const code of there) expect([code, lines.has(code)]).toEqual([code, true]);
    for (const code of absent) expect([code, lines.has(code)]).toEqual([code, false]);
  });

  test('a download has no weight to give, but a note on how it arrives; a video shop wants a weight all the same', async () => {
    const shop = await needed('own-shop', 'DE', 'QM-PRT-CAL-A4');
    expect([shop.has('weight'), shop.has('delivery_note')]).toEqual([false, true]);
    expect((await needed('flickerstall', 'DE', 'QM-PRT-CAL-A4')).has('weight')).toBe(true);
  });

  test('what the item has is shown with it', async () => {
    const lines = await needed('orrin-bazaar', 'DE', 'VR-LGT-HAL-TYC-20');
    expect(lines.get('maker')).toBe('Verrin');
    expect(lines.get('plug_type')).toBe('Type C');
    // An SKU is no product number, even where nothing better is there.
    expect((await needed('orrin-bazaar', 'DE', 'QM-APR-LIN-FER-S')).get('product_number')).toBe('');
    expect(await needsOfItem('orrin-bazaar', 'DE', 'NO-SUCH')).toBeUndefined();
  });
});

test('a feed of another channel is mapped and evaluated; it is not sent where nothing answers', async () => {
  const code = await createFeed('plazuela-norte', 'ES', 'es');
  expect((await listFeeds()).map((feed) => feed.code)).toEqual(['lanternry-de', code]);
  await expect(createFeed('plazuela-norte', 'ES', 'es')).rejects.toThrow('already a feed');
  await expect(createFeed('plazuela-norte', 'DE', 'de')).rejects.toThrow('has no market DE');
  const work = await loadFeedContext(code);
  if (!work) throw new Error('no feed');
  const stage = await fieldsStage(work, 'QM-POT-RDG-MOS-14');
  const fields = Object.fromEntries(
    stage.rows.flatMap(({ code: field, suggestions: [best] }) =>
      best && best.score >= stage.takeAllFrom ? [[field, best.composition] as const] : [],
    ),
  );
  expect(Object.keys(fields).length).toBeGreaterThan(25);
  expect(await editDraft(code, 1, { edit: 'fields', fields })).toMatchObject({ ok: true });
  const mapped = await loadFeedContext(code);
  const price = mapped?.sheet.fields.findIndex((field) => field.code === 'precio') ?? -1;
  expect(mapped?.draft.listings.at(0)?.values[price]).toBe('18.90 EUR');
  const answer = await editDraft(code, 2, {
    edit: 'place',
    placements: { 'Pots, glazed': { category: '01.01.01' } },
  });
  expect(answer).toMatchObject({ ok: true });
  const placed = await loadFeedContext(code);
  expect([...(placed?.draft.listings ?? [])].some(({ state }) => state === 'blocked')).toBe(true);
  await publishDraft(code, 3, 'first');
  const sent = await sendFeed(code, 'everything');
  expect(sent.ok).toBe(false);
});
