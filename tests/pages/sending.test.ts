import { createConnection } from 'mysql2/promise';
import { expect, type Page, test } from '../support/pages';

/** The demo with all of its feeds; a channel's minute lasts four seconds here. */
const status = (page: Page, words: RegExp) => page.getByRole('status').filter({ hasText: words });
const sendButton = (page: Page) => page.getByRole('button', { name: /^Send \d+ listings?$/ });
const figure = (page: Page, code: string) => page.locator(`[data-figure="${code}"] .figure`);

test('Orrin Bazaar: doubtful prices held and released with a reason, the rest sent, refused, mended, sent again', async ({
  page,
}) => {
  await page.goto('/feeds/orrin-bazaar-de/send');
  await expect(status(page, /3 listings held for review/)).toContainText(
    'the price changes by more than 50 %',
  );
  await expect(page.locator('table.changes tbody tr').first()).toContainText('-90.0 %');
  await sendButton(page).click();
  const side = page.getByRole('complementary', { name: 'Delivery' });
  await expect(side.getByText(/3 withdrawn/)).toBeVisible();
  // The rest has its answer; the three are still here, and go with a person's reason.
  await page.goto('/feeds/orrin-bazaar-de/send');
  await expect(status(page, /3 listings held for review/)).toBeVisible();
  await page.getByRole('button', { name: 'Send 3 listings as shown' }).click();
  const reason = page.getByRole('textbox', { name: /^Reason/ });
  await reason.fill('the lights were far too dear');
  await reason.press('Enter');
  await expect(status(page, /held for review/)).toHaveCount(0);
  await expect(side.getByText(/^3 accepted/).first()).toBeVisible();
  await expect(figure(page, 'withdraw')).toHaveText('0');
  // Something the channel refuses by a rule that nobody told.
  await page.goto('/items/QM-POT-RDG-CHA-14');
  await page.getByRole('button', { name: 'Change Name' }).click();
  const name = page.getByRole('textbox', { name: 'Name', exact: true });
  await name.fill('Ridge pot, free shipping, with drip tray');
  await name.press('Enter');
  await expect(page.getByText('Changed 1 cell of 1 item')).toBeVisible();
  await page.goto('/feeds/orrin-bazaar-de/send');
  await page.getByRole('button', { name: /^Send \d+ listings?$/ }).click();
  await expect(page.locator('.sent', { hasText: 'QM-POT-RDG-CHA-14' })).toContainText(
    'Entry name: The entry name advertises',
  );
  // What the channel refused can become a check of one's own, with its field and words.
  await page.getByRole('link', { name: 'Check it before sending' }).first().click();
  const own = page.getByRole('region', { name: 'Own check' });
  await expect(own.getByLabel('Problem')).toHaveValue(/The entry name advertises/);
  await expect(own.locator('select').nth(1)).toHaveValue('entry_name');
  await own.getByLabel('Compared with').fill('free shipping');
  await own.getByLabel('Compared with').press('Enter');
  await own.getByRole('button', { name: 'Add check' }).click();
  await expect(own.getByText('1 item meets it')).toBeVisible();
  await expect(page.locator('.fixes')).toContainText('Entry name: your own check');
  await own.getByRole('button', { name: 'Delete check' }).click();
  await expect(own).toHaveCount(0);
  // Sent as it is it would be refused again, so it is not; mended, it goes by itself.
  await page.goto('/feeds/orrin-bazaar-de/send');
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible();
  await page.goto('/items/QM-POT-RDG-CHA-14');
  await page.getByRole('button', { name: 'Change Name' }).click();
  await name.fill('Ridge pot with drip tray, now in chalk');
  await name.press('Enter');
  await expect(page.getByText('Changed 1 cell of 1 item')).toBeVisible();
  await page.goto('/feeds/orrin-bazaar-de/send');
  await expect(figure(page, 'changed')).toHaveText(/[12]/);
  await sendButton(page).click();
  await expect(status(page, /\d accepted, 0 rejected/)).toBeVisible();
});

test('Lanternry fetches its file by itself, and says what it refuses at the field it is about', async ({
  page,
}) => {
  await page.goto('/feeds/lanternry-de/send');
  await expect(page.getByText('Atom, fetched by the channel')).toBeVisible();
  await sendButton(page).click();
  await expect(status(page, /\d+ accepted, \d+ rejected/)).toBeVisible();
  await expect(page.locator('.sent', { hasText: 'rejected' }).first()).toContainText('Barcode:');
  const [saving] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'File 1 of 1' }).click(),
  ]);
  expect(saving.suggestedFilename()).toMatch(/^lanternry-de-\d+-1\.xml$/);
});

