import { and, asc, eq } from 'drizzle-orm';
import fc from 'fast-check';
import { isCompared } from '@/core/checks/comparing';
import { fromAttribute } from '@/core/compose/composition';
import { weighed } from '@/core/listing/completeness';
import { causesOf } from '@/core/listing/figures';
import { archiveItems, editCells } from '@/server/catalog/itemEdits';
import { importKeywords, removeKeywords } from '@/server/catalog/keywords';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { channelOf, openVersion, takeOnVersion } from '@/server/channels/channels';
import { db } from '@/server/db/connection';
import { feedListing, feedSummary, feedValue, job } from '@/server/db/schema';
import { digestOf, evaluationOf } from '@/server/evaluation/evaluation';
import { itemTable, queryItems } from '@/server/items/items';
import { isRefreshing, storedListingsOf } from '@/server/listings/read';
import { countOnNewDay, evaluateFeeds } from '@/server/listings/refreshJob';
import { overviewView, sidebarView } from '@/server/pages/overview';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { createFeed } from '@/server/plans/feeds';
import { startWorker } from '../support/programs';
import { closeDatabase, freshDemo } from '../support/stack';

/** What is kept of listings is what an evaluation from nothing says, whatever has happened and in whatever order. */
beforeAll(async () => {
  await freshDemo();
  await createFeed('orrin-bazaar', 'DE', 'de');
  const { revision = 0 } = (await feedPlans('orrin-bazaar-de')) ?? {};
  await editDraft('orrin-bazaar-de', revision, {
    edit: 'fields',
    fields: { offer_code: fromAttribute('sku'), product_number: fromAttribute('gtin') },
  });
});
afterAll(closeDatabase);

const feeds = ['lanternry-de', 'orrin-bazaar-de'];
const skus = [
  'QM-POT-RDG-MOS-14',
  'QM-POT-RDG-TER-10',
  'QM-POT-RDG-TER-14',
  'VR-LGT-HAL-TYC-40',
  'OB-KIT-FIR-SMA',
];

async function kept(code: string) {
  const rows = await db
    .select({
      sku: feedListing.sku,
      state: feedListing.state,
      reason: feedListing.reason,
      causes: feedListing.causes,
      digest: feedListing.digest,
      category: feedListing.category,
      completed: feedListing.completed,
      total: feedListing.total,
    })
    .from(feedListing)
    .where(eq(feedListing.feed, code))
    .orderBy(asc(feedListing.sku));
  const [summary] = await db.select().from(feedSummary).where(eq(feedSummary.feed, code));
  return { rows, states: summary?.figures.states };
}

async function fromNothing(code: string) {
  const [plans, snapshot] = await Promise.all([feedPlans(code), currentSnapshot()]);
  if (!plans) throw new Error(code);
  const { listings, compiled } = await evaluationOf(
    plans.published ?? plans.draft,
    await channelOf(plans.head.channel),
    snapshot,
  );
  const slot = snapshot.index.slotOf('category') ?? -1;
  const states = { ready: 0, blocked: 0, leftOut: 0 };
  for (const { state } of listings) states[state]++;
  const rows = [...listings]
    .map((listing, at) => ({
      sku: listing.sku,
      state: listing.state,
      reason: listing.reason ?? null,
      causes: causesOf(listing.issues),
      digest: digestOf(listing),
      category: String(snapshot.rows[at]?.[slot] ?? ''),
      // What is shared with others does not make a value worth less.
      ...(listing.state === 'leftOut'
        ? { completed: 0, total: 0 }
        : weighed(
            compiled,
            { ...listing, issues: listing.issues.filter(({ check }) => !isCompared(check)) },
            snapshot.rows[at] ?? [],
          )),
    }))
    .sort((a, b) => (a.sku < b.sku ? -1 : 1));
  return { rows, states };
}

const same = async () => {
  await evaluateFeeds();
  for (const code of feeds) {
    expect([code, await kept(code)]).toEqual([code, await fromNothing(code)]);
  }
};

type Act = readonly [what: string, sku: string, value: string];
async function act([what, sku, value]: Act): Promise<void> {
  if (what === 'count') return evaluateFeeds();
  if (what === 'archive' || what === 'bring back') {
    await archiveItems([sku], what === 'archive');
    return;
  }
  if (what !== 'publish') {
    // What is no value of that kind is refused, and changes nothing.
    await editCells([{ sku, attribute: what, text: value }]).catch(() => undefined);
    return;
  }
  const code = feeds[0] ?? '';
  const plans = await feedPlans(code);
  const placement = { leaveOut: value || 'not here' };
  await editDraft(code, plans?.revision ?? 0, {
    edit: 'exceptions',
    exceptions: { [sku]: plans?.draft.exceptions[sku] ? null : placement },
  });
  await publishDraft(code, (await feedPlans(code))?.revision ?? 0, 'a trial');
}

