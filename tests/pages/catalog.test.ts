import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '../support/pages';

const idle = (page: Page) => expect(page.locator('[aria-busy="true"]')).toHaveCount(0);

/** Takes back what a message on the page says was done. */
const undo = (page: Page, done: string) =>
  page.getByRole('alert').filter({ hasText: done }).getByRole('button', { name: 'Undo' }).click();

/** A supplier's XML whose list, variants and names must be found; one variant repeats another. */
const xml = `<?xml version="1.0"?><export><about><who>Harnley</who></about><range>${[
  ['BRK', 'Wall bracket', 'oak', 'ash'],
  ['SLT', 'Shelf slat', 'oak', 'oak'],
]
  .map(
    ([code, name, ...woods]) =>
      `<article code="${code}"><title>${name}</title><forms>${woods
        .map((wood, i) => `<form number="HL-${code}-${i}"><wood>${wood}</wood><ask>${i + 4},50</ask></form>`)
        .join('')}</forms></article>`,
  )
  .join('')}</range></export>`;

test('an XML source: from its tree to families', async ({ page }) => {
  await page.goto('/sources');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'harnley.xml', mimeType: 'application/xml', buffer: Buffer.from(xml) });
  await expect(page.getByRole('heading', { name: 'harnley.xml' })).toBeVisible();
  await expect(page.getByLabel('Records')).toHaveValue('export/range/article');
  await expect(page.getByLabel('Variants in')).toHaveValue('forms/form');

  // What could not be told from the headings is picked from the tree.
  await page.getByRole('button', { name: /^Price, / }).click();
  const tree = page.getByRole('list', { name: 'Values of a record' });
  await expect(tree.getByRole('button', { name: 'Take forms/form/ask' })).toContainText('4/4');
  await tree.getByRole('button', { name: 'Take forms/form/ask' }).click();
  await expect(page.getByRole('button', { name: 'Price, filled' })).toBeVisible();
  await idle(page);
  await page.getByRole('button', { name: 'Price, filled' }).click();
  for (const [attribute, path] of [
    ['SKU', 'forms/form/@number'],
    ['Name', 'title'],
    ['Colour', 'forms/form/wood'],
  ] as const) {
    const row = page.getByRole('button', { name: new RegExp(`^${attribute}, `) });
    if ((await row.getAttribute('aria-label')) === `${attribute}, filled`) continue;
    await row.click();
    await page.getByRole('button', { name: `Take ${path}`, exact: true }).click();
    await expect(page.getByRole('button', { name: `${attribute}, filled` })).toBeVisible();
    await idle(page);
    await page.getByRole('button', { name: `${attribute}, filled` }).click();
  }

  const colour = page.getByRole('button', { name: 'Colour, filled' });
  await expect(colour).toHaveAttribute('aria-expanded', 'false');
  await colour.click();
  await expect(colour).toHaveAttribute('aria-expanded', 'true');
  await page.getByRole('button', { name: 'Map its values by a value mapping' }).click();
  const table = page.getByRole('region', { name: 'Value mapping color' });
  await table.getByLabel('ash becomes').fill('pale ash');
  await table.getByLabel('ash becomes').press('Enter');
  await idle(page);
  await expect(page.getByRole('cell', { name: 'pale ash' })).toBeVisible();
  await page.getByRole('button', { name: 'Check all rows' }).click();
  await expect(page.getByText('4 new', { exact: true }).first()).toBeVisible();
  await page.getByRole('tab', { name: /^Families/ }).click();
  const families = page.getByRole('tabpanel', { name: 'Families' });
  await expect(families.getByRole('row', { name: /BRK.*2 items by color/ })).toBeVisible();
  await expect(families.getByText('another row has the same axis values')).toBeVisible();
  await page.getByRole('button', { name: 'Import 4 items' }).click();
  await expect(page.getByRole('button', { name: 'Undo this run' })).toBeVisible();
  await page.goto('/families/BRK');
  await expect(page.getByRole('heading', { name: 'Wall bracket' })).toBeVisible();
  await expect(page.getByRole('row', { name: /HL-BRK-1.*pale ash.*5\.50/ })).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Undo this run' }).click();
  await expect(page.getByText('Undone.')).toBeVisible();
  await page.goto('/items?q=HL-');
  await expect(page.getByText('No item matches.')).toBeVisible();
});