test('Tessel Boards takes a card at a time; it can be paused, go on and be stopped', async ({ page }) => {
  await page.goto('/feeds/tessel-boards-de/send');
  await expect(page.getByText('1 in 60 s at most', { exact: false })).toBeVisible();
  await sendButton(page).click();
  const side = page.getByRole('complementary', { name: 'Delivery' });
  await expect(side.getByText(/[2-9] of \d+ parts sent/)).toBeVisible();
  await side.getByRole('button', { name: 'Pause' }).click();
  await expect(side.getByText('paused', { exact: true })).toBeVisible();
  await side.getByRole('button', { name: 'Resume' }).click();
  await expect(side.getByText(/\d of \d+ parts sent/)).toBeVisible();
  // The same from the outbox, where everything that is on its way stands together.
  await page.goto('/submissions');
  const going = page.getByRole('region', { name: 'In progress' }).locator('.going', { hasText: 'Tessel' });
  await going.getByRole('button', { name: 'Pause' }).click();
  await expect(going).toContainText('paused');
  await going.getByRole('button', { name: 'Resume' }).click();
  await expect(going).toContainText(/\d+ of \d+ parts sent/);
  await going.getByRole('button', { name: 'Stop' }).click();
  await expect(going).toHaveCount(0);
  await page.goto('/feeds/tessel-boards-de/send');
  await expect(side.getByText(/without a result|accepted/).first()).toBeVisible();
  // What has left is there; the rest can be sent again.
  await expect(figure(page, 'unchanged')).not.toHaveText('0');
  await expect(sendButton(page)).toBeEnabled();
});

test('Flickerstall looks at listings first; they are in review until it has', async ({ page }) => {
  await page.goto('/feeds/flickerstall-de-en/send');
  await page.getByRole('button', { name: /^Send \d+ listings?$/ }).click();
  await expect(page.locator('.sent', { hasText: 'in review' }).first()).toBeVisible();
  await expect(status(page, /\d+ accepted, 0 rejected/)).toBeVisible();
});

