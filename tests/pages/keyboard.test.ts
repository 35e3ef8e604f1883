import { tabTo } from '../support/keyboard';
import { expect, test } from '../support/pages';

/** Without the mouse: nothing here clicks. */
const file = [
  'sku,name,gtin,price,brand,category,colour,description,image,link,availability,condition',
  'KB-1,Keyboard pot,9520000990107,12.90,Fernholm,"Pots, glazed",black,A pot that was imported and sent without a mouse.,https://fernholm.example/p/1.jpg,https://fernholm.example/1,InStock,NewCondition',
].join('\n');

test('from a file to a sent listing with the keyboard alone', async ({ page }) => {
  const press = (key: string) => page.keyboard.press(key);
  await page.goto('/');
  await tabTo(page, /^Import items$/);
  await press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Sources' })).toBeVisible();
  // The system's own dialog is the one thing that no page controls.
  const choosing = page.waitForEvent('filechooser');
  await tabTo(page, /^Choose a file$/);
  await press('Enter');
  await (await choosing).setFiles({ name: 'keyboard.csv', mimeType: 'text/csv', buffer: Buffer.from(file) });
  await expect(page.getByRole('heading', { name: 'keyboard.csv' })).toBeVisible();
  await tabTo(page, /^Check all rows$/);
  await press('Enter');
  await expect(page.getByText('1 new', { exact: true }).first()).toBeVisible();
  await tabTo(page, /^Import 1 item$/);
  await press('Enter');
  await expect(page.getByRole('link', { name: 'Go to Overview' })).toBeVisible();

  // Search leads to the feed's titles.
  await press('Control+k');
  await expect(page.getByPlaceholder(/^Search items/)).toBeFocused();
  await page.keyboard.type('lanternry de titles');
  // At once: the answer to what is typed opens, not the one that is still on the page.
  await press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Lanternry DE' })).toBeVisible();
  await page.goto('/feeds/lanternry-de/rules');
  await tabTo(page, /^Add Exclude sold-out items$/);
  await press('Enter');
  await expect(page.getByRole('link', { name: /^Draft, / })).toBeVisible();
  await tabTo(page, /^Publish$/);
  await press('Enter');
  await expect(page.getByLabel('Note for History')).toBeFocused();
  await page.keyboard.type('by keyboard');
  await press('Enter');
  await expect(page.getByText('version 2, published')).toBeVisible();
  await page.goto('/feeds/lanternry-de/send');
  await tabTo(page, /^Send \d+ listings?$/);
  await press('Enter');
  await expect(page.getByRole('status').filter({ hasText: /\d+ accepted/ })).toBeVisible();
});
