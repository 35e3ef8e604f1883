/**
 * The pictures in docs/screenshots, taken anew from a running application with fresh demo data: `npm run reset`, `npm start`, and
 * in another terminal `node scripts/screenshots.mjs [name …]`. Look at each of them afterwards.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';

const root = new URL('..', import.meta.url).pathname;
const address = process.env.LIVELY_ADDRESS ?? `http://127.0.0.1:${process.env.PORT ?? 3160}`;
const wanted = process.argv.slice(2);

/** Each view: its picture, its address, and what is done there before it is taken. */
const views = [
  ['overview', '/'],
  ['import', '/sources/2', (page) => page.getByText('Price', { exact: true }).first().click()],
  ['categories', '/feeds/lanternry-de/categories?category=Seed%20kits'],
  ['checks', '/feeds/lanternry-de/checks'],
  ['families', '/feeds/orrin-bazaar-de/families?family=POT-RDG'],
  ['fields', '/feeds/lanternry-de/fields?field=colour'],
  ['insights', '/submissions/insights'],
  ['item', '/items/QM-POT-RDG-MOS-14'],
  ['items', '/items'],
  ['keywords', '/keywords'],
  ['listing', '/feeds/lanternry-de/listings?item=QM-GLV-SOF-FER-L'],
  ['submissions', '/submissions'],
  [
    'rules',
    '/feeds/lanternry-de/rules',
    (page) => page.getByRole('button', { name: 'Rule No price talk in headlines' }).click(),
  ],
  ['send', '/feeds/orrin-bazaar-de/send?show=offer_price'],
  ['sheet', '/channels/lanternry'],
  ['titles', '/feeds/lanternry-de/titles'],
  ['values', '/feeds/lanternry-de/values?field=colour'],
  [
    'differences',
    '/feeds/lanternry-de/checks?fix=choice%3Acolour&field=colour',
    async (page) => {
      await page.getByRole('button', { name: /^Add \d+ values?, \d+ listings$/ }).click();
      await page.getByRole('link', { name: 'See differences' }).click();
      await page.getByText('Changes in the draft').waitFor();
    },
    async (page) => {
      await page.getByRole('button', { name: 'Undo', exact: true }).click();
    },
  ],
  [
    'matching',
    '/suppliers',
    async (page) => {
      await page.locator('input[type="file"]').setInputFiles({
        name: 'Dunmoor Depot.csv',
        mimeType: 'text/csv',
        buffer: readFileSync(join(root, 'demo/partners/dunmoor-depot.csv')),
      });
      await page.getByRole('button', { name: /^Match its \d+ variants$/ }).click();
      await page.waitForURL(/suppliers\/dunmoor-depot/);
      // The one of which two are offered.
      await page.locator('main').click({ position: { x: 600, y: 8 } });
      for (let n = 0; n < 12 && !(await page.getByText('QM-APR-LIN-FER-M').isVisible()); n++)
        await page.keyboard.press('s');
    },
  ],
];

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox'],
});
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  timezoneId: 'Europe/Berlin',
  locale: 'en-GB',
  reducedMotion: 'reduce',
});
for (const [name, path, before, after] of views) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const page = await context.newPage();
  try {
    await page.goto(address + path);
    await page.waitForTimeout(2500);
    await before?.(page);
    await page.waitForTimeout(1500);
    // What was told in passing goes by itself.
    await page.locator('.mantine-Notification-root').first().waitFor({ state: 'hidden', timeout: 20_000 });
    await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
    await after?.(page);
    process.stdout.write(`${name}\n`);
  } catch (error) {
    process.stderr.write(`${name} was not taken: ${error instanceof Error ? error.message : error}\n`);
    process.exitCode = 1;
  }
  await page.close();
}
await browser.close();