test('a family made from axes: 4 × 3 × 2', async ({ page }) => {
  await page.goto('/families');
  await page.getByRole('button', { name: 'Add family' }).click();
  await page.getByLabel('Code of the family').fill('HAT-SUN');
  await page.getByLabel('Name of the family').fill('Sun hat');
  await page.getByRole('button', { name: 'Create family' }).click();
  await expect(page.getByRole('heading', { name: 'Sun hat' })).toBeVisible();
  const maker = page.getByRole('region', { name: 'Add variants' });
  const axis = async (code: string, label: string, terms: string[]) => {
    await maker.getByLabel('Axis of the variants').selectOption(code);
    for (const term of terms) {
      const known = maker.getByRole('button', { name: term, exact: true });
      if (await known.count()) await known.first().click();
      else {
        await maker.getByLabel(`New term of ${label}`).fill(term);
        await maker.getByLabel(`New term of ${label}`).press('Enter');
      }
    }
  };
  await axis('color', 'Colour', ['fern', 'oat', 'ink', 'plum']);
  await axis('size', 'Size', ['S', 'M', 'L']);
  await axis('gender', 'Gender', ['women', 'men']);
  await expect(maker.getByRole('status')).toContainText('24 combinations: 0 exist');
  await expect(maker.getByRole('row', { name: /HAT-SUN-FERN-S-WOMEN/ })).toBeVisible();
  await maker.getByRole('button', { name: 'Make 24 variants' }).click();
  await expect(page.getByRole('heading', { name: /^24 items/ })).toBeVisible();
  await maker.getByLabel('New term of Size').fill('XL');
  await maker.getByLabel('New term of Size').press('Enter');
  await expect(maker.getByRole('button', { name: 'Make 8 variants' })).toBeEnabled();
  await undo(page, 'Made 24 variants');
  await expect(page.getByText('No items yet.')).toBeVisible();
});

test('a new item: what cannot be read is said at its field, and nothing typed is lost', async ({ page }) => {
  await page.goto('/items/new');
  const put = async (label: string, text: string) => {
    await page.getByRole('textbox', { name: label, exact: true }).fill(text);
    await page.keyboard.press('Tab');
  };
  await put('SKU', 'QM-POT-RDG-MOS-14');
  await put('Name', 'Oak stool');
  await put('GTIN', '9520000030156');
  await put('Price', 'twelve');
  await put('Weight', '3,5');
  await put('Sow by', '5/2/2027');
  const add = page.getByRole('button', { name: 'Add item', exact: true });
  await expect(page.getByText('The check digit is wrong: 5 would be right.')).toBeVisible();
  await expect(page.getByText('“twelve” is not an amount', { exact: false })).toBeVisible();
  await expect(add).toBeDisabled();
  await put('GTIN', '9520000030155');
  await put('Price', '89,90');
  await add.click();
  // The SKU is taken: the form stays as it is.
  await expect(page.locator('main').getByRole('alert')).toContainText('QM-POT-RDG-MOS-14');
  await put('SKU', 'NEW-STOOL');
  await add.click();
  await expect(page.getByRole('heading', { level: 1, name: 'Oak stool' })).toBeVisible();
  for (const shown of ['89.90', '3.5 kg', '05/02/2027'])
    await expect(page.getByText(shown, { exact: true }).first()).toBeVisible();
});

