import { answering, expect, type Page, test } from '../support/pages';

/**
 * The first case imports so many items that their number has a separator in every locale. Expected forms are those of Unicode CLDR:
 * of the locale in Settings, whatever the browser's own locale and zone are.
 */
const ROWS = 10_200;

const cases = [
  {
    locale: 'de-DE',
    name: 'German (Germany)',
    zone: 'Europe/Berlin',
    thousand: '.',
    date: /\d\d\.\d\d\.\d{4} \d\d:\d\d$/,
  },
  {
    locale: 'en-US',
    name: 'English (United States)',
    zone: 'America/New_York',
    thousand: ',',
    date: /\d\d\/\d\d\/\d{4} \d\d:\d\d [AP]M$/,
  },
  {
    locale: 'es-ES',
    name: 'Spanish (Spain)',
    zone: 'Europe/Berlin',
    thousand: '.',
    date: /\d\d\/\d\d\/\d{4} \d\d:\d\d$/,
  },
] as const;
/** Each browser has a locale and a zone that are not the shop's. */
const browsers = [
  { locale: 'en-US', timezoneId: 'America/New_York' },
  { locale: 'de-DE', timezoneId: 'Asia/Tokyo' },
  { locale: 'es-ES', timezoneId: 'Europe/Madrid' },
] as const;

const pages = [
  '/',
  '/items',
  '/sources',
  '/notifications',
  '/submissions',
  '/feeds/lanternry-de/fields',
  '/feeds/lanternry-de/checks',
  '/feeds/lanternry-de/history',
  '/feeds/lanternry-de/send',
  '/feeds/lanternry-de/settings',
  '/submissions/insights',
];

const choices = [
  ['Language and region of numbers and dates', 'name'],
  ['Time zone', 'zone'],
] as const;
const settingOf = (page: Page, label: string) =>
  page
    .getByRole('combobox', { name: label })
    .or(page.getByLabel(label, { exact: true }))
    .first();
/** What Settings had before, for the tests after these. */
let before: { name: string; zone: string };

async function setLocale(page: Page, baseURL: string, wanted: { name: string; zone: string }) {
  await page.goto(`${baseURL}/settings`);
  for (const [label, part] of choices) {
    const input = settingOf(page, label);
    if ((await input.inputValue()) === wanted[part]) continue;
    await input.fill(wanted[part]);
    await page.getByRole('option', { name: wanted[part], exact: true }).click();
  }
  const save = page.getByRole('button', { name: 'Save settings' });
  if (await save.isEnabled()) await save.click();
  await expect(save).toBeDisabled();
}

test.beforeAll(async ({ browser, baseURL }) => {
  const page = answering(await browser.newPage());
  await page.goto(`${baseURL}/settings`);
  before = {
    name: await settingOf(page, choices[0][0]).inputValue(),
    zone: await settingOf(page, choices[1][0]).inputValue(),
  };
  await page.close();
});
test.afterAll(async ({ browser, baseURL }) => {
  const page = answering(await browser.newPage());
  await setLocale(page, baseURL ?? '', before);
  await page.close();
});

for (const [at, { locale, name, zone, thousand, date }] of cases.entries())
  test(`numbers and dates in ${locale}, in a browser of another locale and zone`, async ({
    browser,
    baseURL,
  }) => {
    const context = await browser.newContext({ ...browsers[at], viewport: { width: 1280, height: 800 } });
    const page = answering(await context.newPage());
    const complaints: string[] = [];
    page.on('console', (message) => {
      // React names a difference between server and browser by these numbers, or in words.
      if (/hydrat|did not match|Minified React error #(?:418|419|421|422|423|425)/i.test(message.text()))
        complaints.push(message.text());
    });
    page.on('pageerror', (error) => complaints.push(String(error)));
    await setLocale(page, baseURL ?? '', { name, zone });

    // A file comes in, and the import run says when.
    const lines = Array.from(
      { length: at === 0 ? ROWS : 1 },
      (_, n) => `LOC-${locale}-${n},A pot of ${locale} ${n},12.90`,
    );
    await page.goto(`${baseURL}/sources`);
    await page.getByLabel('File to import').setInputFiles({
      name: `locale-${locale}.csv`,
      mimeType: 'text/csv',
      buffer: Buffer.from(`sku,name,price\n${lines.join('\n')}\n`),
    });
    await page.getByRole('button', { name: 'Check all rows' }).click();
    await page.getByRole('button', { name: /^Import [\d.,]+ items?$/ }).click();
    await expect(page.getByRole('link', { name: 'Go to Overview' })).toBeVisible();

    for (const path of pages) {
      await page.goto(`${baseURL}${path}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      // The number of items in the sidebar: more than 10,000 of them.
      await expect(page.locator('.sidebar a[href="/items"] .figure')).toHaveText(
        new RegExp(`^\\d\\d\\${thousand}\\d{3}$`),
      );
      // Each moment has its date and time as a title.
      for (const title of await page
        .locator('main time')
        .evaluateAll((times) => times.map((one) => one.getAttribute('title') ?? '')))
        expect([path, title]).toEqual([path, expect.stringMatching(date)]);
    }
    // The time of the import, in the shop's zone.
    await page.goto(`${baseURL}/sources`);
    const moment = page.locator('main time').first();
    const shown = await moment.evaluate(
      (one, { locale, zone }) => {
        const at = new Date(one.getAttribute('datetime') ?? '');
        return new Intl.DateTimeFormat(locale, { hour: '2-digit', minute: '2-digit', timeZone: zone })
          .format(at)
          .replace(/[\u202f\u00a0]/g, ' ');
      },
      { locale, zone },
    );
    await expect(moment).toContainText(shown);

    // A draft is published and sent; the submission has the time of the locale.
    await page.goto(`${baseURL}/feeds/lanternry-de/rules`);
    const rule = 'Clearance: lower price for the last pieces';
    if (at === 0) await page.getByRole('button', { name: `Add ${rule}` }).click();
    else await page.getByRole('switch', { name: `${rule} is on` }).press('Space');
    await expect(page.getByRole('link', { name: /^Draft, / })).toBeVisible();
    await page.getByRole('button', { name: 'Publish', exact: true }).click();
    await page.getByLabel('Note for History').fill(`in ${locale}`);
    await page.getByLabel('Note for History').press('Enter');
    await expect(page.getByText(/version \d+, published/)).toBeVisible();
    await page.goto(`${baseURL}/feeds/lanternry-de/send`);
    await page.getByRole('button', { name: /^Send [\d.,]+ listings?$/ }).click();
    await expect(page.getByRole('status').filter({ hasText: /[\d.,]+ accepted/ })).toBeVisible();
    expect(await page.locator('.submission time').first().getAttribute('title')).toMatch(date);
    expect(complaints).toEqual([]);
    await context.close();
  });
