import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { AxeBuilder } from '@axe-core/playwright';
import { workspacePages } from '../../src/core/workspace/pages';
import { answering, expect, type Page, test } from '../support/pages';

const feed = '/feeds/lanternry-de';
const views: readonly (readonly [name: string, path: string, heading: RegExp])[] = [
  ...workspacePages.map(({ label, path }) => [label, path, new RegExp(`^${label}$`)] as const),
  ['new item', '/items/new', /Add an item/],
  ['item', '/items/QM-POT-RDG-MOS-14', /Ridge pot/],
  ['family', '/families/POT-RDG', /Ridge pot/],
  ['attribute', '/attributes/glaze', /Glaze/],
  ['run', '/sources/2?attribute=price', /verrin-lights/],
  ['sheet', '/channels/orrin-bazaar?item=QM-POT-RDG-MOS-14', /Orrin Bazaar/],
  ['fields', `${feed}/fields?field=barcode`, /Lanternry/],
  ['version to look over', '/channels/lanternry/versions', /Lanternry: versions/],
  ['open sheet', '/channels/lanternry/edit', /Lanternry/],
  ['values', `${feed}/values`, /Lanternry/],
  ['settings', `${feed}/settings`, /Lanternry/],
  ['behind a figure', `${feed}/drilldown?field=colour&is=failing`, /Lanternry/],
  ['categories', `${feed}/categories`, /Lanternry/],
  ['items without a category', `${feed}/categories?category=-`, /Lanternry/],
  ['shapes of families', '/feeds/orrin-bazaar-de/families?family=POT-RDG', /Orrin/],
  ['what the channel has', '/feeds/orrin-bazaar-de/matching', /Orrin/],
  ['titles', `${feed}/titles`, /Lanternry/],
  ['rules', `${feed}/rules?rule=no-shouting`, /Lanternry/],
  ['checks', `${feed}/checks?fix=choice%3Acolour`, /Lanternry/],
  ['listing', `${feed}/listings?item=QM-GLV-SOF-FER-L`, /Lanternry/],
  ['send', `${feed}/send`, /Lanternry/],
  ['history', `${feed}/history`, /Lanternry/],
  ['differences', `${feed}/differences`, /Lanternry/],
];

/** Rows of one list that read the same. */
const sameRows = () => {
  const lists = new Map<Element | null, Map<string, number>>();
  const rows = 'main tbody tr, main [role="row"], main li, main .checked, main .sent, main .proposed-line';
  for (const row of document.querySelectorAll<HTMLElement>(rows)) {
    // biome-ignore lint/performance/useDomNodeTextContent: what is hidden does not count
    const text = row.innerText.replace(/\s+/g, ' ').trim();
    if (text === '') continue;
    const known = lists.get(row.parentElement) ?? new Map<string, number>();
    lists.set(row.parentElement, known.set(text, (known.get(text) ?? 0) + 1));
  }
  return [...lists.values()].flatMap((texts) =>
    [...texts].flatMap(([text, count]) => (count > 1 ? [`${count} × ${text.slice(0, 160)}`] : [])),
  );
};
/** Parts of a toolbar that lie over each other. */
const overlaps = () =>
  [...document.querySelectorAll('main .bench-head, main .page-head, main .impact')].flatMap((bar) => {
    const parts = [...bar.children]
      .map((one) => one.getBoundingClientRect())
      .filter(({ width }) => width > 0);
    return parts.flatMap((a, at) =>
      parts.slice(at + 1).flatMap((b) => {
        const [across, down] = [
          Math.min(a.right, b.right) - Math.max(a.left, b.left),
          Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top),
        ];
        return across > 1 && down > 1
          ? [`${bar.className}: ${Math.round(across)} × ${Math.round(down)} px`]
          : [];
      }),
    );
  });