test('a bulk edit shows what it will do, and can be undone', async ({ page }) => {
  await page.goto('/items?f.category=%3DBooks');
  await expect(page.getByRole('status').first()).toHaveText(/^19 of /);
  await page.getByLabel('Select all items').check();
  await expect(page.getByText('19 items selected')).toBeVisible();
  await page.getByRole('button', { name: 'Bulk edit' }).click();
  const bulk = page.getByRole('region', { name: 'Bulk edit' });
  await bulk.getByLabel('Attribute to set').selectOption('price');
  await expect(bulk.getByText('0 change, 19 stay')).toBeVisible();
  await bulk.getByRole('button', { name: 'Add step', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Change the amount' }).click();
  await expect(bulk.getByText('19 change, 0 stay')).toBeVisible();
  await expect(bulk.locator('.bulk-line').first().locator('mark.new')).toBeVisible();
  await bulk.getByRole('button', { name: 'Change 19 items' }).click();
  await expect(page.getByText('Set Price of 19 items')).toBeVisible();
  await expect(page.locator('[data-cell]', { hasText: '30.80' }).first()).toBeVisible();
  await undo(page, 'Set Price of 19 items');
  await expect(page.getByText(/^Undone: set Price/)).toBeVisible();
  await expect(page.locator('[data-cell]', { hasText: '30.80' })).toHaveCount(0);
});

test('a block is pasted from a spreadsheet; a cell is edited in place', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto('/items?columns=sku,name,price,color&f.category=%3DSeeds&sort=sku');
  const cell = (row: number, column: number) => page.locator(`[data-cell="${row}:${column}"]`);
  await expect(cell(0, 2)).not.toBeEmpty();
  const before = await cell(0, 2).textContent();
  await cell(0, 2).click();
  await page.evaluate(() => navigator.clipboard.writeText('7,10\tmoss\n7,20\tfern\n7,30\t"dark\nred"'));
  await page.keyboard.press('Control+v');
  await expect(page.getByText('Changed 6 cells of 3 items')).toBeVisible();
  await expect(cell(0, 2)).toHaveText('7.10');
  await expect(cell(1, 3)).toHaveText('fern');
  await expect(cell(2, 3)).toHaveText('dark red');

  // Something that cannot be taken leaves the whole block as it was.
  await page.evaluate(() => navigator.clipboard.writeText('8,00\tink\ndear\tink'));
  await cell(0, 2).click();
  await page.keyboard.press('Control+v');
  await expect(page.getByText(/“dear” is not an amount.*Nothing was changed/)).toBeVisible();
  await expect(cell(0, 2)).toHaveText('7.10');

  await cell(0, 2).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('6.40');
  await page.keyboard.press('Enter');
  await expect(cell(0, 2)).toHaveText('6.40');
  await expect(cell(0, 2)).toBeFocused();
  for (const words of [/^Undone: changed 1 cell/, /^Undone: changed 6 cells/]) {
    await page.keyboard.press('Control+z');
    await expect(page.getByText(words).first()).toBeVisible();
  }
  await expect(cell(0, 2)).toHaveText(before ?? '');
});

test('pictures are put in order by keyboard, and the first is the main one', async ({ page }) => {
  await page.goto('/items/QM-POT-RDG-MOS-14');
  const pictures = page.getByRole('region', { name: 'Pictures' });
  await expect(pictures.locator('.picture-line')).toHaveCount(2);
  const first = pictures.locator('.picture-line').first();
  await expect(first).toContainText('main 1500 × 1500 px');
  await expect(first).toContainText('border 100 % white');
  await pictures.getByRole('button', { name: 'Move picture 1, the main one' }).focus();
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.querySelector('.picture-line.dragging'));
  // A key that comes before the places are measured is not heard.
  await expect(async () => {
    await page.keyboard.press('ArrowDown');
    await expect(page.getByText(/over droppable area \S*-2\.jpg/)).toHaveCount(1, { timeout: 700 });
  }).toPass();
  await page.keyboard.press('Space');
  await expect(page.getByText(/Reordered the pictures/)).toBeVisible();
  await expect(first).toContainText('main 1500 × 1500 px');
  await expect(first).not.toContainText('border 100 % white');
  await pictures.getByLabel('Alternative text of picture 2').fill('A moss green pot on white');
  await pictures.getByLabel('Alternative text of picture 2').press('Enter');
  await expect(pictures.getByRole('img', { name: 'A moss green pot on white' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: reordered the pictures/)).toBeVisible();
  await expect(first).toContainText('border 100 % white');
});

test('a text is written in an editor and kept clean', async ({ page }) => {
  await page.goto('/items/QM-POT-RDG-MOS-14');
  await page.getByRole('button', { name: 'Change Description' }).click();
  const text = page.getByRole('textbox', { name: 'Description' });
  await expect(text).toContainText('hand-glazed');
  // The editor may draw its text once more as it becomes ready, and what was marked is no longer.
  await expect(async () => {
    await text.fill('Glazed by hand.');
    await expect(text).toHaveText('Glazed by hand.', { timeout: 2000 });
  }).toPass();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+b');
  await page.getByRole('button', { name: 'Save text' }).click();
  await expect(page.getByText('Changed 1 cell of 1 item')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change Description' })).toHaveText('Glazed by hand.');
  await page.getByRole('button', { name: 'use the family’s value' }).click();
  await expect(page.getByRole('button', { name: 'Change Description' })).toContainText('hand-glazed');
});

test('a term is renamed after it was shown what that touches, and a custom attribute is added', async ({
  page,
}) => {
  await page.goto('/attributes');
  await expect(page.getByRole('link', { name: /“9520000030773” on 2 items/ })).toBeVisible();
  await page.getByRole('button', { name: 'Add an attribute' }).click();
  await page.getByLabel('Label').fill('Frost proof');
  await page.getByLabel('Kind').selectOption('yesNo');
  await page.getByRole('button', { name: 'Add attribute' }).click();
  await expect(page.getByRole('heading', { name: 'Frost proof' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('heading', { name: 'Attributes' })).toBeVisible();
  await page.goto('/attributes/glaze');
  await page.locator('.term-line', { hasText: 'honey' }).getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New name for honey').fill('amber');
  await expect(page.getByText('Changes 1 item')).toBeVisible();
  await page
    .locator('.term-line', { hasText: 'honey' })
    .getByRole('button', { name: 'Rename' })
    .last()
    .click();
  await expect(page.getByLabel('Synonyms of amber')).toHaveValue('honey');
  await page.goto('/items?columns=sku,glaze&f.glaze=%3Damber');
  await expect(page.getByRole('status').first()).toHaveText(/^1 of /);
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: renamed Glaze/)).toBeVisible();
  await expect(page.getByText('No item matches.')).toBeVisible();
});

test('views are kept, and what is seen is exported', async ({ page }) => {
  await page.goto('/items?columns=sku,name,price&f.category=%3DBooks&pinned=sku');
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByLabel('Name of this view').fill('Books with prices');
  await page.getByRole('button', { name: 'Save view' }).click();
  await expect(page.getByText('View saved')).toBeVisible();
  await page.goto('/items');
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('menuitem', { name: 'Books with prices' }).click();
  await expect(page.getByRole('status').first()).toHaveText(/^19 of /);
  await page.goto('/items?columns=sku,name,price&f.category=%3DBooks');
  await page.getByRole('button', { name: 'Export' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'As CSV' }).click(),
  ]);
  const text = Buffer.concat(await (await download.createReadStream()).toArray()).toString();
  expect(text.trim().split('\n')).toHaveLength(20);
  expect(text).toContain('SKU,Name,Price');
});