test('how complete each item is stands in the table of items, over all feeds that take it', async () => {
  await evaluateFeeds();
  const query = {
    search: '',
    filters: {},
    sort: '',
    descending: false,
    only: [],
    columns: ['sku', '#complete'],
  };
  const { rows } = await queryItems({ ...query, from: 0, count: 12 });
  const sums = new Map<string, { completed: number; total: number }>();
  for (const code of feeds)
    for (const { sku, completed, total } of (await fromNothing(code)).rows) {
      const sum = sums.get(sku) ?? { completed: 0, total: 0 };
      sums.set(sku, { completed: sum.completed + completed, total: sum.total + total });
    }
  const wanted = (sku: string) => {
    const { completed, total } = sums.get(sku) ?? { completed: 0, total: 0 };
    return total === 0 ? '' : `${Math.round((100 * completed) / total)} %`;
  };
  expect(rows.map(({ sku, cells }) => [sku, cells['#complete']])).toEqual(
    rows.map(({ sku }) => [sku, wanted(sku)]),
  );
  expect(new Set(rows.map(({ cells }) => cells['#complete'])).size).toBeGreaterThan(1);
  const exported = await itemTable(query);
  expect(exported.headings).toEqual(['SKU', 'Complete']);
  expect([...exported.rows].every(([sku = '', share]) => share === wanted(sku))).toBe(true);
});

test('judged checks, waivers that have ended and those that have not, own checks, titles by hand and families singly are counted too', async () => {
  const code = feeds[0] ?? '';
  const sku = 'QM-POT-RDG-CHA-14';
  const edits = [
    {
      edit: 'checks' as const,
      severity: { 'choice:colour': 'tip' as const },
      waived: {
        over: { check: 'missing:barcode', skus: [sku], reason: 'was so', until: '2020-01-01' },
        still: { check: 'identifier:barcode', skus: ['QM-POT-RDG-INK-10'], reason: 'known' },
      },
      own: {
        'own-1': {
          words: 'Dear things want a second look',
          field: 'price',
          severity: 'blocker' as const,
          when: { all: [{ attribute: 'price', is: 'between' as const, value: ['60', '70'] }] },
        },
      },
    },
    { edit: 'titleByHand' as const, titles: { [sku]: { text: 'Our ridge pot, in chalk', instead: '' } } },
    { edit: 'families' as const, set: { families: { 'POT-RDG': 'singly' as const } } },
  ];
  await same();
  const before = (await kept(code)).states;
  for (const edit of edits) await editDraft(code, (await feedPlans(code))?.revision ?? 0, edit);
  await publishDraft(code, (await feedPlans(code))?.revision ?? 0, 'a trial');
  await same();
  const { rows, states } = await kept(code);
  expect(states).not.toEqual(before);
  const causes = new Set(rows.flatMap((one) => one.causes.split('\n')));
  expect(causes).toContain('own:price');
  expect(causes).not.toContain('choice:colour');
});

test('keywords that are brought in or taken away are counted, in search words and in titles', async () => {
  const code = feeds[0] ?? '';
  const edit = async (one: Parameters<typeof editDraft>[2]) =>
    editDraft(code, (await feedPlans(code))?.revision ?? 0, one);
  const parts = [
    { attribute: 'name', glue: ' ', steps: [] },
    { attribute: '#term', glue: ' – ', steps: [] },
  ];
  await edit({ edit: 'title', set: { parts } });
  await edit({ edit: 'searchWords', set: { field: 'pattern', never: [] } });
  await publishDraft(code, (await feedPlans(code))?.revision ?? 0, 'search words');
  await same();
  const valueDigests = async () => new Set((await kept(code)).rows.map(({ digest }) => digest));
  const before = await valueDigests();
  await importKeywords('term;volume\nRidge pot for a sill;900\npot for a present;100\n', 'de');
  await same();
  const then = await valueDigests();
  expect(then).not.toEqual(before);
  expect(await removeKeywords('de', { term: 'pot for a present', category: '' })).toBe(1);
  await same();
  expect(await removeKeywords('de')).toBeGreaterThan(0);
  await same();
  expect(await valueDigests()).not.toEqual(then);
});

