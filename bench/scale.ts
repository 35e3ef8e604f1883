/**
 * A large catalog in seven feeds: how long the worker counts all of it, beside a function written by hand for one of the feeds;
 * how soon one changed item is current everywhere; how long spine, board and the pages of feeds take, beside it and beside edits; and the
 * memory of worker, evaluators and web. Needs the database that scripts/bench.mjs starts.
 */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { fixedText } from '../src/core/compose/composition';
import { evaluate } from '../src/core/listing/evaluate';
import { editCells } from '../src/server/catalog/itemEdits';
import { closePools, db } from '../src/server/db/connection';
import { feedSummary } from '../src/server/db/schema';
import { queryItems } from '../src/server/items/items';
import { enqueue } from '../src/server/jobs/queue';
import { raiseLedgerRevision } from '../src/server/ledger/ledger';
import { counting, planOf, surroundings } from '../src/server/listings/compiledPlans';
import { type Chunk, endBehind, evaluateChunk, readChunk } from '../src/server/listings/evaluateChunk';
import { isRefreshing } from '../src/server/listings/read';
import { overviewView, sidebarView } from '../src/server/pages/overview';
import { draftChanges, feedPageOf } from '../src/server/pages/stages';
import { editDraft, feedPlans, listFeeds } from '../src/server/plans/drafts';
import { settings } from '../src/server/runtime/settings';
import { dueOn } from '../src/server/submissions/due';
import { evaluateByHand } from './byHand';
import {
  evaluatorFlags,
  fillDatabase,
  median,
  ninetyFifth,
  since,
  start,
  timesOf,
  workerFlags,
} from './large';

/** Drafts alone: nothing is counted, and no page is loaded. For catalogs that take hours to count. */
const onlyDrafts = process.argv.includes('--drafts');
/** Drafts and pages: nothing is counted before them, nor beside them. */
const onlyPages = process.argv.includes('--pages');
/** How many evaluators share the feeds. */
const evaluators = Number(process.env.LIVELY_EVALUATORS ?? 1);
const sizes = process.argv.slice(2).map(Number).filter(Number.isFinite);
const say = (words: string) => process.stdout.write(`${words}\n`);
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
async function counted(): Promise<number> {
  const begun = performance.now();
  while (await isRefreshing()) await pause(10);
  return since(begun);
}

/** The feed that is written by hand too. */
const byHandFeed = 'lanternry-de';
const pages = ['fields', 'categories', 'titles', 'rules', 'checks', 'send'] as const;

/** What is to be done about every listing of a feed whose channel has nearly all of them, from what is kept and afterwards. */
async function findDue(feed: string): Promise<void> {
  await db.execute(sql`
    insert ignore into ledger (feed, sku, accepted_digest, accepted_submission, problems, unsure, in_review, withdrawn, changed_at)
    select feed, sku, digest, 1, '[]', 0, 0, 0, utc_timestamp(3) - interval 1 hour from feed_listing
    where feed = ${feed} and state = 'ready'`);
  const begun = performance.now();
  await dueOn(feed);
  say(`what is due on a feed, evaluated and read from nothing: ${(since(begun) / 1000).toFixed(1)} s`);
  const after = await timesOf(5, async (round) => {
    await db.transaction(async (tx) => {
      const revision = await raiseLedgerRevision(tx, feed);
      await tx.execute(sql`update ledger set accepted_digest = ${`changed ${round}`}, revision = ${revision}
        where feed = ${feed} order by sku limit 100`);
    });
    await dueOn(feed);
  });
  say(`what is due after 100 answers: ${after} (2000 wanted at 500,000)`);
}

/** Has a feed counted anew. */
const countAnew = (feed: string) =>
  db.transaction(async (tx) => {
    await tx.update(feedSummary).set({ plan: '' }).where(eq(feedSummary.feed, feed));
    await enqueue(tx, 'evaluateFeeds', {});
  });

/** The function written by hand over all items. @returns ms */
function byHandOnce(records: readonly Parameters<typeof evaluateByHand>[0][]): number {
  const begun = performance.now();
  for (const record of records) evaluateByHand(record);
  return since(begun);
}

/**
 * The worker's way through one feed but for the writing, in this process, and the function written by hand, by turns.
 * @returns ms, medians of five: reading items and making listings of them as they are kept; that without the reading; evaluating
 *   them alone; and by hand
 */
