import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { editCells } from '@/server/catalog/itemEdits';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { channelOf } from '@/server/channels/channels';
import { db } from '@/server/db/connection';
import { job } from '@/server/db/schema';
import { differencesPage } from '@/server/evaluation/differences';
import { evaluationOf } from '@/server/evaluation/evaluation';
import { addExpectation, expectedOf, removeExpectation } from '@/server/evaluation/expectations';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { jobKinds } from '@/server/jobs/kinds';
import { enqueue, finishJob, postpone, renewLease, takeJob, workOn } from '@/server/jobs/queue';
import { feedPageOf } from '@/server/pages/stages';
import {
  discardDraft,
  editDraft,
  listSavedDrafts,
  listVersions,
  publishDraft,
  restoreVersion,
  resumeDraft,
  saveDraft,
  undoDraft,
} from '@/server/plans/drafts';
import { failSubmission } from '@/server/submissions/delivery';
import { dueOn, toSendCount } from '@/server/submissions/due';
import { listSubmissions, sendFeed } from '@/server/submissions/submissions';
import { cartEvaluate, plansOf } from '../support/feeds';
import { editItem } from '../support/runs';
import { closeDatabase, freshDemo, temporaryFolder } from '../support/stack';

beforeEach(freshDemo);
afterAll(closeDatabase);

const feed = 'lanternry-de';
const plans = () => plansOf(feed);

test('cart evaluate gives the same listings as the pages', async () => {
  const out = temporaryFolder();
  const done = cartEvaluate('demo/plans/lanternry-de.json', 'demo/catalog/items.csv', out);
  expect(done.status).toBe(1);
  const lines = readFileSync(join(out, 'listings.ndjson'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line));
  const { compiled, listings } = await evaluationOf(
    (await plans()).draft,
    await channelOf('lanternry'),
    await currentSnapshot(),
  );
  expect(lines).toHaveLength(listings.length);
  const bySku = new Map([...listings].map((one) => [one.sku, one]));
  for (const line of lines) {
    const page = bySku.get(line.sku);
    const values = Object.fromEntries(
      compiled.sheet.fields.flatMap(({ code }, at) =>
        page?.values[at] === undefined ? [] : [[code, page.values[at]]],
      ),
    );
    expect(line).toEqual({
      sku: line.sku,
      state: page?.state,
      ...(page?.reason ? { reason: page.reason } : {}),
      values,
      issues: JSON.parse(JSON.stringify(page?.issues)),
    });
  }
});

