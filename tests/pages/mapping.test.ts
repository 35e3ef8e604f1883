import { tabTo } from '../support/keyboard';
import { expect, type Page, test } from '../support/pages';

test.describe.configure({ mode: 'serial' });

const feed = '/feeds/plazuela-norte-es';
const saved = (page: Page) => expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
const fieldRow = (page: Page, code: string) =>
  page.locator('.field-row', { has: page.getByText(code, { exact: true }) });

test('a feed begins with what is suggested; the bench shows fifteen fields with their values', async ({
  page,
}) => {
  await page.goto('/channels');
  await page
    .getByRole('region', { name: 'Plazuela Norte' })
    .getByRole('button', { name: 'Add a feed' })
    .click();
  await expect(page.getByRole('heading', { level: 1, name: 'Plazuela Norte' })).toBeVisible();
  await page.getByRole('button', { name: /^Accept \d+ suggestions$/ }).click();
  await expect(fieldRow(page, 'precio')).toContainText('Price');
  const rows = await page.locator('.field-row').all();
  const inView = await Promise.all(
    rows.map(async (row) => {
      const box = await row.boundingBox();
      return box !== null && box.y + box.height <= 800;
    }),
  );
  expect(inView.filter((one) => one).length).toBeGreaterThanOrEqual(15);
});

test('a field is mapped through the inline editor by keyboard alone', async ({ page }) => {
  await page.goto(`${feed}/fields`);
  const key = (name: string) => page.keyboard.press(name);
  await page.getByLabel('Find a field').focus();
  await page.keyboard.type('dias_envio');
  await tabTo(page, /^Días de envío, recommended$/);
  await key('Enter');
  await expect(page.getByRole('heading', { name: /has the source/ })).toBeVisible();
  await tabTo(page, /^Add a source: an attribute or fixed text$/);
  await key('Enter');
  await expect(page.getByRole('menuitem', { name: 'Fixed text' })).toBeVisible();
  for (let i = 0; i < 60; i++) {
    if (
      await page
        .getByRole('menuitem', { name: 'Brand', exact: true })
        .evaluate((one) => one === document.activeElement)
    )
      break;
    await key('ArrowDown');
  }
  await key('Enter');
  await saved(page);
  await expect(fieldRow(page, 'dias_envio')).toContainText('Brand');
  await tabTo(page, /^Add step$/);
  await key('Enter');
  for (let i = 0; i < 60; i++) {
    if (
      await page
        .getByRole('menuitem', { name: 'Letter case' })
        .evaluate((one) => one === document.activeElement)
    )
      break;
    await key('ArrowDown');
  }
  await key('Enter');
  await saved(page);
  await tabTo(page, /^Letter case: to$/);
  await page.keyboard.type('all');
  await expect(fieldRow(page, 'dias_envio')).toContainText('all capitals');
  // The step shows what it makes of the sample.
  await expect(page.locator('.step-result').first()).toContainText('→ TARNHOLT');
  await key('Control+z');
  await expect(fieldRow(page, 'dias_envio')).not.toContainText('all capitals');
});

test('a figure leads to the items behind it', async ({ page }) => {
  await page.goto(`${feed}/fields`);
  await page.getByRole('link', { name: 'Items of Precio', exact: true }).click();
  await page.getByRole('link', { name: /^Filled \d+$/ }).click();
  await expect(page.getByRole('row').nth(1)).toContainText(' EUR');
});

test('a field has another source in some categories, and from an attribute made on the spot', async ({
  page,
}) => {
  await page.goto(`${feed}/fields?field=dias_envio`);
  await page.getByRole('button', { name: 'Use another source in some categories' }).click();
  await expect(page.getByText('only in')).toBeVisible();
  await page.getByRole('button', { name: 'Create an attribute for it' }).click();
  await page.getByLabel('Label of the new attribute').fill('Warranty');
  await page.getByRole('button', { name: 'Create and map' }).click();
  await expect(fieldRow(page, 'dias_envio')).toContainText('Warranty');
  await page.goto('/attributes/warranty');
  await expect(page.getByRole('heading', { level: 1, name: 'Warranty' })).toBeVisible();
});