test('on a new day all is counted again, once', async () => {
  await evaluateFeeds();
  const waiting = async () =>
    (
      await db
        .select()
        .from(job)
        .where(and(eq(job.kind, 'evaluateFeeds'), eq(job.state, 'queued')))
    ).length;
  const began = await waiting();
  const now = await countOnNewDay('2020-01-01');
  // The day where the shop is, which may be another than that of UTC. sv-SE writes ISO 8601 dates.
  expect(now).toBe(new Date().toLocaleDateString('sv-SE', { timeZone: 'Europe/Berlin' }));
  expect(await waiting()).toBeGreaterThan(began);
  const then = await waiting();
  expect(await countOnNewDay(now)).toBe(now);
  expect(await waiting()).toBe(then);
});

test('any order of edits, archivings and publishings ends in what an evaluation from nothing says', async () => {
  await same();
  const acts = fc.array(
    fc.tuple(
      fc.constantFrom('count', 'archive', 'bring back', 'publish', 'gtin', 'price', 'name', 'category'),
      fc.constantFrom(...skus),
      fc.constantFrom('', '9520000030149', '9520000030156', 'Pots, glazed', 'Books', '12.90'),
    ),
    { minLength: 1, maxLength: 6 },
  );
  await fc.assert(
    fc.asyncProperty(acts, async (list) => {
      for (const one of list) await act(one);
      await same();
    }),
    { numRuns: 12 },
  );
});

test('one value that two share blocks both, and one that goes frees the other', async () => {
  const [one, other] = ['QM-CLO-GLA-18', 'QM-SED-BAS-20'];
  const sharing = async () =>
    (
      await db
        .select({ sku: feedListing.sku, causes: feedListing.causes })
        .from(feedListing)
        .where(eq(feedListing.feed, 'orrin-bazaar-de'))
    )
      .filter(({ sku, causes }) => [one, other].includes(sku) && causes.includes('duplicate:product_number'))
      .map(({ sku }) => sku)
      .sort();
  for (const sku of [one, other]) await editCells([{ sku, attribute: 'gtin', text: '9520000041961' }]);
  await evaluateFeeds();
  expect(await sharing()).toEqual([one, other].sort());
  await archiveItems([other], true);
  await evaluateFeeds();
  expect(await sharing()).toEqual([]);
  await archiveItems([other], false);
  await same();
  expect(await sharing()).toEqual([one, other].sort());
});

test('what a listing shared under a field that is compared no more blocks it no longer', async () => {
  await same();
  const [found] = await db.select().from(feedListing).where(eq(feedListing.state, 'ready')).limit(1);
  if (!found) throw new Error('nothing is ready');
  const { feed, sku } = found;
  const row = and(eq(feedListing.feed, feed), eq(feedListing.sku, sku));
  await db.insert(feedValue).values({ feed, sku, digest: 'gone', part: '', alike: true });
  await db
    .update(feedListing)
    .set({
      state: 'blocked',
      causes: 'duplicate:gone',
      shared: [...found.shared, ['duplicate', 'gone', 'gone', 'x', '']],
    })
    .where(row);
  await db.update(feedSummary).set({ plan: 'another' }).where(eq(feedSummary.feed, feed));
  await same();
  expect(await db.select({ state: feedListing.state }).from(feedListing).where(row)).toEqual([
    { state: 'ready' },
  ]);
});

test('a version of a sheet that is taken on counts every listing anew', async () => {
  await evaluateFeeds();
  const [before] = await db.select().from(feedSummary).where(eq(feedSummary.feed, 'lanternry-de'));
  await takeOnVersion('lanternry', (await openVersion('lanternry'))?.revision ?? 0);
  expect(await isRefreshing()).toBe(true);
  await same();
  const [after] = await db.select().from(feedSummary).where(eq(feedSummary.feed, 'lanternry-de'));
  expect(after?.plan).not.toBe(before?.plan);
});

test('two who count at once, and one that was cut off in the middle, end in the same', async () => {
  await editCells(skus.map((sku, at) => ({ sku, attribute: 'price', text: `${20 + at}.50` })));
  await db.update(feedSummary).set({ plan: 'another' });
  await Promise.all([evaluateFeeds(), evaluateFeeds(), evaluateFeeds()]);
  await same();
  // A worker died behind the items that have the first half of the numbers.
  const target = (await currentSnapshot()).revision;
  await db.update(feedSummary).set({ target, since: -1, upTo: 120 });
  await same();
});