test.describe('nothing that axe objects to, no two rows alike, nothing wider than the window', () => {
  test.describe.configure({ mode: 'default' });
  // One page for all views, as a person has it: scripts are loaded once.
  let page: Page;
  test.beforeAll(async ({ browser }) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
    page = answering(await context.newPage());
  });
  test.afterAll(() => page.context().close());
  const complaints = async (axe: AxeBuilder) =>
    (await axe.analyze()).violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map(({ html, failureSummary }) => `${html.slice(0, 120)} ${failureSummary?.split('\n')[1] ?? ''}`)
          .slice(0, 3)
          .join(' | ')}`,
    );
  const wider = () =>
    page.evaluate(() => Math.max(0, document.documentElement.scrollWidth - window.innerWidth));

  for (const [name, path, heading] of views)
    test(name, async ({ baseURL }) => {
      await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
      await page.goto(`${baseURL}${path}`);
      await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible();
      // Nothing is framed here, so that it need not open a page of its own; further rows are made as the first are.
      const axe = () =>
        new AxeBuilder({ page })
          .setLegacyMode()
          .exclude('.apexcharts-canvas')
          .exclude('tr:nth-child(n + 13)')
          .exclude('[role="row"]:nth-child(n + 13)');
      expect(await complaints(axe().withTags(['wcag2a', 'wcag2aa']))).toEqual([]);
      expect(await page.evaluate(sameRows)).toEqual([]);
      for (const width of [1024, 1280, 1920]) {
        await page.setViewportSize({ width, height: 800 });
        expect([width, await wider()]).toEqual([width, 0]);
        expect([width, await page.evaluate(overlaps)]).toEqual([width, []]);
      }
      // 1280 × 800 at 200 %.
      await page.setViewportSize({ width: 640, height: 400 });
      expect(await wider()).toEqual(0);
      await page.setViewportSize({ width: 1280, height: 800 });
      // The dark scheme has other colours of the same names and nothing else.
      await page.emulateMedia({ colorScheme: 'dark' });
      await expect(page.locator('html')).toHaveAttribute('data-mantine-color-scheme', 'dark');
      expect(await complaints(axe().withRules(['color-contrast']))).toEqual([]);
    });
});

test('Ctrl K finds an item, a field and a category', async ({ page }) => {
  await page.goto('/');
  for (const [query, hit] of [
    ['moss', /Ridge pot.*moss/],
    ['barcode', /Barcode/],
    ['watering', /Watering cans/],
  ] as const) {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder(/^Search items/).fill(query === 'moss' ? 'QM-POT-RDG-MOS' : query);
    await expect(page.getByRole('button', { name: hit }).first()).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByPlaceholder(/^Search items/)).toBeHidden();
  }
});

test('an address that names nothing says so and leads on', async ({ page }) => {
  await page.goto('/items/NO-SUCH-SKU');
  await expect(page.getByText('This page does not exist.')).toBeVisible();
  await page.goto('/feeds/nowhere/fields');
  await expect(page.getByText('This page does not exist.')).toBeVisible();
});

test('a page that is long on its way says what is worked out for it, and what comes at once says nothing', async ({
  page,
}) => {
  const words = page.getByText('Calculating the page');
  const underWay = [{ what: 'evaluating', feed: 'Lanternry DE', done: 120_000, of: 200_000 }];
  await page.goto('/feeds/lanternry-de/titles');
  await page.route('**/api/progress', (route) => route.fulfill({ json: underWay }));
  let open: () => void = () => undefined;
  const closed = new Promise<void>((resolve) => {
    open = resolve;
  });
  await page.route(/lanternry-de\/checks/, async (route) => {
    await closed;
    await route.continue();
  });
  const stages = page.getByRole('navigation', { name: 'Stages' });
  await stages.getByRole('link', { name: /Rules/ }).click();
  await page.waitForURL(/rules/);
  await expect(words).toBeHidden();
  await stages.getByRole('link', { name: /Checks/ }).click();
  // The press is answered at once, before anything is said of it.
  await expect(stages.getByRole('link', { name: /Checks/ })).toHaveCSS('opacity', '0.6');
  await expect(words).toBeVisible();
  await expect(page.getByText('120,000 of 200,000 listings are evaluated.')).toBeVisible();
  // What was there stays there.
  await expect(page).toHaveURL(/rules/);
  open();
  await page.waitForURL(/checks/);
  await expect(words).toBeHidden();
});

test('whoever comes to a feed sees at once that it is being worked out, and a feed that is none is none', async ({
  baseURL,
}) => {
  const answer = await fetch(`${baseURL}/feeds/lanternry-de/fields`);
  const reader = answer.body?.getReader();
  const text = new TextDecoder();
  let begun = '';
  while (!begun.includes('The first calculation of a large feed')) {
    const { value, done } = (await reader?.read()) ?? { done: true };
    if (done) break;
    begun += text.decode(value, { stream: true });
  }
  await reader?.cancel();
  expect(begun).toContain('page-shape');
  // The frame and those words come before the page.
  expect(begun).toContain('The first calculation of a large feed');
  expect(begun).not.toContain('aria-label="Stages"');
  const led = await fetch(`${baseURL}/feeds/lanternry-de`, { redirect: 'manual' });
  expect([led.status, led.headers.get('location')]).toEqual([307, '/feeds/lanternry-de/fields']);
});

test('a file that cannot be used is refused in words', async ({ page }) => {
  await page.goto('/sources');
  await page.getByLabel('File to import').setInputFiles({
    name: 'heading.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('sku,name\n'),
  });
  await expect(page.getByRole('alert').filter({ hasText: 'nothing below it' })).toBeVisible();
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'zeros.csv', mimeType: 'text/csv', buffer: Buffer.alloc(2000) });
  await expect(page.getByRole('alert').filter({ hasText: 'zero bytes' })).toBeVisible();
});

test('a mark that never closes costs its own row, which is told with its line', async ({ page }) => {
  await page.goto('/sources');
  await page.getByLabel('File to import').setInputFiles({
    name: 'broken.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('sku,name\nZZ-1,"Pot\nZZ-2,Pan\n'),
  });
  await page.getByRole('button', { name: 'Check all rows' }).click();
  await expect(page.getByText('opens a quotation mark in line 2 that is never closed')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import 1 item' })).toBeVisible();
});

test('damage found in a file is shown with its repair, and accepted as a group', async ({ page }) => {
  await page.goto('/sources');
  await page.getByLabel('File to import').setInputFiles({
    name: 'lights-with-damage.csv',
    mimeType: 'text/csv',
    buffer: readFileSync('tests/data/verrin-lights.csv'),
  });
  await page.getByRole('button', { name: 'Check all rows' }).click();
  await page.getByRole('tab', { name: /^Damage 4/ }).click();
  const repairs = page.getByRole('region', { name: 'Suggested repairs' });
  const zeros = repairs.getByRole('checkbox', { name: /lost leading zeros/ });
  await expect(zeros).not.toBeChecked();
  await expect(repairs.getByRole('checkbox', { name: /scientific/ })).toBeDisabled();
  const gtins = page.locator('.intake-row', { has: page.getByRole('button', { name: 'GTIN, filled' }) });
  await expect(gtins).toBeVisible();
  await zeros.click();
  await expect(zeros).toBeChecked();
  await page.getByRole('tab', { name: 'Items' }).click();
  await expect(page.getByRole('cell', { name: '012345678905' })).toBeVisible();
});

test('sorting, filtering and the address of the grid', async ({ page }) => {
  await page.goto('/items');
  await page.getByLabel('Filter Category').fill('seeds');
  await expect(page.getByRole('status')).toHaveText(/^\d+ of \d+$/);
  await page.getByRole('button', { name: /^Price/ }).click();
  await expect(page).toHaveURL(/f\.category=seeds.*sort=price|sort=price.*f\.category=seeds/);
  const prices = () => page.locator('.grid-row.item .grid-cell.number').allTextContents();
  await expect
    .poll(async () =>
      (await prices()).slice(0, 3).every((text, i, all) => i === 0 || Number(text) >= Number(all[i - 1])),
    )
    .toBe(true);
  await page.reload();
  await expect(page.getByLabel('Filter Category')).toHaveValue('seeds');
});

test('a family is listed singly on one feed: the impact bar says so before it counts, and it is taken back', async ({
  page,
}) => {
  await page.goto('/feeds/orrin-bazaar-de/families?family=POT-RDG');
  const shape = page.getByRole('region', { name: /^Ridge pot/ });
  await expect(shape.getByText('Parent, not for sale itself')).toBeVisible();
  await expect(shape.getByRole('row', { name: /^moss/ })).toContainText('ready');
  await shape.getByRole('button', { name: 'List variants singly here' }).click();
  await expect(shape.getByText('Listed singly')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Impact of the draft' })).toContainText(
    /1[0-2] listings change/,
  );
  await shape.getByRole('button', { name: 'List it as one family' }).click();
  await expect(shape.getByText('Parent, not for sale itself')).toBeVisible();
  await page.getByRole('button', { name: 'Could be one family', exact: false }).click();
  await expect(page.getByText('No single items look like one family.')).toBeVisible();
});

test('a stray quotation mark: the impact bar and the differences show it, an expectation names it; put right, the thread tells each step', async ({
  page,
}) => {
  const own = '/feeds/lanternry-gb';
  const sku = 'QM-POT-RDG-CHA-14';
  await page.goto(`${own}/titles?sample=${sku}`);
  await page.getByRole('button', { name: 'Add expectation' }).click();
  await expect(page.getByText('of this listing is now an expectation')).toBeVisible();
  await page.goto(`${own}/rules`);
  await page.getByRole('button', { name: 'Add rule' }).click();
  const name = page.getByLabel('Name of the rule');
  await name.fill('Inches');
  await name.press('Enter');
  await expect(page.getByRole('button', { name: 'Rule Inches' })).toBeVisible();
  await page.getByLabel('Compared with').fill('pot');
  await page.getByLabel('Compared with').press('Enter');
  await expect(page.getByText(/^[1-9]\d+ items match/)).toBeVisible();
  await page.getByLabel('Action').selectOption('after');
  await page.getByLabel('Field', { exact: true }).selectOption({ label: 'Headline' });
  await page.getByLabel('text', { exact: true }).fill('"');
  await page.getByLabel('text', { exact: true }).press('Enter');
  const impact = page.getByRole('region', { name: 'Impact of the draft' });
  await expect(impact).toContainText(/[1-9]\d+ listings change/);
  await expect(impact).toContainText('1 expectation breaks');
  await impact.getByRole('link', { name: 'See differences' }).click();
  await expect(page.getByRole('heading', { name: 'Changes in the draft' })).toBeVisible();
  await expect(page.locator('mark.new', { hasText: '"' }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText('The draft breaks 1 expectation')).toBeVisible();
  await expect(page.locator('.broken')).toContainText(`Headline of ${sku} stays`);
  await page.getByRole('button', { name: 'Keep editing' }).click();
  // Put right: only what says inches gets the mark.
  await page.goto(`${own}/rules`);
  await page.getByRole('button', { name: 'Rule Inches' }).click();
  await page.getByLabel('text', { exact: true }).fill(' for indoors');
  await page.getByLabel('text', { exact: true }).press('Enter');
  await page.getByLabel('Compared with').fill('saucer');
  await page.getByLabel('Compared with').press('Enter');
  await expect(impact).not.toContainText('expectation breaks');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.getByLabel('Note for History').fill('saucers are for indoors');
  await page.getByLabel('Note for History').press('Enter');
  await expect(page.getByText('version 2, published')).toBeVisible();
  await page.goto(`${own}/history`);
  await expect(page.getByText(/saucers are for indoors \(\d+ changes, \d+ listings\)/)).toBeVisible();
  await page.getByRole('link', { name: 'Changes' }).click();
  await expect(page.getByRole('heading', { name: 'From version 1 to version 2' })).toBeVisible();
  await page.locator('.bench table.plain td a').first().click();
  const thread = page.locator('.thread');
  await expect(thread).toContainText('row');
  await expect(thread).toContainText('rule “Inches”');
});

test('a check is taken lighter on one feed, and waived for its listings until a day; both are taken back', async ({
  page,
}) => {
  await page.goto('/feeds/orrin-bazaar-de/checks');
  const remedies = page.locator('.fixes');
  await remedies.getByRole('link', { name: /Product number is missing.*on \d+ listings/ }).click();
  const judging = page.locator('.judging');
  await judging.getByLabel('On this feed:').selectOption('tip');
  const impact = page.getByRole('region', { name: 'Impact of the draft' });
  await expect(impact).toContainText(/[1-9]\d* blockers clear/);
  const said = page.locator('.said');
  await expect(said).toContainText('Product number is missing: tip');
  await said.getByRole('button', { name: 'Undo' }).click();
  await expect(said).toHaveCount(0);
  await expect(impact).toHaveCount(0);
  await judging.getByRole('button', { name: /^Waive it for \d+ listings$/ }).click();
  await page.getByRole('textbox', { name: 'Reason' }).fill('numbers are ordered');
  const until = page.getByRole('textbox', { name: 'Until' });
  await until.fill('soon');
  await expect(page.getByRole('button', { name: 'Waive', exact: true })).toBeDisabled();
  await until.fill('2999-03-31');
  await page.getByRole('button', { name: 'Waive', exact: true }).click();
  await expect(said).toContainText(/waived for \d+ items until 31\/03\/2999, “numbers are ordered”/);
  await expect(impact).toContainText(/[1-9]\d* blockers clear/);
  await said.getByRole('button', { name: 'Undo' }).click();
  await expect(impact).toHaveCount(0);
});

test('a title by hand for one item: marked so, warned of when its item changes, and given back to the pattern', async ({
  page,
}) => {
  const sku = 'QM-POT-RDG-CHA-18';
  await page.goto(`/feeds/lanternry-de/titles?sample=${sku}&find=${sku}`);
  const own = page.getByRole('region', { name: 'This title' });
  const text = own.getByLabel('Written by hand');
  await text.fill('A ridge pot for the brightest sill');
  await text.press('Enter');
  const row = page.locator('.title-row');
  await expect(row).toContainText('A ridge pot for the brightest sill');
  await expect(row).toContainText('by hand');
  await expect(page.getByRole('region', { name: 'Impact of the draft' })).toContainText('1 listing changes');
  await expect(page.locator('.thread')).toContainText('written by hand for this item');
  await own.getByRole('button', { name: 'Use the pattern again' }).click();
  await expect(row).toContainText('Tarnholt Ridge pot');
  await expect(page.getByRole('region', { name: 'Impact of the draft' })).toHaveCount(0);
});

test('words of a cause change other drafts only where that is ticked, and it says where', async ({
  page,
}) => {
  await page.goto('/feeds/lanternry-de/checks?fix=choice%3Acolour');
  const also = page.getByLabel(/^Change the drafts? of .*Lanternry GB.* too$/);
  await expect(also).not.toBeChecked();
  await also.check();
  await page.getByRole('button', { name: /^Add \d+ values?/ }).click();
  await expect(page.getByText(/^Also changed, in the drafts of other feeds: .*Lanternry GB/)).toBeVisible();
  await page.goto('/feeds/lanternry-gb/values?field=colour');
  await expect(page.getByRole('link', { name: /^Draft, \d+ changes?$/ })).toBeVisible();
});

test('from the board to ready: one value typed for sixty items, a set that is worked out taken with one press, and back', async ({
  page,
}) => {
  await page.goto('/');
  await page.locator('a[href*="flickerstall-de-en/checks?fix=missing%3Amade_in"]').first().click();
  const take = page.getByRole('button', { name: /^Apply \d+ values/ });
  await expect(page.getByText(/right for \d+ of \d+ that have it/).first()).toBeVisible();
  await page.getByLabel(/^The same .* for all others$/).fill('DE');
  await expect(take).toHaveText('Apply 61 values');
  await take.click();
  await page
    .getByRole('alert')
    .filter({ hasText: 'changed 61 cells of 61 items' })
    .getByRole('button', { name: 'Undo' })
    .click();
  await expect(page.getByText('Undone: changed 61 cells of 61 items')).toBeVisible();
  // The page says what was done and went on to the next fix.
  await expect(page.getByRole('status').filter({ hasText: 'Made in is missing: 61 values' })).toContainText(
    /applied\. Next: /,
  );
  await page.goto('/feeds/flickerstall-de-en/checks?fix=missing%3Amade_in');
  // What the law asks about is put forward from other goods of the kind, and rejected unseen.
  await expect(page.getByRole('button', { name: 'Apply', exact: true })).toBeDisabled();

  // All of it is worked out: pressed where it is proposed, published, and the listings are ready.
  await page.goto('/feeds/plazuela-norte-es/checks?fix=choice%3Acolor');
  const first = page.locator('.checked').first();
  const sku = (await first.locator('.mono').textContent()) ?? '';
  await page.goto('/feeds/plazuela-norte-es/checks');
  await page.getByRole('button', { name: 'Apply Color uses values the channel does not accept' }).click();
  await expect(page.getByRole('link', { name: /^Draft, \d+ changes?$/ })).toBeVisible();
  await expect(
    page.getByRole('button', { name: 'Apply Color uses values the channel does not accept' }),
  ).toHaveCount(0);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.getByRole('button', { name: /^Publish version/ }).click();
  await expect(page.getByText(/^version 2, published/)).toBeVisible();
  await page.goto(`/feeds/plazuela-norte-es/checks?find=${sku}&show=ready`);
  await expect(page.locator('.checked').first()).toContainText(sku);
});

// Source: Debian's python3-openpyxl, an independent reader and writer of ECMA-376.
test('issues out to a workbook, mended in openpyxl and back in with a report; what was refused comes back in a file', async ({
  page,
}) => {
  const save = async (name: string) => {
    await page.getByRole('button', { name: 'Spreadsheet' }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name }).click(),
    ]);
    const path = test.info().outputPath(download.suggestedFilename());
    await download.saveAs(path);
    return path;
  };
  const mend = (path: string, column: string, ...texts: string[]) =>
    execFileSync('/usr/bin/python3', [
      '-c',
      `import openpyxl, sys