test('a value table: words left to do first, one chosen, the rest taken by confidence', async ({ page }) => {
  await page.goto(`${feed}/values?field=color`);
  const heading = page.getByRole('heading', { name: /^Color: / });
  await expect(heading).toContainText('to map');
  const before = Number(/\d+/.exec((await heading.textContent()) ?? '')?.[0]);
  expect(before).toBeGreaterThan(2);
  const first = page.locator('.word-line.open').first();
  const word = (await first.locator('.mono').first().textContent()) ?? '';
  await first.getByRole('combobox').selectOption({ index: 3 });
  await expect(heading).toContainText(`${before - 1} values to map`);
  await expect(page.locator('.word-line.open', { hasText: new RegExp(`^${word}`) })).toHaveCount(0);
  await page.getByLabel('from confidence').selectOption('70');
  await page.getByRole('button', { name: /^Accept \d+ suggestions?$/ }).click();
  await expect(heading).not.toContainText(`${before - 1} words`);
  await expect(page.getByRole('region', { name: 'Impact of the draft' })).toContainText('listings change');
});

test('a category is placed, with what the place newly asks for and how many items lack it', async ({
  page,
}) => {
  await page.goto(`${feed}/categories?category=Books`);
  const needs = page.locator('.place-needs');
  await expect(needs.getByRole('heading', { name: 'This category additionally asks for' })).toBeVisible();
  await expect(needs).toContainText('Autor');
  await expect(needs).toContainText(/all items have it|\d+ of \d+ lack it/);
  await page.getByLabel("Search the channel's categories").fill('Töpfe');
  await expect(page.locator('.place-option').first()).toContainText('matched:');
  await page.getByLabel("Search the channel's categories").fill('');
  await page.getByRole('button', { name: /^Map \d+ items here$/ }).click();
  await expect(page.getByText('mapped here', { exact: true })).toBeVisible();
  // One item of it goes elsewhere.
  await page.getByLabel('SKU of a single item').fill('SP-BOK-SHA-HAR');
  await page.getByRole('button', { name: 'Map this item here' }).click();
  await expect(page.getByRole('button', { name: 'Use its merchant category again' })).toBeVisible();
  await page.getByRole('button', { name: /^Review \d+ suggestions$/ }).click();
  await page.getByLabel('preselected from confidence').selectOption('30');
  await page.getByRole('button', { name: /^Map \d+ categories$/ }).click();
  await expect(page.getByRole('button', { name: /^To map \d$/ })).toBeVisible();
});

test('a feed says what the channel wants of the merchant, takes a scope, and goes to another channel', async ({
  page,
}) => {
  await page.goto(`${feed}/fields`);
  await page.getByRole('link', { name: '2 prerequisites to meet' }).click();
  await page.getByRole('checkbox', { name: /Full address/ }).check();
  await expect(page.getByRole('heading', { name: '1 of 2 prerequisites are not met' })).toBeVisible();
  await page.getByRole('button', { name: 'Only what is in stock' }).click();
  await expect(page.getByRole('heading', { name: /^Scope: \d+ of 2\d\d items$/ })).not.toContainText(
    '242 of 242',
  );
  await page.getByLabel('Market of the new feed').selectOption({ label: 'Own shop, Germany, English, EUR' });
  await expect(page.getByText(/mappings of similar fields/)).toBeVisible();
  await page.getByRole('button', { name: 'Create feed' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^Own shop/ })).toBeVisible();
});

