import { expect, test } from '../support/pages';

test('a sheet is read and searched, and says what an item would need', async ({ page }) => {
  await page.goto('/channels');
  await page.getByRole('link', { name: 'Orrin Bazaar' }).click();
  const fields = page.getByRole('region', { name: 'Fields', exact: true });
  await expect(fields.getByText('Offer code')).toBeVisible();
  await page.getByLabel('Find a field').fill('iva');
  await expect(page.getByText('No field matches.')).toBeVisible();
  await page.getByLabel('Find a field').fill('barcode');
  await expect(fields.getByText('Product number')).toBeVisible();
  await expect(fields.getByText('Offer code')).toHaveCount(0);
  await page.getByLabel('SKU of the item').fill('VR-LGT-HAL-TYC-20');
  await page.getByLabel('SKU of the item').press('Enter');
  const needs = page.getByRole('region', { name: 'What an item needs here' });
  await expect(needs.getByText('Efficiency class', { exact: true })).toBeVisible();
  await expect(needs).toContainText('Type C');
  await needs.getByLabel('Country').selectOption('GB');
  await expect(needs.getByText('Efficiency class', { exact: true })).toHaveCount(0);
  await expect(needs.getByText('Customs code', { exact: true })).toBeVisible();
});

test('a feed is added for a market, its suggestions are taken, and its coverage is seen', async ({
  page,
}) => {
  await page.goto('/channels');
  const line = page.getByRole('region', { name: 'Tessel Boards' });
  await line.getByLabel('Market of Tessel Boards').selectOption('GB en');
  await line.getByRole('button', { name: 'Add a feed' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /Tessel Boards/ })).toBeVisible();
  await page.getByRole('button', { name: /^Accept \d+ suggestions$/ }).click();
  await expect(page.getByRole('region', { name: 'Impact of the draft' })).toContainText('listings change');
  await expect(page.locator('.field-row', { hasText: 'card_key' })).toContainText('SKU');
});
