import { answering, type Browser, expect, type Page, test } from '../support/pages';

/** One person's quick changes, and two persons side by side. */
const feed = '/feeds/lanternry-de';

const open = async (browser: Browser, baseURL: string | undefined, path: string): Promise<Page> => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
  const page = answering(await context.newPage());
  await page.goto(`${baseURL}${path}`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  return page;
};
const notice = (page: Page) => page.getByRole('alert', { name: 'Someone else changed this draft' });
const saved = async (page: Page) => {
  await expect(page.getByText('saving …')).toHaveCount(0);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
};

test('one person’s quick changes are all kept: title options and rules', async ({ page }) => {
  await page.goto(`${feed}/titles`);
  const brand = page.getByLabel('No repetition');
  const capitals = page.getByLabel('Capitals');
  const [wasOnce] = [await brand.isChecked()];
  // Nothing is waited for in between.
  await capitals.selectOption('title');
  await brand.setChecked(!wasOnce);
  await saved(page);
  await page.reload();
  await expect(capitals).toHaveValue('title');
  expect(await brand.isChecked()).toBe(!wasOnce);

  await page.goto(`${feed}/rules`);
  const switches = page.getByRole('switch');
  const before = await switches.count();
  await page.getByRole('button', { name: 'Add rule' }).click();
  await expect(switches).toHaveCount(before + 1);
  // Two rules switched, and one moved, at once.
  await switches.nth(0).click({ force: true });
  await switches.nth(1).click({ force: true });
  await page
    .getByRole('button', { name: /^Move New rule up/ })
    .last()
    .click();
  await saved(page);
  await page.reload();
  await expect(switches).toHaveCount(before + 1);
  await expect(switches.nth(0)).not.toBeChecked();
  expect(
    await page
      .getByRole('button', { name: /^Rule / })
      .nth(before - 1)
      .textContent(),
  ).toContain('New rule');

  // What is said of an undo stands in the way of no further one.
  const undo = page.getByRole('button', { name: 'Undo', exact: true });
  await undo.click();
  await expect(page.getByText(/^Undone: moved the rule “New rule/)).toBeVisible();
  const covered = await undo.evaluate((button) => {
    const { x, y, width, height } = button.getBoundingClientRect();
    return !button.contains(document.elementFromPoint(x + width / 2, y + height / 2));
  });
  expect(covered).toBe(false);
  await undo.click();
  await expect(page.getByText(/^Undone: switched the rule “.*” off$/)).toBeVisible();
  await expect(switches.nth(1)).toBeChecked();
  await expect(switches.nth(0)).not.toBeChecked();
});

test('two persons: the second is told what the first did, and puts theirs on top or gives it up', async ({
  browser,
  baseURL,
}) => {
  const [first, second] = [
    await open(browser, baseURL, `${feed}/titles`),
    await open(browser, baseURL, `${feed}/titles`),
  ];
  await first.getByLabel('Capitals').selectOption('sentence');
  await saved(first);
  const once = await second.getByLabel('No repetition').isChecked();
  await second.getByLabel('No repetition').setChecked(!once);
  await expect(notice(second)).toContainText('changed the capitals of the title');
  await expect(notice(second)).toContainText('Your change is not saved yet');
  await second.getByRole('button', { name: 'Apply mine on top' }).click();
  await expect(notice(second)).toHaveCount(0);
  await saved(second);
  await first.reload();
  await expect(first.getByLabel('Capitals')).toHaveValue('sentence');
  expect(await first.getByLabel('No repetition').isChecked()).toBe(!once);

  // Rules: what the second gives up leaves the first's as it is.
  await first.goto(`${baseURL}${feed}/rules`, { waitUntil: 'networkidle' });
  await second.goto(`${baseURL}${feed}/rules`, { waitUntil: 'networkidle' });
  const names = first.getByRole('button', { name: /^Rule / });
  const count = await names.count();
  await first.getByRole('button', { name: 'Add rule' }).click();
  await expect(names).toHaveCount(count + 1);
  await saved(first);
  await second.getByRole('switch').nth(0).click({ force: true });
  await expect(notice(second)).toContainText('added the rule “New rule”');
  await second.getByRole('button', { name: 'Discard mine' }).click();
  await expect(second.getByRole('button', { name: /^Rule / })).toHaveCount(count + 1);

  // Undo never takes somebody else's work back unseen.
  await first.goto(`${baseURL}${feed}/titles`, { waitUntil: 'networkidle' });
  await second.goto(`${baseURL}${feed}/titles`, { waitUntil: 'networkidle' });
  await first.getByLabel('Capitals').selectOption('asis');
  await saved(first);
  await second.getByRole('button', { name: 'Undo' }).click();
  await expect(notice(second)).toContainText('Nothing was undone');
  await expect(first.getByLabel('Capitals')).toHaveValue('asis');
  await first.context().close();
  await second.context().close();
});

test('what does not reach the server is kept and sent again', async ({ page, context }) => {
  await page.goto(`${feed}/titles`);
  await page.getByLabel('Capitals').selectOption('asis');
  await saved(page);
  await context.setOffline(true);
  await page.getByLabel('Capitals').selectOption('title');
  await expect(page.getByText('offline; your changes are kept here and saved later')).toBeVisible();
  await expect(page.getByLabel('Capitals')).toHaveValue('title');
  await context.setOffline(false);
  await expect(page.getByText('offline; your changes are kept here and saved later')).toHaveCount(0);
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Capitals')).toHaveValue('title');
});

test('a page of an older build says so, and sends nothing again and again', async ({ page }) => {
  await page.goto(`${feed}/titles`);
  let sends = 0;
  await page.route('**/*', async (route) => {
    const request = route.request();
    if (request.method() !== 'POST') return route.continue();
    sends++;
    return route.continue({ headers: { ...request.headers(), 'next-action': `7f${'0'.repeat(40)}` } });
  });
  await page.getByLabel('Capitals').selectOption('sentence');
  await expect(page.getByText('not saved: Lively Cart was updated.')).toBeVisible();
  expect(sends).toBe(1);
  await page.unroute('**/*');
  await page.getByRole('button', { name: 'Reload' }).click();
  await expect(page.getByText('not saved: Lively Cart was updated.')).toHaveCount(0);
  await expect(page.getByLabel('Capitals')).toHaveValue('title');
});

test('two persons change the mapping of one file: both count', async ({ browser, baseURL }) => {
  const first = await open(browser, baseURL, '/sources');
  await first.getByLabel('File to import').setInputFiles({
    name: 'together.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('sku,name,zz one,zz two\nT1,Hook,brass,5\nT2,Nail,iron,6\n'),
  });
  await expect(first.getByRole('heading', { name: 'together.csv' })).toBeVisible();
  const second = await open(browser, baseURL, new URL(first.url()).pathname);
  await first.getByLabel('zz one becomes').selectOption('material');
  await second.getByLabel('zz two becomes').selectOption('inventoryLevel');
  await expect(first.getByRole('button', { name: 'Material, filled' })).toBeVisible();
  await expect(second.getByRole('button', { name: 'Stock, filled' })).toBeVisible();
  for (const page of [first, second]) {
    await saved(page);
    await page.reload();
    for (const attribute of ['Material', 'Stock'])
      await expect(page.getByRole('button', { name: `${attribute}, filled` })).toBeVisible();
    await page.context().close();
  }
});