const partnersRange = readFileSync('demo/partners/dunmoor-depot.csv');

test('a partner’s range is brought in and paired; what is in doubt is settled with the keyboard alone', async ({
  page,
}) => {
  await page.goto('/suppliers');
  await expect(page.getByText('No ranges yet.')).toBeVisible();
  await page
    .locator('input[type="file"]')
    .setInputFiles({ name: 'dunmoor-depot.csv', mimeType: 'text/csv', buffer: partnersRange });
  await expect(page.getByLabel('What Item code is')).toHaveValue('sku');
  await expect(page.getByLabel('What Description is')).toHaveValue('name');
  await page.getByRole('button', { name: 'Match its 90 variants' }).click();
  await expect(page).toHaveURL(/\/suppliers\/dunmoor-depot$/);
  await expect(page.getByText(/^90 variants imported, 5\d matched$/)).toBeVisible();
  const left = page.getByText(/^\d+ match(es)? to decide$/);
  const before = Number.parseInt((await left.textContent()) ?? '', 10);

  // The apron that says no colour: fern and oatmeal are offered, and its siblings leave only fern.
  await page.locator('main').click({ position: { x: 600, y: 8 } });
  const item = page.getByRole('region', { name: 'Your item' });
  for (let n = 0; n < before; n++) {
    if (await item.getByText('QM-APR-LIN-FER-M').isVisible()) break;
    await page.keyboard.press('s');
  }
  await expect(item.getByText('QM-APR-LIN-FER-M')).toBeVisible();
  const offered = page.getByRole('region', { name: 'Possible matches' }).locator('button[aria-pressed]');
  await expect(offered).toHaveCount(2);
  await expect(offered.first()).toContainText('only the supplier names a colour');
  if (!((await offered.first().textContent()) ?? '').includes('Fern green'))
    await page.keyboard.press('ArrowDown');
  await expect(page.locator('button[aria-pressed="true"]').filter({ hasText: 'Fern green' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('QM-APR-LIN-FER-M is DD-4296')).toBeVisible();
  await expect(left).toHaveText(new RegExp(`^${before - 1} match(es)? to decide$`));
  // One that it is not, and back.
  const next = (await item.locator('.mono').textContent()) ?? '';
  await page.keyboard.press('n');
  await expect(page.getByText(new RegExp(`^${next} is not `))).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('Match reopened')).toBeVisible();

  await page.getByRole('button', { name: /^Matched / }).click();
  await expect(page.getByRole('row').filter({ hasText: 'DD-4296' })).toContainText('by hand');
  await page.getByLabel('Set prices for a margin of %').fill('50');
  await page.getByRole('button', { name: 'Update codes and costs' }).click();
  await expect(page.getByText(/^Changed \d+ cells of 5\d items/)).toBeVisible();
  await page.goto('/items?columns=sku,partnerCode,cost,price&f.sku=%3DQM-APR-LIN-FER-M');
  const row = page.getByRole('row').filter({ hasText: 'QM-APR-LIN-FER-M' });
  await expect(row).toContainText('DD-4296');
  await expect(row).toContainText('22.88');
  await expect(row).toContainText('45.76');
});

test('keywords brought in: what was not taken is told by its line', async ({ page }) => {
  await page.goto('/keywords');
  await page.getByLabel('Language of rows that name none').selectOption('de');
  await page.locator('input[type="file"]').setInputFiles({
    name: 'list.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Suchbegriff;Suchvolumen\nTopf mit Löchern;1.200\n;90\nTopf bunt;viele\n'),
  });
  const told = page.getByRole('status').filter({ hasText: 'imported' });
  await expect(told).toContainText('1 keyword imported, 2 rows rejected');
  await expect(told).toContainText('line 3: no term');
  await expect(told).toContainText('line 4: the volume is not a number viele');
  await page.getByLabel('Find a term').fill('löchern');
  const row = page.getByRole('row').filter({ hasText: 'topf mit löchern' });
  await expect(row).toContainText('1,200');
  await row.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('No term matches.')).toBeVisible();
  await page.locator('input[type="file"]').setInputFiles({
    name: 'notes.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('thing,colour\npot,red\n'),
  });
  await expect(page.getByText(/No column is headed “term”/)).toBeVisible();
});

