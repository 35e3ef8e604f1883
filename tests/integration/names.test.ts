import { editCells } from '@/server/catalog/itemEdits';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { previewRun } from '@/server/import/preview';
import { changeMapping, findRun } from '@/server/import/runs';
import { takeFile } from '@/server/import/sources';
import { itemQuerySchema } from '@/server/items/itemQuery';
import { itemTable, queryItems } from '@/server/items/items';
import { saveWords } from '@/server/stages/values';
import { pass } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

/** Names that every object has are ordinary headings, words and columns. */
beforeAll(freshDemo);
afterAll(closeDatabase);

const names = ['__proto__', 'constructor', 'toString', 'hasOwnProperty'];

test.each(names)('a file with the heading %s is shown, checked and applied', async (name) => {
  const text = `SKU;Name;${name};Price\nPROTO-1;Wicker shade;x;9.90 EUR\nPROTO-2;Wicker shade two;y;9.90 EUR\n`;
  const id = await takeFile('shades.csv', bodyOf(text));
  const found = await findRun(id);
  if (!found) throw new Error('the run is gone');
  const preview = await previewRun(found);
  // A page is given plain objects only.
  expect(Object.getPrototypeOf(preview.filled)).toBe(Object.prototype);
  expect(preview.columns.map((one) => one.name)).toContain(name);
  await changeMapping(id, (mapping) => ({ ...mapping, key: 'sku' }));
  const done = await pass(id, 'check');
  expect([done.state, done.error]).toEqual(['checked', null]);
});

test.each(names)('a column called %s in the address of an export is no error', async (name) => {
  const query = itemQuerySchema.parse({ columns: `name,${name}` });
  const { headings } = await itemTable(query);
  expect(headings.every((heading) => typeof heading === 'string')).toBe(true);
  await queryItems({
    from: 0,
    count: 10,
    ...itemQuerySchema.parse({ columns: `name,${name}`, sort: name, [`f.${name}`]: 'x' }),
  });
});

test.each(names.slice(1))('the word %s means a choice like any other', async (name) => {
  await editCells([{ sku: 'QM-POT-RDG-MOS-14', attribute: 'glaze', text: name }]);
  const work = await loadFeedContext('lanternry-de');
  if (!work) throw new Error('the feed is gone');
  const words = JSON.parse(`{${JSON.stringify(name)}: "green"}`);
  expect(await saveWords(work, work.plans.revision, 'colour', words, true)).toMatchObject({ ok: true });
  const after = await loadFeedContext('lanternry-de');
  const at = after?.sheet.fields.findIndex(({ code }) => code === 'colour') ?? -1;
  const listing = [...(after?.draft.listings ?? [])].find(({ sku }) => sku === 'QM-POT-RDG-MOS-14');
  expect(listing?.values[at]).toBe('green');
});
