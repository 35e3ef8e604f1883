import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { eq } from 'drizzle-orm';
import { findAttribute, listAttributes } from '@/server/catalog/attributes';
import { raiseRevision } from '@/server/catalog/changes';
import { makeVariants, previewVariants } from '@/server/catalog/families';
import { editCells, previewBulk } from '@/server/catalog/itemEdits';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { channelOf } from '@/server/channels/channels';
import { needsOfItem } from '@/server/channels/sheets';
import { insertRows } from '@/server/db/bulk';
import { db } from '@/server/db/connection';
import { item, submissionEntry } from '@/server/db/schema';
import { reviewVersion } from '@/server/evaluation/sheetReview';
import { matchingSkus, queryItems } from '@/server/items/items';
import { possibleAxes, valueGroups } from '@/server/items/valueViews';
import { draftChanges, feedFile, feedPageOf, representativeItemsOf } from '@/server/pages/stages';
import { workbookOf } from '@/server/pages/workbook';
import { editDraft, feedPlans } from '@/server/plans/drafts';
import { EvaluatorUnavailable, evaluatorAnswers, placeOf, workInProgress } from '@/server/rpc/rpc';
import { settings } from '@/server/runtime/settings';
import { openTempDownload } from '@/server/storage/files';
import { sendFeed } from '@/server/submissions/submissions';
import { type RunningProgram, startProgram } from '../support/programs';
import { closeDatabase, freshDemo } from '../support/stack';

/** Questions over the catalog are answered by other processes as they are in place. */
const folder = mkdtempSync(join(tmpdir(), 'lively-evaluator-'));
const sockets = [join(folder, 'first.sock'), join(folder, 'second.sock')];
const here = settings as { evaluators: readonly string[] };
const evaluators: RunningProgram[] = [];
const start = async (at: number) => {
  evaluators[at] = await startProgram('dist/evaluator.js', {
    LIVELY_EVALUATOR_SOCKET: sockets[at] ?? '',
    LIVELY_EVALUATOR_PLACE: `${at}/${sockets.length}`,
  });
};
const startAll = () => Promise.all(sockets.map((_, at) => start(at)));
const endAll = () => Promise.all(evaluators.map((one) => one.end()));
const feed = 'lanternry-de';
const shown = {
  columns: ['sku', 'name', 'price'],
  search: 'pot',
  sort: 'price',
  descending: true,
  filters: {},
  only: [],
};

beforeAll(async () => {
  await freshDemo();
  await startAll();
});
beforeEach(() => {
  here.evaluators = sockets;
});
afterAll(async () => {
  here.evaluators = [];
  await endAll();
  await closeDatabase();
});

/** What a question says when it is answered in this process. */
async function inPlace<T>(ask: () => Promise<T>): Promise<T> {
  here.evaluators = [];
  try {
    return await ask();
  } finally {
    here.evaluators = sockets;
  }
}

const pages = [
  'fields',
  'categories',
  'titles',
  'rules',
  'checks',
  'listings',
  'send',
  'settings',
  'values',
  'differences',
  'history',
  'behind',
] as const;
const questions: Readonly<Record<string, () => Promise<unknown>>> = {
  items: () => queryItems({ ...shown, from: 0, count: 50 }),
  skus: () => matchingSkus(shown),
  attributes: listAttributes,
  attribute: () => findAttribute('glaze'),
  axes: () => possibleAxes(['glaze']),
  values: () =>
    valueGroups({ own: { name: 'x', price: '2.00' }, shared: {}, origins: {}, family: undefined }),
  needs: () => needsOfItem('orrin-bazaar', 'DE', 'QM-SED-BAS-20'),
  bulk: () => previewBulk('brand', null, ['QM-SED-BAS-20']),
  review: async () => reviewVersion('lanternry', (await channelOf('lanternry')).sheet.version),
  telling: () => representativeItemsOf(feed),
  changes: () => draftChanges(feed),
  workbook: () => workbookOf(feed, { show: 'blocked' }),
  translations: () => workbookOf(feed, { translations: '1' }),
  ...Object.fromEntries(
    pages.map((page) => [
      `page ${page}`,
      () => feedPageOf(feed, page, { field: 'colour', item: 'QM-GLV-SOF-FER-L' }),
    ]),
  ),
};

/** Without the moments at which something was made. */
const timeless = (value: unknown) => JSON.stringify(value).replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'then');

test.each(Object.entries(questions))('%s: the same answer as in place', async (_name, ask) => {
  const theirs = await ask();
  expect(theirs).toBeDefined();
  expect(timeless(theirs)).toEqual(timeless(await inPlace(ask)));
});

