import { expect, test } from '../support/pages';

/** The last file to run: what it brings in stays. The large figures are the bench's (`npm run bench -- import`). */
const rows = 20_000;

test('a file of 20,000 rows comes in with live progress, and the grid shows it', async ({ page }) => {
  const lines = Array.from({ length: rows }, (_, i) => `L-${i},Large pot ${i},${(i % 90) + 1}.90,Pots`);
  await page.goto('/sources');
  await page.getByLabel('File to import').setInputFiles({
    name: 'large.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`sku,name,price,category\n${lines.join('\n')}\n`),
  });
  await expect(page.getByRole('heading', { name: 'large.csv' })).toBeVisible();
  await page.getByRole('button', { name: 'Check all rows' }).click();
  // However quick the machine is: what is under way is shown with its progress, or it is done by then.
  const shown = (working: string, done: RegExp) =>
    expect(
      page.getByRole('progressbar').or(page.getByText(working)).or(page.getByText(done)).first(),
    ).toBeVisible();
  await shown('Checking every row', /^20,000 new$/);
  await expect(page.getByText('20,000 new', { exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Import 20,000 items' }).click();
  await shown('Importing items', /^Undo this run$/);
  // It goes on while the page is left.
  await page.goto('/families');
  await page.goto('/sources');
  await page.getByRole('link', { name: 'large.csv' }).click();
  await expect(page.getByRole('button', { name: 'Undo this run' })).toBeVisible();
  await page.goto('/items?q=Large+pot+19999');
  await expect(page.getByRole('gridcell', { name: 'Large pot 19999', exact: true })).toBeVisible();
});
