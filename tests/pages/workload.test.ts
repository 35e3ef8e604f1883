import { expect, test } from '@playwright/test';

/** The last file to run: what it brings in stays. */
const rows = 100_000;

test('a file of 100,000 rows comes in with live progress, and the grid shows it', async ({ page }) => {
  test.setTimeout(240_000);
  const lines = Array.from({ length: rows }, (_, i) => `L-${i},Large pot ${i},${(i % 90) + 1}.90,Pots`);
  await page.goto('/sources');
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'large.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`sku,name,price,category\n${lines.join('\n')}\n`),
  });
  await expect(page.getByRole('heading', { name: 'large.csv' })).toBeVisible();
  await page.getByRole('button', { name: 'Check all rows' }).click();
  const bar = page.getByRole('status').filter({ hasText: 'Checking every row' });
  const percent = async () => Number(/(\d+) %/.exec((await bar.textContent()) ?? '')?.[1] ?? 0);
  await expect.poll(percent, { timeout: 60_000 }).toBeGreaterThan(5);
  const early = await percent();
  await expect.poll(percent, { timeout: 60_000 }).toBeGreaterThan(early);
  await expect(page.getByText('100,000 new', { exact: true }).first()).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Bring in 100,000 items' }).click();
  await expect(page.getByText('Bringing items in')).toBeVisible();
  // It goes on while the page is left.
  await page.goto('/families');
  await page.goto('/sources');
  await page.getByRole('link', { name: 'large.csv' }).click();
  await expect(page.getByRole('button', { name: 'Undo this run' })).toBeVisible({ timeout: 180_000 });
  await page.goto('/items?q=Large+pot+99999');
  await expect(page.getByRole('gridcell', { name: 'Large pot 99999', exact: true })).toBeVisible({
    timeout: 60_000,
  });
});