test('every question that is made anywhere is known to an evaluator', async () => {
  const made = readdirSync('src/server', { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.ts'))
    .flatMap((path) => [...readFileSync(`src/server/${path}`, 'utf8').matchAll(/\bprocedure\(\s*'(\w+)'/g)])
    .map(([, name]) => name);
  // What an evaluator loads, and nothing else.
  const known = execFileSync(
    process.execPath,
    [
      '--import',
      'tsx',
      '-e',
      "import('./src/server/pages/procedures.ts').then(() => { console.log([...globalThis.livelyQuestions.keys()].join()); process.exit(0); })",
    ],
    { encoding: 'utf8' },
  );
  expect(made.length).toBeGreaterThan(20);
  expect(known.trim().split(',').sort()).toEqual([...made].sort());
});

test('a process that has evaluators holds no catalog', () => {
  expect(() => currentSnapshot()).toThrow(/has no catalog/);
});

test('what changes is seen at once, by a question asked after it', async () => {
  await editCells([{ sku: 'QM-SED-BAS-20', attribute: 'price', text: '77.77' }]);
  const { rows } = await queryItems({ ...shown, search: 'QM-SED-BAS-20', from: 0, count: 5 });
  expect(rows[0]?.cells.price).toContain('77.77');
  const plans = await feedPlans(feed);
  await editDraft(feed, plans?.revision ?? 0, {
    edit: 'place',
    placements: { 'Seed kits': { category: '9102' } },
  });
  expect(await draftChanges(feed)).toMatchObject({ settings: 1, listings: 6 });
});

test('bad input and a plan that cannot be evaluated come back as what they are', async () => {
  await expect(
    previewVariants('NOBODY', { axes: [], sku: { alternatives: [], steps: [] }, name: undefined }),
  ).rejects.toMatchObject({ code: 'noFamily', facts: { family: 'NOBODY' } });
  await expect(
    makeVariants('NOBODY', { axes: [], sku: { alternatives: [], steps: [] }, name: undefined }),
  ).rejects.toThrow('NOBODY');
});

test('a file is made there and found here; a submission is planned there and written down here', async () => {
  const made = await feedFile(feed);
  if (!made || !('file' in made) || !made.file) throw new Error('no file was made');
  const { name, bytes } = made.file;
  expect((await buffer(await openTempDownload(name))).length).toBe(bytes);
  await expect(openTempDownload(name)).rejects.toThrow('ENOENT');
  expect(await feedFile('nothing')).toBeUndefined();
  expect(await sendFeed('nothing')).toEqual({ ok: false, reason: 'unpublished' });
  const sent = await sendFeed(feed, 'everything');
  if (!sent.ok) throw new Error(sent.reason);
  const entries = await db
    .select({ sku: submissionEntry.sku })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, sent.submission));
  expect([entries.length > 100, entries.length]).toEqual([true, sent.count]);
});

test('inside a transaction, whose changes it would not see, nothing is asked', async () => {
  await expect(db.transaction(() => matchingSkus(shown))).rejects.toThrow('inside a transaction');
});

test('killed in the middle of questions, it answers them when it is there again; while it is away that is said', async () => {
  const right = await matchingSkus(shown);
  const asked = placeOf('matchingSkus', sockets.length);
  for (let i = 0; i < 3; i++) {
    const asking = Promise.all(Array.from({ length: 12 }, () => matchingSkus(shown)));
    await new Promise((resolve) => setTimeout(resolve, i * 9));
    await evaluators[asked]?.end('SIGKILL');
    await start(asked);
    for (const found of await asking) expect(found).toEqual(right);
  }
  expect(await evaluatorAnswers()).toBe(true);
  await evaluators[asked]?.end('SIGKILL');
  expect(await evaluatorAnswers()).toBe(false);
  // What the other is asked about stands meanwhile.
  const others = Array.from({ length: 20 }, (_, n) => `feed ${n}`).filter(
    (name) => placeOf(name, sockets.length) !== asked,
  );
  expect(others).not.toEqual([]);
  for (const name of others) expect(await draftChanges(name)).toBeUndefined();
  expect(await workInProgress()).toEqual([]);
  await expect(matchingSkus(shown)).rejects.toThrow(EvaluatorUnavailable);
  await start(asked);
  expect(await matchingSkus(shown)).toEqual(right);
});

test('with many items it makes what pages are made of by itself after its start, and nothing with few', async () => {
  const plenty = 5000;
  /** The feeds that are told to be evaluated in the seconds after a start; that it is asked counts as nobody's work. */
  const unasked = async (seconds: number): Promise<Set<string>> => {
    await endAll();
    await startAll();
    const told = new Set<string>();
    for (const until = Date.now() + seconds * 1000; Date.now() < until && told.size === 0; )
      for (const { what, feed } of await workInProgress()) if (what === 'evaluating') told.add(feed);
    return told;
  };
  expect(await unasked(2)).toEqual(new Set());
  await db.transaction(async (tx) => {
    const revision = await raiseRevision(tx);
    const names = { name: 'Pot', brand: '', category: 'Pots, glazed', gtin: null };
    await insertRows(
      tx,
      item,
      Array.from({ length: plenty }, (_, i) => ({
        ...names,
        sku: `MANY-${i}`,
        values: { name: `Pot ${i}`, category: names.category },
        origins: {},
        revision,
      })),
    );
  });
  expect(await unasked(20)).toEqual(new Set(['Lanternry DE']));
});