/** Makes a channel from a heading row and opens its sheet. */
async function makeChannel(page: Page, name: string): Promise<void> {
  await page.goto('/channels/new');
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page
    .getByLabel('Heading row')
    .fill('article;title;price\nQM-1;A pot;12.50 EUR\nQM-2;Another pot;9.90 EUR');
  await page.getByRole('button', { name: 'Create channel' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}

/** Takes the sheet on, adds a feed, takes what is suggested, and publishes it. @returns the feed's address */
async function feedOf(page: Page, name: string): Promise<string> {
  await page.getByRole('link', { name: 'Review and accept' }).click();
  await page.getByRole('button', { name: 'Accept version 1' }).click();
  await expect(page.getByText('version 1, since')).toBeVisible();
  await page.goto('/channels');
  await page.getByRole('region', { name }).getByRole('button', { name: 'Add a feed' }).click();
  await page.getByRole('button', { name: /^Accept \d+ suggestions$/ }).click();
  await expect(page.getByRole('button', { name: /^Accept \d+ suggestions$/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.getByRole('button', { name: /^Publish version/ }).click();
  await expect(page.getByText('version 1, published')).toBeVisible();
  return new URL(page.url()).pathname.replace(/\/fields$/, '');
}

test('a channel without a way out ends in a file, and its answer is brought in', async ({ page }) => {
  await makeChannel(page, 'Hedge market');
  const feed = await feedOf(page, 'Hedge market');
  await page.goto(`${feed}/send`);
  await expect(page.getByText('CSV, uploaded by hand')).toBeVisible();
  await page.getByRole('button', { name: /^Create the file, \d+ listings$/ }).click();
  const link = page.getByRole('link', { name: 'File 1 of 1' });
  await expect(link).toBeVisible();
  const [saving] = await Promise.all([page.waitForEvent('download'), link.click()]);
  expect(saving.suggestedFilename()).toMatch(/\.csv$/);
  const [choosing] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Import the result' }).click(),
  ]);
  await choosing.setFiles({
    name: 'answer.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('key,result,problem,field\nQM-POT-RDG-CHA-14,refused,We have enough pots,title\n'),
  });
  await expect(page.getByText(/1 answer read/)).toBeVisible();
  await expect(page.locator('.sent', { hasText: 'rejected' })).toContainText('We have enough pots');
  await page.getByRole('button', { name: 'Mark all accepted' }).click();
  await expect(status(page, /\d+ accepted, 1 rejected/)).toBeVisible();
});

test('a seventh channel, made in the pages alone, sends and hears by itself', async ({ page }) => {
  await makeChannel(page, 'Fern lane');
  await page.getByRole('button', { name: 'Market and delivery' }).click();
  const saved = () => expect(page.getByText('saving', { exact: false })).toHaveCount(0);
  await page.getByLabel('Delivery: Manner').selectOption({ label: 'files are sent' });
  await expect(page.getByLabel('Delivery: Address for sending')).toBeVisible();
  await page.getByLabel('Delivery: Format').selectOption({ label: 'RSS' });
  const answers = {
    'Result address': '/outcome/{number}',
    'ID in the receipt': 'ticket.nr',
    'State of the report': 'progress',
    'Values for “not ready”': 'busy',
    'List of results': 'data.rows',
    'Key of the listing': 'item.key',
    Result: 'verdict',
    'Values for “accepted”': 'yes',
    'Values for “rejected”': 'no',
    'List of problems': 'notes',
    'Code of a problem': 'nr',
    'Field of a problem': 'where',
    'Text of a problem': 'says',
  };
  for (const [label, words] of Object.entries(answers)) {
    const input = page.getByLabel(`Answer: ${label}`, { exact: true });
    await input.fill(words);
    await input.press('Enter');
    await expect(page.getByLabel(`Answer: ${label}`, { exact: true })).toHaveValue(words);
    await saved();
  }
  const feed = await feedOf(page, 'Fern lane');
  await page.goto(`${feed}/settings`);
  const address = page.getByLabel('Address of the channel');
  // The generic simulator: it takes what is posted at any path.
  const simulator = (await address.getAttribute('placeholder'))?.replace(/fern-lane$/, 'generic') ?? '';
  await address.fill(simulator);
  await address.press('Enter');
  await expect(page.getByText('the simulated channel')).toHaveCount(0);
  await page.goto(`${feed}/send`);
  await expect(page.getByText('RSS, one part')).toBeVisible();
  await page.getByRole('button', { name: 'File', exact: true }).click();
  await page.getByRole('button', { name: 'Raw' }).click();
  await expect(page.getByRole('region', { name: 'First lines of the file' })).toContainText('<c:article>');
  await sendButton(page).click();
  await expect(status(page, /\d+ accepted, 0 rejected/)).toBeVisible();
});

/** Moves the clock: the hour of a feed has just come. */
async function itsHourComes(feed: string): Promise<void> {
  const connection = await createConnection({
    host: '127.0.0.1',
    port: Number(process.env.LIVELY_DB_PORT),
    user: 'lively',
    password: process.env.LIVELY_DB_PASSWORD ?? '',
    database: 'lively',
  });
  const [done] = await connection.execute(
    'update feed_schedule set next_at = utc_timestamp(3) - interval 1 minute where feed = ?',
    [feed],
  );
  expect(done).toMatchObject({ affectedRows: 1 });
  await connection.end();
}

test('a feed gets an hour, seen in the shop’s zone; when it comes it is sent, which is told, and leads to its listings', async ({
  page,
}) => {
  await page.goto('/feeds/lanternry-gb/settings');
  const hours = page.getByRole('region', { name: 'Schedule' });
  await hours.getByRole('button', { name: 'Send on a schedule' }).click();
  await expect(hours).toContainText(/Next .* 04:0\d/);
  const at = hours.getByLabel('Sent: At');
  await at.fill('05:30');
  await at.press('Enter');
  await expect(hours).toContainText(/Next .* 05:3\d/);
  await at.fill('half past');
  await at.press('Enter');
  await expect(page.getByText('is a time like 04:30')).toBeVisible();
  await hours.getByLabel('Sent: Every').selectOption('week');
  await hours.getByLabel('Sent: On').selectOption('Sunday');
  await expect(hours).toContainText(/Next (\d\d\/\d\d\/\d{4}|tomorrow|today) 05:3\d/);
  await hours.getByRole('button', { name: 'Pause' }).click();
  await expect(hours).toContainText('Paused.');
  await page.goto('/submissions');
  const next = page.getByRole('region', { name: 'Next' });
  await expect(next.locator('.next', { hasText: 'Lanternry GB' })).toContainText('paused');
  await page.goto('/feeds/lanternry-gb/settings');
  await hours.getByRole('button', { name: 'Resume' }).click();
  await expect(hours).not.toContainText('Paused.');

  await itsHourComes('lanternry-gb');
  await page.goto('/submissions');
  const sent = page.getByRole('row', { name: /Lanternry GB.*scheduled/ }).first();
  await expect(async () => {
    await page.reload();
    await expect(sent).toContainText('131 accepted', { timeout: 2000 });
  }).toPass({ timeout: 120_000 });
  await page.goto('/notifications');
  const told = page.getByRole('listitem').filter({ hasText: 'Lanternry GB' }).first();
  await expect(told).toContainText(/accepted|rejected/);
  await told.getByRole('link').click();
  await expect(page).toHaveURL(/lanternry-gb\/send\?submission=\d+/);
  await expect(page.locator('.sent').first()).toBeVisible();
  await page.goto('/notifications');
  await expect(told).toHaveAttribute('data-read', 'true');
  await page.goto('/submissions/insights');
  const byFeed = page.getByRole('region', { name: 'Feeds' });
  await expect(byFeed.getByRole('row', { name: /Lanternry GB/ })).toContainText('%');
});

test('a document frees a restricted branch until the day it holds no more', async ({ page }) => {
  await page.goto('/feeds/orrin-bazaar-de/categories?category=Plant+food&at=13001');
  await page.getByRole('button', { name: /^Map \d+ items here$/ }).click();
  await expect(page.getByText(/^Draft, /)).toBeVisible();
  const settings = '/feeds/orrin-bazaar-de/settings';
  await page.goto(settings);
  const wanted = page.getByRole('region', { name: 'Prerequisites of the channel' });
  const box = wanted.getByLabel(/^Safety data sheet/i);
  await expect(wanted.getByText(/listings? needs? it/)).toBeVisible();
  const checks = '/feeds/orrin-bazaar-de/checks';
  await page.goto(checks);
  await expect(page.getByText(/requires a document/).first()).toBeVisible();
  await page.goto(settings);
  await box.check();
  await wanted.getByLabel('Number or file of safety data sheet').fill('SDS-2231');
  await wanted.getByLabel('Number or file of safety data sheet').press('Enter');
  await wanted.getByLabel('Valid until, of safety data sheet').fill('2039-12-31');
  await wanted.getByLabel('Valid until, of safety data sheet').press('Enter');
  await expect(wanted.getByLabel('Valid until, of safety data sheet')).toHaveValue('2039-12-31');
  await page.goto(checks);
  await expect(page.getByText(/requires a document/)).toHaveCount(0);

  // It ended: the branch is restricted again.
  await page.goto(settings);
  await wanted.getByLabel('Valid until, of safety data sheet').fill('2024-12-31');
  await wanted.getByLabel('Valid until, of safety data sheet').press('Enter');
  await expect(wanted.getByText('ended on')).toBeVisible();
  await expect(box).not.toBeChecked();
  await page.goto(checks);
  await expect(page.getByText(/requires a document/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByText(/^Draft, /)).toHaveCount(0);
});

test('Flickerstall: saved there as a draft, sent for review by a person; tried at the test account, nothing changes', async ({
  page,
}) => {
  const stall = '/feeds/flickerstall-de-en';
  await page.goto('/items/QM-POT-RDG-MOS-18');
  await page.getByRole('button', { name: 'Change Name' }).click();
  const name = page.getByRole('textbox', { name: 'Name', exact: true });
  await name.fill('Ridge pot with drip tray, wide rim');
  await name.press('Enter');
  await expect(page.getByText('Changed 1 cell of 1 item')).toBeVisible();
  await page.goto(`${stall}/send`);
  await expect(figure(page, 'changed')).not.toHaveText('0');
  await page.getByRole('button', { name: 'Save as drafts at the channel' }).click();
  const side = page.getByRole('complementary', { name: 'Delivery' });
  await expect(side.getByText(/^\d+ saved$/)).toBeVisible();
  const review = page.getByRole('button', { name: /^Send \d+ drafts? for review$/ });
  await expect(review).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible();
  await page.goto(`${stall}/listings?item=QM-POT-RDG-MOS-18`);
  await expect(page.getByText('At the channel: accepted; a newer draft is there')).toBeVisible();
  await page.goto(`${stall}/send`);
  await review.click();
  await expect(review).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Send all \d+ again$/ })).toBeVisible();

  await page.goto(`${stall}/settings`);
  await page.getByLabel('Account', { exact: true }).selectOption('test account');
  await expect(page.getByLabel('Address of the channel for tests')).toBeVisible();
  await page.goto(`${stall}/send`);
  await expect(side).toContainText('test account of the simulated channel');
  await page.getByRole('button', { name: /^Send all \d+ again$/ }).click();
  await expect(side.getByText('test account,').first()).toBeVisible();
  await expect(side.getByText(/^\d+ accepted$/).first()).toBeVisible();
  await expect(figure(page, 'unchanged')).not.toHaveText('0');
  await page.goto(`${stall}/settings`);
  await page.getByLabel('Account', { exact: true }).selectOption('live account');
  await expect(page.getByLabel('Address of the channel for tests')).toHaveCount(0);
});