describe('drafts', () => {
  test('a second person’s save is refused with what changed, and can be put on top', async () => {
    const { revision } = await plans();
    expect(
      await editDraft(feed, revision, { edit: 'place', placements: { 'Seed kits': { category: '9102' } } }),
    ).toMatchObject({ ok: true });
    const late = { edit: 'fields' as const, fields: { highlights: null } };
    const refused = await editDraft(feed, revision, late);
    expect(refused).toEqual({
      ok: false,
      reason: 'conflict',
      revision: revision + 1,
      words: ['mapped Seed kits to categories'],
    });
    expect((await plans()).draft.placements['Seed kits']).toEqual({ category: '9102' });
    expect(await editDraft(feed, revision + 1, late)).toMatchObject({ ok: true });
  });

  test('undo takes back one edit at a time, discard all of them', async () => {
    const start = await plans();
    await editDraft(feed, start.revision, { edit: 'fields', fields: { price: null } });
    await editDraft(feed, start.revision + 1, { edit: 'fields', fields: { brand: null } });
    await undoDraft(feed, start.revision + 2);
    const once = await plans();
    expect(once.draft.fields.brand).toEqual(start.draft.fields.brand);
    expect(once.draft.fields.price).toBeUndefined();
    expect(once.undoWords).toBe('emptied Price');
    await discardDraft(feed, once.revision);
    expect((await plans()).draft).toEqual(start.draft);
    for (let i = 0; i < 5; i++) await undoDraft(feed, (await plans()).revision);
    expect((await plans()).draft).toEqual(start.draft);
    expect(await undoDraft(feed, (await plans()).revision)).toEqual({ ok: false, reason: 'nothing' });
  });

  test('versions are compared over the catalog as it is; brought back, the listings are equal exactly', async () => {
    const work = async () => {
      const found = await loadFeedContext(feed);
      if (!found) throw new Error('no feed');
      return found;
    };
    const then = (await work()).published.listings;
    const start = await plans();
    await editDraft(feed, start.revision, {
      edit: 'addRule',
      rule: {
        id: 'stray',
        name: 'Stray',
        on: true,
        when: { all: [] },
        then: [{ do: 'after', field: 'headline', text: '"' }],
      },
    });
    await publishDraft(feed, start.revision + 1, 'a stray mark');
    const compared = await differencesPage(await work(), { old: '1', new: '2' });
    expect(compared.compared).toEqual({ old: 'version 1', new: 'version 2' });
    expect(compared.total).toBeGreaterThan(180);
    expect(compared.lines[0]?.fields[0]?.pieces.at(-1)).toMatchObject({ text: expect.stringMatching(/"$/) });
    expect((await differencesPage(await work(), { old: '2', new: '2' })).total).toBe(0);
    await expect(differencesPage(await work(), { old: '77' })).rejects.toMatchObject({ code: 'noVersion' });
    await restoreVersion(feed, 1, (await plans()).revision);
    expect((await work()).draft.listings).toEqual(then);
    expect((await differencesPage(await work(), { old: '1', new: '' })).total).toBe(0);
  });

  test('a draft is left under a name and taken up again', async () => {
    const start = await plans();
    await expect(saveDraft(feed, start.revision, 'spring')).rejects.toMatchObject({
      code: 'nothingToLeave',
    });
    await editDraft(feed, start.revision, { edit: 'fields', fields: { price: null } });
    const mine = (await plans()).draft;
    await expect(saveDraft(feed, start.revision + 1, ' ')).rejects.toMatchObject({
      code: 'draftWithoutName',
    });
    expect(await saveDraft(feed, start.revision, 'spring')).toMatchObject({ ok: false, reason: 'conflict' });
    expect(await listSavedDrafts(feed)).toEqual([]);
    expect(await saveDraft(feed, start.revision + 1, 'spring')).toMatchObject({ ok: true });
    expect((await plans()).draft).toEqual(start.draft);
    expect((await listSavedDrafts(feed)).map(({ name }) => name)).toEqual(['spring']);
    await resumeDraft(feed, (await plans()).revision, 'spring');
    expect((await plans()).draft).toEqual(mine);
    expect(await listSavedDrafts(feed)).toEqual([]);
    await expect(resumeDraft(feed, (await plans()).revision, 'spring')).rejects.toMatchObject({
      code: 'noLeftDraft',
    });
  });

  test('a draft, or a change of the catalog, that breaks an expectation names it', async () => {
    const broken = async () => {
      const page = await feedPageOf(feed, 'history', {});
      if (!page || 'failed' in page) throw new Error('no page');
      return page.frame.broken;
    };
    const sku = 'QM-POT-RDG-CHA-14';
    const found = await loadFeedContext(feed);
    const at = found?.sheet.fields.findIndex(({ code }) => code === 'headline') ?? -1;
    const value = String(found?.draft.listings.at(found.snapshot.positionOf(sku) ?? -1)?.values[at]);
    await addExpectation(feed, { expect: 'value', sku, field: 'headline', value: 'something else' });
    // One for the same value takes its place.
    await addExpectation(feed, { expect: 'value', sku, field: 'headline', value });
    await addExpectation(feed, { expect: 'ready', least: 100 });
    expect(await broken()).toEqual([]);
    const { revision } = await plans();
    await editDraft(feed, revision, {
      edit: 'title',
      set: { parts: [{ attribute: 'sku', glue: ' ', steps: [] }], tellApart: false },
    });
    expect(await broken()).toEqual([`Headline of ${sku} stays “${value}”; it is “${sku}”`]);
    await undoDraft(feed, revision + 1);
    expect(await broken()).toEqual([]);
    await editCells([{ sku, attribute: 'name', text: 'Quite another name' }]);
    expect(await broken()).toHaveLength(1);
    const [one] = await expectedOf((await loadFeedContext(feed)) as NonNullable<typeof found>);
    await removeExpectation(feed, one?.id ?? 0);
    expect(await broken()).toEqual([]);
  });

  test('every published version can be brought back', async () => {
    const start = await plans();
    await editDraft(feed, start.revision, { edit: 'fields', fields: { price: null } });
    const changed = await plans();
    expect(await publishDraft(feed, start.revision, 'stale')).toMatchObject({
      ok: false,
      reason: 'conflict',
    });
    expect(await publishDraft(feed, changed.revision, 'no prices')).toMatchObject({ ok: true, version: 2 });
    expect((await listVersions(feed)).map(({ version, words }) => [version, words])).toEqual([
      [2, 'no prices'],
      [1, 'first version'],
    ]);
    await restoreVersion(feed, 1, changed.revision);
    expect((await plans()).draft).toEqual(start.draft);
    expect((await plans()).published?.fields.price).toBeUndefined();
  });
});

describe('sending', () => {
  const dueNow = async () => {
    const due = await dueOn(feed);
    if (!due) throw new Error('it is not published');
    return due;
  };

  test('what is on its way is not sent again; what changes meanwhile is compared when the answer is in', async () => {
    const first = await dueNow();
    expect(toSendCount(first)).toBeGreaterThan(100);
    const sent = await sendFeed(feed);
    expect(sent).toMatchObject({ ok: true, count: toSendCount(first), held: false });
    expect(await sendFeed(feed)).toEqual({ ok: false, reason: 'underWay' });
    expect(await sendFeed(feed, 'everything')).toEqual({ ok: false, reason: 'underWay' });
    await editItem(first.listings[0]?.sku ?? '', 'price', '99,00');
    expect(toSendCount(await dueNow())).toBe(0);
    expect((await dueNow()).counts.waiting).toBe(toSendCount(first));
  });

  test('a submission that could not be delivered says why and can be sent again', async () => {
    const sent = await sendFeed(feed);
    if (!sent.ok) throw new Error(sent.reason);
    await failSubmission(sent.submission, 'The channel does not answer.');
    expect((await listSubmissions(feed))[0]).toMatchObject({
      state: 'failed',
      error: 'The channel does not answer.',
    });
    expect(toSendCount(await dueNow())).toBe(sent.count);
  });
});

describe('jobs', () => {
  // The demo's own work, such as measuring its pictures, is not what is looked at here.
  beforeEach(async () => {
    await db.delete(job);
  });

  test('workers never take the same job, and take them all', async () => {
    const runs = Array.from({ length: 24 }, (_, i) => i + 1);
    await db.transaction(async (tx) => {
      for (const one of runs) await enqueue(tx, 'checkRun', { run: one });
    });
    const taken: number[] = [];
    // A worker that finds every due job locked comes back, as the real one does after its pause.
    const worker = async () => {
      while (taken.length < runs.length) {
        const found = await takeJob('work');
        if (found) taken.push(jobKinds.checkRun.payload.parse(found.payload).run);
      }
    };
    await Promise.all([worker(), worker(), worker(), worker()]);
    expect([...taken].sort((a, b) => a - b)).toEqual(runs);
    expect(await takeJob('work')).toBeUndefined();
  });

  test('a silent worker loses its job to the next', async () => {
    await db.transaction((tx) => enqueue(tx, 'checkRun', { run: 1 }));
    const first = await takeJob('work');
    if (!first) throw new Error('no job');
    await db
      .update(job)
      .set({ leasedUntil: sql`utc_timestamp(3) - interval 1 second` })
      .where(eq(job.id, first.id));
    const second = await takeJob('work');
    expect(second).toMatchObject({ id: first.id, attempts: 2, exhausted: false });
    // The first wakes up: it may write nothing any more, and nothing it says of the job counts.
    await expect(renewLease(first, 0.5)).rejects.toThrow('Another worker');
    await expect(db.transaction((tx) => workOn(first).hold(tx))).rejects.toThrow('Another worker');
    await finishJob(first);
    if (!second) throw new Error('no job');
    await renewLease(second, 0.5);
    await db.transaction((tx) => workOn(second).hold(tx));
    expect(await takeJob('work')).toBeUndefined();
    await finishJob(second);
    expect(await takeJob('work')).toBeUndefined();
  });

  test('a job is tried again later, and given up after its last attempt', async () => {
    await db.transaction((tx) => enqueue(tx, 'checkRun', { run: 3 }));
    const taken = await takeJob('work');
    if (!taken) throw new Error('no job');
    expect(await postpone(taken, 'silence', () => 0.5)).toBe(true);
    expect(await takeJob('work')).toBeUndefined();
    await db.update(job).set({ runAt: sql`utc_timestamp(3)` });
    const again = await takeJob('work');
    if (!again) throw new Error('no job');
    expect(await postpone({ ...again, attempts: jobKinds.checkRun.attempts }, 'silence', () => 0.5)).toBe(
      false,
    );
    const [row] = await db.select().from(job);
    expect(row).toMatchObject({ state: 'failed', error: 'silence' });
  });
});

test('an item’s own value stands before the family’s, and emptying it brings the family’s back', async () => {
  const sku = 'QM-POT-RDG-MOS-14';
  const read = async () => {
    const snapshot = await currentSnapshot();
    return snapshot.rows[snapshot.positionOf(sku) ?? -1]?.[snapshot.index.slotOf('material') ?? -1];
  };
  expect(await read()).toBe('Stoneware');
  expect(await editItem(sku, 'material', 'Porcelain')).toMatchObject({ ok: true });
  expect(await read()).toBe('Porcelain');
  await editItem(sku, 'material', '');
  expect(await read()).toBe('Stoneware');
  expect(await editItem(sku, 'price', 'dear')).toMatchObject({ ok: false });
  expect(await editItem(sku, 'sku', 'X')).toMatchObject({ ok: false });
});