test('an own channel is made from a heading row, changed, taken on, and fed', async ({ page }) => {
  await page.goto('/channels');
  await page.getByRole('link', { name: 'Create a channel' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Market garden');
  await page
    .getByLabel('Heading row')
    .fill(
      'Artikelnummer;Titel;Preis;Farbe;Rubrik\nA-1;Topf;4,90;moos;pots\nA-2;Lampe;9,90;weiß;pots\nA-3;Kanne;7;rot;pots',
    );
  await page.getByRole('button', { name: 'Create channel' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Market garden' })).toBeVisible();
  await page.getByRole('button', { name: 'Titel titel' }).click();
  await page.getByLabel('Most', { exact: true }).fill('25');
  await page.getByLabel('Most', { exact: true }).press('Enter');
  await expect(page.getByText('text, up to 25 characters')).toBeVisible();
  // What is not valid is refused with its place, and stays on the screen.
  await page.getByLabel('Least', { exact: true }).fill('90');
  await page.getByLabel('Least', { exact: true }).press('Enter');
  const refusal = page.getByText(/^Not saved: /);
  await expect(refusal).toContainText('fields.1 (titel).length');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(refusal).toHaveCount(0);
  await page.getByRole('button', { name: 'JSON', exact: true }).click();
  await expect(page.getByLabel('The sheet as JSON')).toHaveValue(/"most": 25/);
  await page.getByRole('link', { name: 'Review and accept' }).click();
  await page.getByRole('button', { name: 'Accept version 1' }).click();
  await expect(page.getByText('version 1, since')).toBeVisible();
  await page.goto('/channels');
  await page
    .getByRole('region', { name: 'Market garden' })
    .getByRole('button', { name: 'Add a feed' })
    .click();
  await page.getByRole('button', { name: /^Accept \d+ suggestions$/ }).click();
  // What was taken is on the server once nothing is left to take.
  await expect(page.getByRole('button', { name: /^Accept \d+ suggestions$/ })).toHaveCount(0);
  await saved(page);
  await expect(fieldRow(page, 'titel')).toContainText('Title pattern');
  await page.goto('/feeds/market-garden-de/checks');
  // The title pattern keeps to what the sheet allows: the listing is there, and nothing is too long.
  await expect(page.locator('.checked').first()).toBeVisible();
  await expect(page.getByText('Titel is too long')).toHaveCount(0);

  // Deleted it is only once its code is typed; then the channel can go too.
  await page.goto('/feeds/market-garden-de/settings');
  await page.getByRole('button', { name: 'Delete this feed' }).click();
  const confirm = page.getByRole('button', { name: 'Delete', exact: true });
  await expect(confirm).toBeDisabled();
  await page.getByLabel('Type market-garden-de to delete it').fill('market-garden-de');
  await confirm.click();
  await expect(page).toHaveURL(/\/$/);
  await page.goto('/channels');
  const line = page.getByRole('region', { name: 'Market garden' });
  await line.getByRole('button', { name: 'Delete', exact: true }).click();
  await page.getByLabel('Type market-garden to delete it').fill('market-garden');
  await page.getByLabel('Type market-garden to delete it').press('Enter');
  await expect(line).toHaveCount(0);
});

test('a version of a sheet shows what it changes and breaks before it is taken on', async ({ page }) => {
  await page.goto('/channels');
  await page.getByRole('link', { name: /^Version \d+ takes effect on 2027-02-01: review it$/ }).click();
  await expect(page.getByText('Headline allows 5 to 70 characters (was 5 to 150 characters)')).toBeVisible();
  await expect(page.getByText('Material changes from recommended to required')).toBeVisible();
  await expect(page.getByText(/Work gloves moves to Garden/)).toBeVisible();
  const effect = page.getByRole('region', { name: 'Effect on listings' });
  await expect(effect.getByRole('heading')).toContainText(/^\d+ listings break$/);
  await expect(effect.getByText('Material is missing').first()).toBeVisible();
});

test('search words fill a field by themselves, a branch has a title of its own, and both say how they came about', async ({
  page,
}) => {
  await page.goto('/feeds/lanternry-de/titles?sample=QM-POT-RDG-MOS-14');
  const typed = page.getByRole('region', { name: 'Search terms' });
  await expect(typed).toContainText('übertopf');
  await page.getByRole('button', { name: /^Search words/ }).click();
  await page.getByRole('dialog').getByRole('combobox').selectOption({ label: 'Pattern' });
  await expect(typed).toContainText('· search words');
  await page.keyboard.press('Escape');
  await page.goto('/feeds/lanternry-de/fields?field=pattern&sample=QM-POT-RDG-MOS-14');
  await expect(page.getByText('the most searched words that the title lacks')).toBeVisible();

  await page.goto('/feeds/lanternry-de/titles');
  const branch = page.getByRole('combobox', { name: 'Titles of' });
  await branch.selectOption({ index: 1 });
  await expect(page.getByText('as in the whole feed')).toBeVisible();
  await page.getByRole('button', { name: 'Create a pattern for it' }).click();
  await expect(page.getByRole('button', { name: 'Use the feed’s pattern again' })).toBeVisible();
  await page.getByRole('button', { name: /^Abbreviations/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Word', { exact: true }).fill('with drip tray');
  await dialog.getByLabel('Short form').fill('w. tray');
  await dialog.getByLabel('Short form').press('Enter');
  await expect(dialog.getByText('with drip tray')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Abbreviations: 1' })).toBeVisible();
  // The feed's own pattern has none.
  await branch.selectOption('');
  await expect(page.getByRole('button', { name: 'Abbreviations: none' })).toBeVisible();
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByRole('button', { name: 'Search words: nothing' })).toBeVisible();
});
