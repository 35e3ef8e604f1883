import { expect, test } from '../support/pages';

const file = [
  'sku,name_de,name_en,price,category,description_en,description_de',
  'TWO-1,"Wandleuchte, klein","Wall lamp, small",19.90,Grow lights,"A lamp for the wall, made of brass.","Eine Leuchte für die Wand, aus Messing."',
  'TWO-2,,"Wall lamp, large",29.90,Grow lights,"A large lamp for the wall, made of brass.",',
].join('\n');

test('two columns of languages go in; a German and an English feed go out, and what is not translated is shown', async ({
  page,
}) => {
  await page.goto('/sources');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'two-languages.csv', mimeType: 'text/csv', buffer: Buffer.from(file) });
  await expect(page.getByRole('heading', { name: 'two-languages.csv' })).toBeVisible();
  const filledFrom = (attribute: string) =>
    page.locator('.intake-row', {
      has: page.getByRole('button', { name: `${attribute}, filled`, exact: true }),
    });
  await expect(filledFrom('Name')).toContainText('name_en');
  await expect(filledFrom('Name in German')).toContainText('name_de');
  await page.getByRole('button', { name: 'Check all rows' }).click();
  await page.getByRole('button', { name: 'Import 2 items' }).click();
  await expect(page.getByRole('link', { name: 'Go to Overview' })).toBeVisible();

  // The German feed reads German; where there is none, what its settings say.
  const german = '/feeds/lanternry-de';
  const sample = page.getByRole('complementary', { name: 'Sample' });
  // What the field becomes; the item's own name stands above it in any language.
  const becomes = sample.locator('.before-after');
  await page.goto(`${german}/titles?sample=TWO-1`);
  await expect(becomes).toContainText('Wandleuchte, klein');
  await page.goto(`${german}/titles?sample=TWO-2`);
  await expect(becomes).toContainText('Wall lamp, large');
  await page.goto('/items/TWO-2');
  await expect(page.getByText('not translated yet').first()).toBeVisible();

  // An item's page and the grid show one language where that is wished.
  await page.goto('/items/TWO-1');
  const values = page.locator('.item-values');
  await expect(values.getByRole('button', { name: 'Change Name', exact: true })).toHaveText(
    'Wall lamp, small',
  );
  await page.getByLabel('Texts in').selectOption('de');
  await expect(values.getByRole('button', { name: 'Change Name in German' })).toHaveText(
    'Wandleuchte, klein',
  );
  await expect(values.getByRole('button', { name: 'Change Name', exact: true })).toHaveCount(0);
  await page.goto('/items?q=TWO-1');
  await expect(page.getByRole('grid')).toContainText('Wall lamp, small');
  await page.getByLabel('Texts in').selectOption('de');
  await expect(page.getByRole('columnheader', { name: 'Name in German' })).toBeVisible();
  await expect(page.getByRole('grid')).toContainText('Wandleuchte, klein');
  await page.goto(`${german}/settings`);
  const translations = page.getByRole('region', { name: 'Translations' });
  await expect(translations).toContainText('Some texts are missing in German yet');
  await translations.getByLabel('Without a translation').selectOption('nothing');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeVisible();
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.goto(`${german}/titles?sample=TWO-2`);
  await expect(becomes).toContainText('will be');
  await expect(sample).toContainText('Headline is missing');

  // The English feed reads the main language.
  await page.goto('/channels');
  await page
    .getByRole('region', { name: 'Tessel Boards' })
    .getByRole('button', { name: 'Add a feed' })
    .click();
  await page.getByRole('button', { name: /^Accept \d+ suggestions$/ }).click();
  await expect(page.getByRole('button', { name: /^Accept \d+ suggestions$/ })).toHaveCount(0);
  await page.goto('/feeds/tessel-boards-de/fields?sample=TWO-1&field=story');
  await expect(becomes).toContainText('A lamp for the wall, made of brass.');
  await expect(becomes).not.toContainText('Messing');
});
