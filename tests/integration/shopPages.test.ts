import { editCells } from '@/server/catalog/itemEdits';
import { addDemoFeeds } from '@/server/demo/load';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { closeDatabase, freshDemo } from '../support/stack';

/** The demo's own shop shows what was typed for a page, and tells only of downloads how they arrive. */
beforeAll(async () => {
  await freshDemo();
  await addDemoFeeds('demo');
});
afterAll(closeDatabase);

const listingsOf = async (feed: string) => {
  const work = await loadFeedContext(feed);
  if (!work) throw new Error(`${feed} is gone`);
  const at = (code: string) => work.sheet.fields.findIndex((field) => field.code === code);
  return {
    work,
    value: (sku: string, code: string) =>
      [...work.draft.listings].find((one) => one.sku === sku)?.values[at(code)],
  };
};

test('page title and description that were typed are sent', async () => {
  const sku = 'QM-POT-RDG-MOS-14';
  const before = await listingsOf('own-shop-de');
  expect(before.value(sku, 'page_title')).toMatch(/Quillmoss Indoor Garden$/);
  await editCells([
    { sku, attribute: 'pageTitle', text: 'A pot with ridges, moss green' },
    { sku, attribute: 'pageDescription', text: 'Thrown by hand.' },
  ]);
  const after = await listingsOf('own-shop-de');
  expect([after.value(sku, 'page_title'), after.value(sku, 'page_description')]).toEqual([
    'A pot with ridges, moss green',
    'Thrown by hand.',
  ]);
});

test('only downloads say how they arrive', async () => {
  const { work, value } = await listingsOf('own-shop-de');
  const slot = work.snapshot.index.slotOf('digital') ?? -1;
  for (const [at, sku] of work.snapshot.skus.entries()) {
    const digital = work.snapshot.rows[at]?.[slot] === 'true';
    if (!digital) expect([sku, value(sku, 'delivery_note')]).toEqual([sku, undefined]);
  }
});
