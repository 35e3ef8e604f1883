import { expect, type Page, test } from '../support/pages';

test.describe.configure({ mode: 'serial' });

const feed = '/feeds/lanternry-de';
/** A supplier's file that is not the demo's: German headings, decimal commas, Windows-1252, one bad row. */
const supplierFile = [
  'Artikelnummer;Bezeichnung;EAN;Preis;Hersteller;Warengruppe;Farbe;Beschreibung;Bild;Seite;Lager;Zustand',
  'FH-W1;Wandtopf Über Eck;9520000990015;12,90;Fernholm;Wandtöpfe;schwarz;Ein kleiner Topf für die Wand mit Haken und Dübeln.;https://fernholm.example/p/1.jpg;https://fernholm.example/1;InStock;NewCondition',
  'FH-W2;Wandtopf groß;9520000990022;1.019,90;Fernholm;Wandtöpfe;ochsenblut;Ein großer Topf für die Wand mit Haken und Dübeln.;https://fernholm.example/p/2.jpg;https://fernholm.example/2;InStock;NewCondition',
  'FH-W3;Wandtopf SALE!!;9520000990039;9,90;Fernholm;Wandtöpfe;weiß;Noch ein Topf für die Wand, der schnell gehen muss.;https://fernholm.example/p/3.jpg;https://fernholm.example/3;InStock;NewCondition',
  ';ohne Nummer;;5,00;Fernholm;Wandtöpfe;;;;;;',
  'FH-W4;Ohne Preis;9520000990046;teuer;Fernholm;Wandtöpfe;rot;;;;;',
].join('\r\n');
// Every sign of the file is in Latin-1, which Windows-1252 shares with it.
const inWindows1252 = Buffer.from(supplierFile, 'latin1');

const saved = (page: Page) => expect(page.locator('[aria-busy="true"]')).toHaveCount(0);

test('bring in a supplier’s file', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Import items' }).click();
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'fernholm.csv', mimeType: 'text/csv', buffer: inWindows1252 });
  await expect(page.getByRole('heading', { name: 'fernholm.csv' })).toBeVisible();
  await expect(page.getByLabel('Encoding')).toHaveValue('windows-1252');
  await expect(page.getByLabel('Separator')).toHaveValue(';');
  const filledFrom = (attribute: string) =>
    page.locator('.intake-row', { has: page.getByRole('button', { name: `${attribute}, filled` }) });
  await expect(filledFrom('SKU')).toContainText('Artikelnummer');
  await expect(filledFrom('GTIN')).toContainText('EAN');
  await expect(filledFrom('Availability')).toContainText('Lager');
  await expect(page.getByRole('cell', { name: 'Wandtopf Über Eck' })).toBeVisible();
  await page.getByRole('button', { name: 'Check all rows' }).click();
  await expect(page.getByText('3 new', { exact: true }).first()).toBeVisible();
  await expect(page.getByText('2 rejected', { exact: true }).first()).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export them with reasons' }).click(),
  ]);
  const rejected = await (await download.createReadStream()).toArray();
  expect(Buffer.concat(rejected).toString()).toContain('has no SKU');
  // What it adds to the feed is said before, and new items may wait instead.
  await page.getByRole('tab', { name: 'Feeds' }).click();
  const added = page.getByRole('row').filter({ hasText: 'Lanternry DE' });
  await expect(added).toContainText(/3 items: \d ready/);
  await added.getByRole('combobox').selectOption('wait');
  await expect(added).toContainText('3 items will wait');
  await added.getByRole('combobox').selectOption('join');
  await expect(added).toContainText(/3 items: \d ready/);
  await page.getByRole('button', { name: 'Import 3 items' }).click();
  await expect(page.getByRole('link', { name: 'Go to Overview' })).toBeVisible();
  await page.goto('/items?q=Wandtopf');
  await expect(page.locator('[data-cell]', { hasText: /^Wandtopf/ })).toHaveCount(3);
});

