import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { stringify } from 'csv-stringify/sync';
import { eq } from 'drizzle-orm';
import { fromAttribute } from '@/core/compose/composition';
import type { Step } from '@/core/compose/steps';
import { emptyPlan } from '@/core/plans/plan';
import { createItem, editCells } from '@/server/catalog/itemEdits';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { saveWorkspace } from '@/server/catalog/workspace';
import { db } from '@/server/db/connection';
import { draft, picture, planVersion } from '@/server/db/schema';
import { loadFeedContext, tryFeed } from '@/server/evaluation/feedContext';
import { findItem, itemTable } from '@/server/items/items';
import { evaluateFeeds } from '@/server/listings/refreshJob';
import { overviewView, sidebarView } from '@/server/pages/overview';
import { measureAll } from '@/server/pictures/duplicates';
import { editDraft, undoDraft } from '@/server/plans/drafts';
import { pathOfStored } from '@/server/storage/files';
import { sendSubmission, submissionFiles } from '@/server/submissions/delivery';
import { sendFeed } from '@/server/submissions/submissions';
import { cartEvaluate, plansOf } from '../support/feeds';
import { closeDatabase, freshDemo, temporaryFolder } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const feed = 'lanternry-de';
const plans = () => plansOf(feed);

test('an edit whose pattern could run forever is refused with its reason', async () => {
  const { revision } = await plans();
  const { planEditSchema } = await import('@/core/plans/edit');
  for (const pattern of ['(a+)+$\\1', '(?=(a+))a*b', '(?<!a)b']) {
    const step = { step: 'replacePattern', pattern, with: '' };
    const parsed = planEditSchema.safeParse({
      edit: 'fields',
      fields: { about: fromAttribute('description', [step as Step]) },
    });
    expect(parsed.success).toBe(false);
    expect(JSON.stringify(parsed.error?.issues)).toMatch(/run forever/);
  }
  expect((await plans()).revision).toBe(revision);
});

test('steps that make far too much of every item stop, the feed says so, undo mends it, and all else works', async () => {
  const { revision } = await plans();
  const grow = Array.from(
    { length: 45 },
    (): Step => ({ step: 'replacePattern', pattern: '(.)', with: '$1$1$1$1' }),
  );
  await editDraft(feed, revision, { edit: 'fields', fields: { about: fromAttribute('description', grow) } });
  const { work, failed } = await tryFeed(feed);
  expect(work).toBeUndefined();
  expect(failed?.words).toMatch(/takes too long.*Undo/);
  // The second time nothing is computed again: it is the same failure.
  const failure = () => loadFeedContext(feed).catch((error: unknown) => error);
  expect(await failure()).toBe(await failure());
  // What is published stays counted while a draft fails; a published plan that fails says so on its feed, and is counted
  // again once it is another.
  const told = async () => {
    await evaluateFeeds();
    expect((await overviewView()).feeds).toHaveLength(1);
    return (await sidebarView()).feeds.find(({ code }) => code === feed)?.failed;
  };
  expect(await told()).toBeUndefined();
  const { draft: heavy } = await plans();
  const ofLater = eq(planVersion.version, 99);
  await db
    .insert(planVersion)
    .values({ feed, version: 99, plan: heavy, publishedAt: new Date(), words: 'far too much' });
  expect(await told()).toMatch(/too long/);
  await db.delete(planVersion).where(ofLater);
  expect(await told()).toBeUndefined();
  expect((await sidebarView()).feeds[0]?.blocked).toBeGreaterThan(0);
  await undoDraft(feed, revision + 1);
  expect((await tryFeed(feed)).work?.draft.listings.length).toBeGreaterThan(200);
});

test('a plan that was kept with a pattern no longer taken fails in words too', async () => {
  const { draft: plan, revision } = await plans();
  const step = { step: 'replacePattern', pattern: '(a)\\1', with: '' } as const;
  await db
    .update(draft)
    .set({ plan: { ...plan, fields: { ...plan.fields, about: fromAttribute('description', [step]) } } })
    .where(eq(draft.feed, feed));
  expect((await tryFeed(feed)).failed?.words).toMatch(/refers back/);
  await db.update(draft).set({ plan, revision }).where(eq(draft.feed, feed));
  expect((await tryFeed(feed)).work).toBeDefined();
});

test('a picture that was looked at and cannot be read blocks the listing that would be sent with it', async () => {
  const { work } = await tryFeed(feed);
  const ready = [...(work?.draft.listings ?? [])].find(({ state }) => state === 'ready')?.sku ?? '';
  const { rows, positionOf, index } = await currentSnapshot();
  const [link = ''] = [rows[positionOf(ready) ?? -1]?.[index.slotOf('image') ?? -1] ?? ''].flat();
  await db
    .insert(picture)
    .values({ link, trouble: 'cannot be read' })
    .onDuplicateKeyUpdate({
      set: { trouble: 'cannot be read', facts: null, perceptualHash: null, revision: null },
    });
  // The items that show it are told by what looks at pictures.
  await measureAll();
  const after = [...((await tryFeed(feed)).work?.draft.listings ?? [])].find(({ sku }) => sku === ready);
  expect(after).toMatchObject({
    state: 'blocked',
    issues: expect.arrayContaining([expect.objectContaining({ check: 'picture' })]),
  });
});