async function evaluatedByWorker(
  records: Parameters<typeof byHandOnce>[0],
): Promise<{ whole: number; made: number; alone: number; hand: number }> {
  const [head] = (await listFeeds()).filter(({ code }) => code === byHandFeed);
  const around = await surroundings();
  const counted = head && (await planOf(head, around));
  if (!counted) throw new Error('the demo has no feed that is written by hand');
  /** Goes through the catalog a chunk at a time. @returns what the work took, without the reading */
  const through = async (work: (chunk: Chunk) => unknown): Promise<number> => {
    let took = 0;
    for (let behind = 0; ; ) {
      const { items, last } = await endBehind({ behind, since: -1 });
      if (items === 0) return took;
      const chunk = await readChunk({ behind, to: last, since: -1 }, around.index);
      const read = performance.now();
      await work(chunk);
      took += since(read);
      behind = last;
    }
  };
  const [whole, made, alone, hand]: [number[], number[], number[], number[]] = [[], [], [], []];
  for (let round = 0; round < 5; round++) {
    hand.push(byHandOnce(records));
    alone.push(
      await through(({ items, found }) => {
        counted.seen.takeOnly(found);
        counting.begin();
        for (const { sku, row } of items) evaluate(counted.compiled, sku, row);
      }),
    );
    const begun = performance.now();
    made.push(await through((chunk) => evaluateChunk(counted, chunk)));
    whole.push(since(begun));
  }
  return { whole: median(whole), made: median(made), alone: median(alone), hand: median(hand) };
}

/** Every page of a feed and the grid, so many loads each. */
async function loadPages(feed: string, rounds: number): Promise<void> {
  for (const page of pages)
    say(`  ${page}: ${await timesOf(rounds, () => feedPageOf(feed, page, {}))} (300 wanted)`);
  say(
    `  items grid: ${await timesOf(rounds, (round) => queryItems({ ...grid, search: `pot ${round % 7}` }))} (200 wanted)`,
  );
}

/**
 * A web process that shows all pages of a feed, the board and the items, again and again.
 * @param sockets of the evaluators that it asks
 * @returns its peak memory, in MB
 */
async function webPeak(feed: string, sockets: readonly string[], loads: number): Promise<number> {
  const port = 31607;
  const web = await start('scripts/web.mjs', [], {
    LIVELY_EVALUATOR: sockets.join(delimiter),
    PORT: String(port),
    NODE_ENV: 'production',
  });
  try {
    for (let round = 0; round < loads; round++)
      for (const path of ['/', '/items', ...pages.map((page) => `/feeds/${feed}/${page}`)]) {
        const answer = await fetch(`http://127.0.0.1:${port}${path}`);
        const text = await answer.text();
        if (!answer.ok || text === '') throw new Error(`${path} was answered with ${answer.status}`);
      }
    return web.peak();
  } finally {
    await web.end();
  }
}

/**
 * The pages over a catalog of some size, answered by an evaluator: while a worker counts another feed anew, and while another
 * feed's draft is edited all the time.
 */
async function askEvaluator(
  feeds: readonly string[],
  loads: number,
  loadsBesideEdits: number,
): Promise<void> {
  const [feed = '', other = ''] = feeds;
  const folder = mkdtempSync(join(tmpdir(), 'lively-bench-'));
  const sockets = Array.from({ length: evaluators }, (_, at) => join(folder, `${at}.sock`));
  const running = await Promise.all(
    sockets.map((socket, at) =>
      start('dist/evaluator.js', evaluatorFlags, {
        LIVELY_EVALUATOR_SOCKET: socket,
        LIVELY_EVALUATOR_PLACE: `${at}/${evaluators}`,
      }),
    ),
  );
  const peaksTold = () =>
    say(`evaluators' peak memory: ${running.map((one) => one.peak().toFixed(0)).join(' and ')} MB`);
  const here = settings as { evaluators: readonly string[] };
  here.evaluators = sockets;
  try {
    let begun = performance.now();
    await queryItems({ ...grid, search: '' });
    say(`the catalog read by the evaluator: ${(since(begun) / 1000).toFixed(1)} s`);
    begun = performance.now();
    await draftChanges(feed);
    say(`a feed evaluated for the first time, draft and published: ${(since(begun) / 1000).toFixed(1)} s`);
    const placeOf = (round: number) => ({ leaveOut: `trial ${round}` });
    const change = async (code: string, round: number) => {
      const plans = await feedPlans(code);
      await editDraft(code, plans?.revision ?? 0, {
        edit: 'place',
        placements: { Books: placeOf(round) },
      });
    };
    const edit = async (code: string, round: number) => {
      await change(code, round);
      return draftChanges(code);
    };
    say(
      `one category of a draft left out, with its impact: ${await timesOf(7, (round) => edit(feed, round))}`,
    );
    await draftChanges(byHandFeed);
    say(
      `one field of a draft mapped otherwise, with its impact: ${await timesOf(7, async (round) => {
        const plans = await feedPlans(byHandFeed);
        await editDraft(byHandFeed, plans?.revision ?? 0, {
          edit: 'fields',
          fields: { material: fixedText(`trial ${round}`) },
        });
        return draftChanges(byHandFeed);
      })}`,
    );
    if (onlyDrafts) {
      peaksTold();
      return;
    }
    for (const page of pages)
      say(`${page}, nothing else asked: ${await timesOf(10, () => feedPageOf(feed, page, {}))}`);
    say('right after an edit of its own draft, the evaluation among it:');
    for (const page of pages)
      say(
        `  ${page}: ${await timesOf(7, async (round) => {
          await change(feed, round);
          await feedPageOf(feed, page, {});
        })}`,
      );
    const beside = async (work: (round: number) => Promise<unknown>, rounds: number) => {
      let over = false;
      let done = 0;
      const meanwhile = (async () => {
        while (!over) await work(done++);
      })();
      await loadPages(feed, rounds);
      over = true;
      await meanwhile;
      return done;
    };
    if (!onlyPages) {
      say('while a worker counts another feed anew:');
      const worker = await start('dist/worker.js', workerFlags);
      const counts = await beside(async () => {
        await countAnew(other);
        await counted();
      }, loads);
      await worker.end();
      say(`  counted meanwhile: ${counts} times`);
    }
    say("while another feed's draft is edited:");
    say(`  edits meanwhile: ${await beside((round) => edit(other, round), loadsBesideEdits)}`);
    peaksTold();
    const peak = await webPeak(feed, sockets, 20);
    webPeaks.push(peak);
    say(`web process's peak memory, every page 20 times: ${peak.toFixed(0)} MB`);
  } finally {
    here.evaluators = [];
    await Promise.all(running.map((one) => one.end()));
  }
}