test('bought numbers: the next free one for items that have none, none twice, and back', async ({ page }) => {
  await page.goto('/gtins');
  await expect(page.getByText('No GTINs yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Add a block' }).click();
  await page.getByLabel('First number').fill('9520000091072');
  await page.getByLabel('How many').fill('3');
  await page.getByRole('button', { name: 'Add block', exact: true }).click();
  await expect(page.getByText(/its check digit is wrong/)).toBeVisible();
  await page.getByLabel('First number').fill('9520000091071');
  await page.getByRole('button', { name: 'Add block', exact: true }).click();
  const block = page.getByRole('row').filter({ hasText: '9520000091071 – 9520000091095' });
  await expect(block).toContainText('0 of 3');

  await page.getByLabel('Choose QM-APR-LIN-FER-S').check();
  await page.getByLabel('Choose QM-APR-LIN-FER-M').check();
  await page.getByRole('button', { name: 'Assign GTINs to 2 items' }).click();
  await expect(page.getByText('Assigned GTINs to 2 items')).toBeVisible();
  await expect(block).toContainText('2 of 3');
  await expect(block).toContainText('9520000091095');
  await expect(page.getByLabel('Choose QM-APR-LIN-FER-S')).toHaveCount(0);
  await page.goto('/items?columns=sku,gtin&f.sku=%3DQM-APR-LIN-FER-S');
  await expect(page.getByRole('row').filter({ hasText: 'QM-APR-LIN-FER-S' })).toContainText('9520000091071');

  // Taken back: the numbers are kept for them, and never given to another.
  await page.goto('/gtins');
  await expect(block).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: assigned GTINs to 2 items/)).toBeVisible();
  await expect(block).toContainText('2 of 3');
  await page.getByLabel('Choose QM-APR-LIN-FER-L').check();
  await page.getByRole('button', { name: 'Assign GTINs to 1 item' }).click();
  await expect(block).toContainText('used up');
  await page.getByLabel('Choose QM-APR-LIN-SLA-S').check();
  await expect(page.getByRole('button', { name: 'Assign GTINs to 1 item' })).toBeDisabled();
});