test('a column that no attribute is for gets one on the spot, with its unit', async ({ page }) => {
  await page.goto('/sources');
  const buffer = Buffer.from('Code,Name,Wick length (mm)\nFH-C1,Candle,120\nFH-C2,Long candle,180\n');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'candles.csv', mimeType: 'text/csv', buffer });
  await page.getByLabel('Wick length (mm) becomes').selectOption('new attribute …');
  await expect(page.getByLabel('Label of the new attribute')).toHaveValue('Wick length');
  await expect(page.getByLabel('Kind of the new attribute')).toHaveValue('measure');
  await page.getByRole('button', { name: 'Create and map' }).click();
  await expect(page.getByRole('button', { name: 'Wick length, filled' })).toBeVisible();
  await page.getByRole('button', { name: 'Check all rows' }).click();
  await page.getByRole('button', { name: 'Import 2 items' }).click();
  await expect(page.getByRole('link', { name: 'Go to Overview' })).toBeVisible();
  await page.goto('/items/FH-C2');
  await expect(page.getByRole('button', { name: 'Change Wick length' })).toContainText('180 mm');
});

test('map a field by a suggestion and by hand', async ({ page }) => {
  await page.goto(`${feed}/fields?show=toFill`);
  await page.getByRole('button', { name: 'Available from, optional' }).click();
  await page.getByRole('button', { name: 'Accept Available from' }).click();
  await expect(page.getByText('1 change', { exact: false }).first()).toBeVisible();
  await page.goto(`${feed}/fields?field=age_group`);
  await page.getByRole('button', { name: 'Add a source: an attribute or fixed text' }).click();
  await page.getByRole('menuitem', { name: 'Fixed text' }).click();
  await page.getByRole('button', { name: 'Part no text yet' }).click();
  const text = page.getByRole('dialog').getByRole('textbox');
  await text.fill('adult');
  await text.press('Enter');
  await expect(page.getByRole('button', { name: 'Part adult' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Impact of the draft' })).toContainText('blockers clear');
});

test('place the new category, seeing what the place asks for', async ({ page }) => {
  await page.goto(`${feed}/categories?category=Wandt%C3%B6pfe`);
  await page.getByLabel("Search the channel's categories").fill('Übertopf');
  const option = page.locator('.place-option', { hasText: 'Töpfe und Übertöpfe' });
  await expect(option).toBeVisible();
  await option.getByRole('button', { name: 'Map' }).click();
  await expect(page.getByText('mapped', { exact: true }).first()).toBeVisible();
  await page.goto(`${feed}/categories?category=Seed+kits`);
  await expect(page.locator('.place-needs')).toContainText('Safety note');
  await expect(page.locator('.place-needs')).toContainText('3 of 6 lack it');
});

test('shape the title: the part moves by keyboard, and the sample shows it', async ({ page }) => {
  await page.goto(`${feed}/titles?sample=FH-W1`);
  await expect(page.locator('.before-after')).toContainText('Fernholm Wandtopf Über Eck, schwarz');
  const brand = page.getByRole('button', { name: 'Part Brand' });
  await brand.focus();
  await brand.press('Alt+ArrowRight');
  await expect(page.locator('.before-after')).toContainText('Wandtopf Über Eck Fernholm, schwarz');
  await page.keyboard.press('Control+z');
  await expect(page.locator('.before-after')).not.toContainText('Eck Fernholm');
});

test('a rule, tried on the whole catalog while it is written', async ({ page }) => {
  await page.goto(`${feed}/rules`);
  await page.getByRole('button', { name: 'Add rule' }).click();
  await expect(page.getByLabel('Name of the rule')).toHaveValue('New rule');
  await page.getByLabel('Name of the rule').fill('No cry of sale');
  await page.getByLabel('Name of the rule').blur();
  await saved(page);
  await page.getByLabel('Compared with').last().fill('SALE!!');
  await page.getByLabel('Compared with').last().press('Enter');
  await expect(page.getByText('1 item matches')).toBeVisible();
  await saved(page);
  await page.getByLabel('find', { exact: true }).last().fill(' SALE!!');
  await page.getByLabel('find', { exact: true }).last().press('Enter');
  await expect(page.locator('.example').last()).toContainText('FH-W3');
});

test('check, and fix a blocker for many listings at once', async ({ page }) => {
  await page.goto(`${feed}/checks?fix=choice%3Acolour`);
  await expect(page.getByLabel('moss')).toHaveValue('green');
  await page.getByLabel('ochsenblut').selectOption('red');
  await expect(
    page.getByRole('heading', { name: 'Colour uses values the channel does not accept' }),
  ).toBeVisible();
  await page.getByRole('button', { name: /^Add \d+ values/ }).click();
  await expect(
    page.getByRole('heading', { name: 'Colour uses values the channel does not accept' }),
  ).toHaveCount(0);
  await page.goto(`${feed}/checks?find=FH-W2`);
  await expect(page.locator('.checked')).toContainText('ready');
});

test('publish, send, and read the channel’s answer at the field it concerns', async ({ page }) => {
  await page.goto(`${feed}/send`);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.getByRole('button', { name: /^Publish version/ }).click();
  await expect(page.getByText('version 2, published')).toBeVisible();
  // What will leave can be looked at before.
  await page.getByRole('button', { name: 'File', exact: true }).click();
  const file = page.getByRole('region', { name: 'The file', exact: true });
  await expect(file.getByRole('columnheader', { name: 'headline' })).toBeVisible();
  await file.getByRole('button', { name: 'Raw' }).click();
  await expect(file).toContainText('<c:headline>');
  const [saving] = await Promise.all([
    page.waitForEvent('download'),
    file.getByRole('link', { name: 'Download file' }).click(),
  ]);
  expect(saving.suggestedFilename()).toBe('lanternry-de.xml');
  await page.getByRole('button', { name: /^Send \d+ listings$/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'accepted' })).toBeVisible();
  const refused = page.locator('.sent', { hasText: 'QM-POT-RDG-TER-10' });
  await expect(refused).toContainText('rejected');
  await expect(refused).toContainText('Barcode: Another entry of the file has this barcode too');
  await expect(page.locator('.sent', { hasText: 'FH-W1' })).toContainText('accepted');
  await expect(page.locator('.sent', { hasText: 'FH-W3' })).toContainText('accepted');
  await page.goto('/submissions');
  await expect(page.getByRole('row', { name: /Lanternry DE.*manual/ }).first()).toContainText(
    /\d+ accepted, \d+ rejected/,
  );
});

test('fix what was refused at the item, and only that is sent again', async ({ page }) => {
  await page.goto('/items/QM-POT-RDG-TER-10');
  await page.getByRole('button', { name: 'Change GTIN' }).click();
  const input = page.getByRole('textbox', { name: 'GTIN' });
  await input.fill('9520000030704');
  await input.press('Enter');
  await expect(page.getByText('Changed 1 cell of 1 item')).toBeVisible();
  await page.goto(`${feed}/send`);
  await expect(page.getByRole('button', { name: 'Send 1 listing', exact: true })).toBeEnabled();
});

test('the figures beside every page follow what is changed, without it being loaded again', async ({
  page,
}) => {
  await page.goto('/items/QM-POT-RDG-CHA-14');
  await expect(page.locator('.block', { hasText: 'Lanternry DE' })).toContainText('ready');
  const entry = page.getByRole('link', { name: /^Lanternry DE/ }).first();
  const blocked = async () => Number(/\d+$/.exec((await entry.textContent()) ?? '')?.[0]);
  await expect.poll(blocked).toBeGreaterThan(0);
  const before = await blocked();
  await page.getByRole('button', { name: 'Change Price' }).click();
  const input = page.getByRole('textbox', { name: 'Price', exact: true });
  await input.fill('0');
  await input.press('Enter');
  await expect(page.getByText('Changed 1 cell of 1 item')).toBeVisible();
  await expect.poll(blocked).toBe(before + 1);
});