const grid = {
  columns: ['sku', 'name', 'price', 'category'],
  sort: '',
  descending: false,
  filters: {},
  only: [],
  from: 0,
  count: 100,
};

const peaks: number[] = [];
const webPeaks: number[] = [];
for (const size of sizes.length > 0 ? sizes : [10_000, 200_000]) {
  const { feeds, records, rows } = await fillDatabase(size);
  if (onlyDrafts || onlyPages) {
    say(`${size} items, nothing counted, evaluators: ${evaluators}`);
    await askEvaluator(
      (await listFeeds()).map(({ code }) => code),
      0,
      20,
    );
    continue;
  }
  const byHand = median(Array.from({ length: 3 }, () => byHandOnce(records)));
  // Of small catalogs too, so that memory is compared of the same way.
  const worker = await start('dist/worker.js', workerFlags);
  const all = await counted();
  say(
    `${size} items in ${feeds} feeds counted by one worker in ${(all / 1000).toFixed(1)} s, ${((size * feeds) / all).toFixed(1)} thousand listings a second, reading and writing included; by hand, one feed, nothing read or written: ${(size / byHand).toFixed(1)} thousand: ratio ${((size * feeds * byHand) / (all * size)).toFixed(3)}`,
  );
  const { whole, made, alone, hand } = await evaluatedByWorker(records);
  const ratio = (ms: number) => (hand / ms).toFixed(2);
  say(
    `the feed that is written by hand, a chunk at a time as the worker does: evaluated alone ${(size / alone).toFixed(1)} thousand a second: ratio ${ratio(alone)} (0.5 wanted); with digests, completeness and all that is kept as it is written: ratio ${ratio(made)}; with items read from the database too: ratio ${ratio(whole)}`,
  );
  const edits: number[] = [];
  for (let round = 0; round < 5; round++) {
    await editCells([{ sku: rows[round * 7]?.sku ?? '', attribute: 'price', text: `${30 + round}.10` }]);
    edits.push(await counted());
  }
  say(`one changed item current in all ${feeds} feeds: ${median(edits).toFixed(0)} ms (300 wanted)`);
  const again: number[] = [];
  for (const { code } of (await listFeeds()).slice(0, 3)) {
    await countAnew(code);
    again.push(await counted());
  }
  const anew = median(again);
  say(
    `one feed counted anew, in which no listing has changed: ${(anew / 1000).toFixed(1)} s, ${(size / anew).toFixed(1)} thousand a second: ratio ${(byHand / anew).toFixed(3)}`,
  );
  for (const [name, view] of [
    ['spine', sidebarView],
    ['board', overviewView],
  ] as const) {
    const times: number[] = [];
    for (let round = 0; round < 50; round++) {
      const begun = performance.now();
      await view();
      times.push(since(begun));
    }
    say(
      `${name}: median ${median(times).toFixed(0)} ms, 95th percentile ${ninetyFifth(times).toFixed(0)} ms (200 wanted)`,
    );
  }
  peaks.push(worker.peak());
  say(`worker's peak memory at ${size} items: ${peaks.at(-1)?.toFixed(0)} MB`);
  await worker.end();
  await findDue((await listFeeds())[0]?.code ?? '');
  await askEvaluator(
    (await listFeeds()).map(({ code }) => code),
    200,
    20,
  );
}
for (const [name, told] of [
  ['worker', peaks],
  ['web process', webPeaks],
] as const)
  if (told.length > 1)
    say(
      `${name}'s peak memory, largest catalog to smallest: ${((told.at(-1) ?? 0) / (told[0] ?? 1)).toFixed(2)} (flat wanted)`,
    );
await closePools();