test('what a transaction changes is counted by one request, however many were made', async () => {
  await evaluateFeeds();
  expect(await isRefreshing()).toBe(false);
  for (const text of ['31.10', '31.20', '31.30'])
    await editCells([{ sku: skus[0] ?? '', attribute: 'price', text }]);
  const open = () =>
    db
      .select()
      .from(job)
      .where(and(eq(job.kind, 'evaluateFeeds'), eq(job.state, 'queued')));
  expect((await open()).length).toBe(3);
  expect((await sidebarView()).counting).toBe(true);
  await evaluateFeeds();
  expect(await open()).toEqual([]);
  await same();
});

test('the board is what is kept, and a plan that cannot be computed is told on its feed alone', async () => {
  await evaluateFeeds();
  const board = await overviewView();
  const first = await fromNothing('lanternry-de');
  const sum = (state: 'ready' | 'blocked' | 'leftOut') =>
    board.rows.reduce((total, { cells }) => total + (cells[0]?.[state] ?? 0), 0);
  expect([sum('ready'), sum('blocked'), sum('leftOut')]).toEqual(Object.values(first.states));
  expect(board.feeds[0]?.blocked).toBe(first.states.blocked);
  const [top] = board.fixes;
  const alone = (await fromNothing(top?.feed ?? '')).rows.filter(({ causes }) => causes === top?.key);
  expect(top?.frees).toBe(alone.length);
});

test('what is kept of one item is what its evaluation says, whom it shares a number with too', async () => {
  const code = 'orrin-bazaar-de';
  const [one, other] = ['QM-CLO-GLA-18', 'QM-SED-BAS-20'];
  for (const sku of [one, other]) await editCells([{ sku, attribute: 'gtin', text: '9520000041961' }]);
  await evaluateFeeds();
  const snapshot = await currentSnapshot();
  const plans = await feedPlans(code);
  if (!plans) throw new Error(code);
  const { listings } = await evaluationOf(plans.draft, await channelOf('orrin-bazaar'), snapshot);
  const evaluated = listings.at(snapshot.positionOf(one) ?? -1);
  const kept = (await storedListingsOf(one, feeds)).get(code);
  expect(kept).toEqual({ state: evaluated?.state, reason: undefined, issues: evaluated?.issues });
  expect(kept?.issues).toContainEqual({
    check: 'duplicate',
    severity: 'blocker',
    field: 'product_number',
    facts: { found: '9520000041961', others: [other], count: 1 },
  });
});

test('what a merchant says of shared titles is kept for an item as it is evaluated', async () => {
  const [one, other, code] = ['SP-BOK-WIN-HAR', 'SP-BOK-WIN-PAP', 'lanternry-de'];
  await editCells([one, other].map((sku) => ({ sku, attribute: 'name', text: 'One name for two' })));
  for (const sku of [one, other])
    await editDraft(code, (await feedPlans(code))?.revision ?? 0, {
      edit: 'titleByHand',
      titles: { [sku]: { text: 'One title for two', instead: '' } },
    });
  await editDraft(code, (await feedPlans(code))?.revision ?? 0, {
    edit: 'checks',
    severity: { 'sameTitle:headline': 'tip' },
    waived: { pair: { check: 'sameTitle:headline', skus: [other], reason: 'a pair' } },
  });
  await publishDraft(code, (await feedPlans(code))?.revision ?? 0, 'a trial');
  await evaluateFeeds();
  const said = async (sku: string) =>
    (await storedListingsOf(sku, [code]))
      .get(code)
      ?.issues.flatMap(({ check, severity }) => (check === 'sameTitle' ? [severity] : []));
  expect([await said(one), await said(other)]).toEqual([['tip'], []]);
});

test('three workers, two of them killed while they count, end in the same, and nobody need ask', async () => {
  await db.update(feedSummary).set({ plan: 'another' });
  const workers = await Promise.all([startWorker(), startWorker(), startWorker()]);
  try {
    for (let round = 0; round < 12; round++) {
      await editCells(skus.map((sku, at) => ({ sku, attribute: 'price', text: `${10 + round}.${at}0` })));
      if (round === 4 || round === 8) await workers[round / 4 - 1]?.end('SIGKILL');
    }
    while (await isRefreshing()) await new Promise((resolve) => setTimeout(resolve, 25));
    for (const code of feeds) expect([code, await kept(code)]).toEqual([code, await fromNothing(code)]);
  } finally {
    for (const worker of workers) await worker.end();
  }
});