test('the catalog’s currency counts for items that name none; another one relabels nothing', async () => {
  await createItem('CUR-1', { name: 'Hook', price: '24.90' }, null);
  const priceAs = async () => {
    const { work } = await tryFeed(feed);
    const at = work?.sheet.fields.findIndex(({ code }) => code === 'price') ?? -1;
    const listing = [...(work?.draft.listings ?? [])].find(({ sku }) => sku === 'CUR-1');
    return [listing?.values[at], listing?.issues.some(({ check }) => check === 'money')];
  };
  expect(await priceAs()).toEqual(['24.90 EUR', false]);
  await saveWorkspace({
    name: 'Quillmoss',
    currency: 'GBP',
    zone: 'Europe/London',
    language: 'en',
    locale: 'en-GB',
  });
  expect(await priceAs()).toEqual(['24.90 GBP', true]);
  await expect(
    saveWorkspace({ name: 'Q', currency: 'XQX', zone: 'UTC', language: 'en', locale: 'en-GB' }),
  ).rejects.toThrow('not a currency');
  await expect(
    saveWorkspace({ name: 'Q', currency: 'EUR', zone: 'Mars/Base', language: 'en', locale: 'en-GB' }),
  ).rejects.toThrow('not a time zone');
});

test('a file that is sent names the workspace as its author', async () => {
  await saveWorkspace({
    name: 'Fern & Sons',
    currency: 'EUR',
    zone: 'Europe/Berlin',
    language: 'en',
    locale: 'en-GB',
  });
  const sent = await sendFeed(feed);
  if (!sent.ok) throw new Error(sent.reason);
  // Nothing answers where it is sent; the file is made all the same.
  await sendSubmission(sent.submission);
  const { files } = await submissionFiles(sent.submission);
  const text = readFileSync(pathOfStored(files[0]?.file ?? ''), 'utf8');
  expect(text).toContain('<author><name>Fern &amp; Sons</name></author>');
});

test('a new item joins only a family that is there; a list that is typed is a list', async () => {
  await expect(createItem('FAM-1', { name: 'Hook' }, 'NO-SUCH')).rejects.toThrow(/no family NO-SUCH/);
  await editCells([{ sku: 'CUR-1', attribute: 'highlights', text: 'Holds 5 kg | Brass | With screws' }]);
  expect((await findItem('CUR-1'))?.own.highlights).toEqual(['Holds 5 kg', 'Brass', 'With screws']);
});

test('what the pages export is evaluated by the terminal as the pages evaluate it', async () => {
  const { work } = await tryFeed(feed);
  if (!work) throw new Error('the feed cannot be computed');
  const { headings, rows } = await itemTable({
    columns: ['sku', 'family', ...work.snapshot.attributes.map(({ code }) => code)],
    search: '',
    filters: {},
    sort: '',
    descending: false,
  });
  expect(headings.slice(0, 2)).toEqual(['SKU', 'Family']);
  expect(headings.length).toBe(new Set(headings).size);
  const out = temporaryFolder();
  writeFileSync(
    join(out, 'items.csv'),
    stringify([headings, ...rows], {
      escape_formulas: true,
      bom: true,
    }),
  );
  writeFileSync(join(out, 'plan.json'), JSON.stringify(work.plans.draft));
  const done = cartEvaluate(join(out, 'plan.json'), join(out, 'items.csv'), out, '--currency', 'EUR');
  expect(done.stderr).toBe('');
  const states = (list: readonly { sku: string; state: string }[]) =>
    Object.fromEntries(list.map(({ sku, state }) => [sku, state]));
  const theirs = readFileSync(join(out, 'listings.ndjson'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line));
  // Pictures that cannot be read are known to the workspace alone.
  const ours = [...work.draft.listings].filter(
    ({ issues }) => !issues.some(({ check }) => check === 'picture'),
  );
  expect(states(theirs)).toMatchObject(states(ours));
});

test('evaluate writes the file of a channel in its own format', () => {
  const out = temporaryFolder();
  const plan = JSON.stringify(emptyPlan('tessel-boards', { country: 'DE', language: 'de', currency: 'EUR' }));
  writeFileSync(join(out, 'plan.json'), plan);
  const done = cartEvaluate(join(out, 'plan.json'), 'demo/catalog/items.csv', out);
  expect(done.stderr).toBe('');
  expect(existsSync(join(out, 'feed.xml'))).toBe(false);
  // Nothing is mapped, so no listing is ready: the file has its headings alone, separated as the sheet says.
  expect(readFileSync(join(out, 'feed.csv'), 'utf8')).toMatch(/^card_key,[a-z_,]+\r\n$/);
});

test('an error that nobody expected is logged and shown as such, and tried again the next time', async () => {
  const [{ currentSnapshot: snapshotOf }, { evaluationOf }, { channelOf }, { log }] = await Promise.all([
    import('@/server/catalog/snapshot'),
    import('@/server/evaluation/evaluation'),
    import('@/server/channels/channels'),
    import('@/server/monitoring/monitoring'),
  ]);
  const snapshot = await snapshotOf();
  const channel = await channelOf('lanternry');
  const plan = { ...(await plans()).draft, met: ['tried with a broken row'] };
  const logged = jest.spyOn(log, 'error').mockImplementation(() => undefined);
  const broken = { ...snapshot, rows: snapshot.rows.map(() => null as never) };
  const failure = await evaluationOf(plan, channel, broken).catch((error: unknown) => error);
  expect(failure).toMatchObject({
    expected: false,
    message: expect.stringMatching(/unexpected error.*log.*[0-9a-f]{8}/),
  });
  expect(logged.mock.calls[0]?.[0]).toMatchObject({ err: expect.any(TypeError) });
  logged.mockRestore();
  expect((await evaluationOf(plan, channel, snapshot)).listings.length).toBe(snapshot.rows.length);
});