b = openpyxl.load_workbook(sys.argv[1])
s = b.worksheets[0]
at = [c.value for c in s[1]].index(sys.argv[2]) + 1
for n, text in enumerate(sys.argv[3:]): s.cell(n + 2, at).value = text
b.save(sys.argv[1])`,
      path,
      column,
      ...texts,
    ]);
  const bring = async (path: string) => {
    await page.getByRole('button', { name: 'Spreadsheet' }).click();
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('menuitem', { name: 'Import a workbook' }).click(),
    ]);
    await chooser.setFiles(path);
  };
  await page.goto('/feeds/flickerstall-de-en/checks?fix=measure%3Aweight');
  const path = await save('Export as a workbook');
  mend(path, 'Weight', 'quite heavy', '1.4 kg');
  await bring(path);
  const report = page.getByRole('region', { name: 'Result of the import' });
  await expect(report.getByRole('heading')).toHaveText('Changed 1 cell of 1 item');
  await expect(report).toContainText('1 cell rejected.');
  await expect(report).toContainText(/Row 2, .* Weight “quite heavy”: .*number with a unit/);
  const [refused] = await Promise.all([
    page.waitForEvent('download'),
    report.getByRole('link', { name: 'Export them with reasons' }).click(),
  ]);
  const again = test.info().outputPath('again.xlsx');
  await refused.saveAs(again);
  mend(again, 'Weight', '1.4 kg');
  await bring(again);
  await expect(page.getByText('No listing matches.')).toBeVisible();

  // All that the channel asks at a place, filled in for what is listed there, and brought back.
  await page.goto('/feeds/orrin-bazaar-de/checks?fix=missing%3Apot_diameter');
  const sku = (await page.locator('.checked .mono').first().textContent()) ?? '';
  await page.goto(`/feeds/orrin-bazaar-de/categories?category=${encodeURIComponent('Pots, glazed')}`);
  await page.getByRole('button', { name: 'as a workbook' }).click();
  const columns = page.getByRole('group', { name: 'Columns of the workbook' });
  const [must, all] = [
    await columns.getByRole('checkbox', { checked: true }).count(),
    await columns.getByRole('checkbox').count(),
  ];
  expect(all).toBeGreaterThan(must + 2);
  await columns.getByRole('checkbox', { checked: false }).first().check();
  const [place] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: `Save ${must + 1} columns` }).click(),
  ]);
  expect(place.suggestedFilename()).toMatch(/^orrin-bazaar-de-.*\.xlsx$/);
  const filled = test.info().outputPath('place.xlsx');
  await place.saveAs(filled);
  mend(filled, 'Brand', 'Tarnholt Works');
  await page.goto(`/feeds/orrin-bazaar-de/checks?find=${sku}`);
  await bring(filled);
  await expect(report.getByRole('heading')).toHaveText('Changed 1 cell of 1 item');

  // Texts to translate: out beside what they are translated from, and back.
  const texts = await save('Export texts to translate');
  mend(texts, 'Name in German', 'Schürze aus Leinen');
  await bring(texts);
  await expect(page.getByText('changed 1 cell of 1 item').last()).toBeVisible();
  await expect(report).not.toContainText('rejected');
});

test('what a shopper meets is as the market writes it: prices, cuts and pictures in three languages', async ({
  page,
}) => {
  for (const [feed, price, language] of [
    ['lanternry-de', /^\d+,\d\d\s€$/, 'de'],
    ['lanternry-gb', /^£\d+\.\d\d$/, 'en'],
    ['plazuela-norte-es', /^\d+,\d\d\s€$/, 'es'],
  ] as const) {
    await page.goto(`/feeds/${feed}/listings?item=QM-POT-RDG-MOS-14&fields=all`);
    const shopper = page.getByRole('region', { name: 'Preview for shoppers' });
    await expect(shopper.locator('.price')).toHaveText(price);
    await expect(shopper.locator('.found [lang]')).toHaveAttribute('lang', language);
    await expect(shopper.getByRole('img').first()).toBeVisible();
    await shopper.getByRole('button', { name: 'Page', exact: true }).click();
    const whole = await shopper.locator('.whole b [lang]').textContent();
    await shopper.getByRole('button', { name: 'Phone' }).click();
    const cut = (await shopper.locator('.phone-frame > [lang]').first().textContent()) ?? '';
    // The title as it is, or its beginning with a mark that it goes on.
    expect(whole?.startsWith(cut.replace(/…$/u, ''))).toBe(true);
    expect(cut.endsWith('…')).toBe(cut !== whole);
  }
});

test('a listing is mended by keyboard alone, and on to the next; its shopper’s view follows', async ({
  page,
}) => {
  await page.goto('/feeds/plazuela-norte-es/checks?fix=missing%3Atalla&sample=QM-GLV-SOF-SLA-L');
  await page.getByRole('link', { name: 'Open the listing' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Soft grip gloves · slate' })).toBeVisible();
  await expect(page.getByText(/^\d+ of 5 with this issue$/)).toBeVisible();
  await expect(page.getByText(/^Accept “L” L in the SKU means it \d+ times elsewhere/)).toBeVisible();
  // By keyboard: to the value, in, typed, saved.
  await page.getByRole('button', { name: 'Change Talla' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('L');
  await page.keyboard.press('Enter');
  await expect(page.getByText('changed 1 cell of 1 item')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change Talla' })).toHaveCount(0);
  await page.keyboard.press('j');
  await expect(page.getByText(/^\d+ of 4 with this issue$/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change Talla' })).toBeVisible();

  // What a shopper meets: the price as the market writes it, the title cut where a web search cuts it.
  const shopper = page.getByRole('region', { name: 'Preview for shoppers' });
  await expect(shopper).toContainText(/\d+,\d\d\s€/);
  await shopper.getByRole('button', { name: 'Web search' }).click();
  await expect(shopper.locator('.web-title')).toHaveText(/^.{1,61}$/u);
  await page.setViewportSize({ width: 390, height: 800 });
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
  ).toBeLessThanOrEqual(0);
});

test('a rule is copied to another feed, on the fields that have the same job there', async ({ page }) => {
  await page.goto('/feeds/lanternry-de/rules');
  await page
    .getByRole('button', { name: /^Rule / })
    .first()
    .click();
  const name = await page.getByLabel('Name of the rule').inputValue();
  await page.getByRole('button', { name: 'Copy to …' }).click();
  await page.getByRole('menuitem', { name: 'Plazuela Norte ES' }).click();
  await expect(page.getByText('Copied into the drafts of Plazuela Norte ES.')).toBeVisible();
  await page.getByRole('button', { name: 'Copy to …' }).click();
  await page.getByRole('menuitem', { name: 'Plazuela Norte ES' }).click();
  await expect(page.getByText('Not copied: Plazuela Norte ES already has this rule.')).toBeVisible();
  await page.goto('/feeds/plazuela-norte-es/rules');
  await page.getByRole('button', { name: `Rule ${name}` }).click();
  await page.getByRole('button', { name: 'Delete rule' }).click();
  await expect(page.getByRole('button', { name: `Rule ${name}` })).toHaveCount(0);
});

test('rules are gathered in groups, switched and folded together; a rule may ask for the issues of a listing, and how it stands', async ({
  page,
}) => {
  await page.goto(`${feed}/rules?rule=no-shouting`);
  const group = page.getByLabel('Group', { exact: true });
  await group.fill('Wording');
  await group.press('Enter');
  const all = page.getByRole('switch', { name: 'All rules of Wording are on' });
  await expect(all).toBeChecked();
  await page.getByRole('button', { name: 'Add condition' }).click();
  await expect(page.getByLabel('Compared value')).toHaveCount(2);
  await page.getByLabel('Compared value').last().selectOption('Issues');
  await page.getByLabel('Compared with').last().selectOption('A field names another brand');
  const rule = page.getByRole('button', { name: 'Rule No price talk in headlines' });
  await expect(rule).toContainText('Issues include “A field names another brand”');
  await expect(page.getByText('0 items match')).toBeVisible();
  // Several are chosen by their words as well.
  await page.getByLabel('Comparison').last().selectOption({ value: 'oneOf' });
  await page.locator('input[aria-label="Compared with"]').last().fill('below cost');
  await page.getByRole('option', { name: 'A field is below cost' }).click();
  await expect(rule).toContainText('“A field names another brand, A field is below cost”');
  await page.keyboard.press('Escape');
  await page.getByLabel('Comparison').last().selectOption({ value: 'equals' });
  await expect(rule).toContainText('Issues include “A field names another brand”');
  await page.getByLabel('Compared value').last().selectOption('At the channel');
  await expect(rule).toContainText('At the channel is “not there yet”');
  await page.getByLabel('Compared with').last().selectOption('refused');
  await expect(rule).toContainText('At the channel is “rejected”');
  await all.press('Space');
  await expect(page.getByRole('switch', { name: 'No price talk in headlines is on' })).not.toBeChecked();
  await rule.click();
  await page.getByRole('button', { name: 'Collapse the group Wording' }).click();
  await expect(rule).toHaveCount(0);
  await page.getByRole('button', { name: 'Expand the group Wording' }).click();
  await expect(rule).toBeVisible();
  const name = page.getByLabel('Name of the group Wording');
  await name.fill('');
  await name.press('Enter');
  await expect(all).toHaveCount(0);
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByRole('switch', { name: 'No price talk in headlines is on' })).toBeChecked();
});

test('what a channel has is looked for; one surely the same is joined, a doubt is settled by keyboard, and both are taken back', async ({
  page,
}) => {
  const orrin = '/feeds/orrin-bazaar-de';
  await page.goto(`${orrin}/families`);
  await page.getByRole('link', { name: 'Match existing entries' }).click();
  await page.getByRole('button', { name: /^Search for \d+ items$/ }).click();
  await expect(page.getByRole('status').filter({ hasText: /^searched for \d+ items$/ })).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('button', { name: /^Certain \d+$/ }).click();
  const row = page.getByRole('row').filter({ hasText: 'QM-TRY-OVA-HON' });
  await expect(row).toContainText('OB-700003');
  await expect(row).toContainText('the same GTIN');
  await row.getByRole('button', { name: 'Match', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Matched 1' })).toBeVisible();
  await page.getByRole('button', { name: /^Uncertain \d+$/ }).click();
  const left = page.getByText(/^\d+ match(es)? to decide$/);
  const before = Number.parseInt((await left.textContent()) ?? '', 10);
  await page.locator('main').click({ position: { x: 600, y: 8 } });
  const item = page.getByRole('region', { name: 'Your item' });
  const doubted = (await item.locator('.mono').textContent()) ?? '';
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Matched 2' })).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByRole('button', { name: 'Matched 1' })).toBeVisible();
  await expect(left).toHaveText(new RegExp(`^${before} match(es)? to decide$`));
  await page.goto(`${orrin}/listings?item=QM-TRY-OVA-HON`);
  await expect(page.getByText('Matched to OB-700003')).toBeVisible();
  await page.goto(`${orrin}/matching?show=joined`);
  await expect(row).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: doubted })).toHaveCount(0);
  await row.getByRole('button', { name: 'Unmatch' }).click();
  await expect(page.getByRole('button', { name: 'Matched 0' })).toBeVisible();
});

test('the shop’s own pages are visited when asked to, and an item says what its page said', async ({
  page,
}) => {
  await page.goto('/settings');
  const pages = page.getByRole('region', { name: 'Pages of the shop' });
  const visit = pages.getByRole('checkbox', { name: 'visit the shop’s pages' });
  await visit.click();
  await expect(visit).toBeChecked();
  await expect(pages.getByRole('status')).toContainText(/\d+ with product data/, { timeout: 60_000 });
  await pages.getByRole('textbox', { name: 'are visited at' }).fill('soon');
  await pages.getByRole('textbox', { name: 'are visited at' }).press('Enter');
  await expect(page.getByText('An address starts with https:// and ends with a slash')).toBeVisible();
  await page.reload();
  await visit.click();
  await expect(visit).not.toBeChecked();
  await expect(pages.getByRole('button', { name: 'Visit all now' })).toHaveCount(0);
  // The first that were visited are those whose addresses come first.
  await page.goto('/items/SP-BOK-WIN-HAR');
  const shop = page.getByRole('region', { name: 'The shop’s page' });
  await expect(shop).toContainText('22.00 EUR');
  await expect(shop).toContainText('in stock');
});
