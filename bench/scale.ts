/**
 * A large catalog in seven feeds: how long the worker counts all of it, beside a function written by hand for one of the feeds;
 * how soon one changed item is current everywhere; how long spine and board take; and the worker's memory. Needs the database
 * that scripts/bench.mjs starts.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { asText } from '../src/core/catalog/value';
import { raiseRevision } from '../src/server/catalog/changes';
import { editCells } from '../src/server/catalog/itemEdits';
import { queryItems } from '../src/server/catalog/items';
import { takeBundledChannels } from '../src/server/channels/channels';
import { insertRows } from '../src/server/db/bulk';
import { closePools, db } from '../src/server/db/connection';
import { item, job } from '../src/server/db/schema';
import { loadDemo } from '../src/server/demo/load';
import { boardView, spineView } from '../src/server/feeds/board';
import { editDraft, feedPlans, listFeeds } from '../src/server/feeds/drafts';
import { draftChanges, feedPageOf } from '../src/server/feeds/stagePages';
import { isCounting } from '../src/server/listings/kept';
import { settings } from '../src/server/settings';
import { dueOn } from '../src/server/submissions/due';
import { evaluateByHand } from './byHand';
import { largeCatalog } from './catalog';
import { emptyDatabase } from './database';

const sizes = process.argv.slice(2).map(Number).filter(Number.isFinite);
const say = (words: string) => process.stdout.write(`${words}\n`);
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const since = (begun: number) => performance.now() - begun;
const sorted = (list: readonly number[]) => [...list].sort((a, b) => a - b);
const median = (list: readonly number[]) => sorted(list)[Math.floor(list.length / 2)] ?? 0;
const ninetyFifth = (list: readonly number[]) => sorted(list)[Math.floor(list.length * 0.95)] ?? 0;

async function counted(): Promise<number> {
  const begun = performance.now();
  while (await isCounting()) await pause(10);
  return since(begun);
}

async function start(program: string, flags: readonly string[], env: Record<string, string> = {}) {
  const child = spawn(process.execPath, [...flags, program], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, ...env },
  });
  await new Promise((resolve) => child.once('message', resolve));
  return {
    /** Its peak, in MB. */
    peak: () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) / 1024,
    end: async () => {
      child.disconnect();
      await new Promise((resolve) => child.once('exit', resolve));
    },
  };
}

const flagsIn = (variable: string) => (process.env[variable] ?? '').split(' ').filter((flag) => flag !== '');
const workerFlags = flagsIn('LIVELY_WORKER_FLAGS');
const evaluatorFlags = ['--max-old-space-size=8192', ...flagsIn('LIVELY_EVALUATOR_FLAGS')];

/** How long something takes, again and again: the median and the 95th percentile, in ms. */
async function timesOf(rounds: number, work: (round: number) => Promise<unknown>): Promise<string> {
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const begun = performance.now();
    await work(round);
    times.push(since(begun));
  }
  return `median ${median(times).toFixed(0)} ms, 95th percentile ${ninetyFifth(times).toFixed(0)} ms`;
}

const pages = ['fields', 'categories', 'titles', 'rules', 'checks', 'send'] as const;

/** What is to be done about every listing of a feed whose channel has nearly all of them, from what is kept and afterwards. */
async function findDue(feed: string): Promise<void> {
  await db.execute(sql`
    insert ignore into ledger (feed, sku, held_digest, held_submission, problems, unsure, in_review, withdrawn, changed_at)
    select feed, sku, digest, 1, '[]', 0, 0, 0, utc_timestamp(3) - interval 1 hour from feed_listing
    where feed = ${feed} and state = 'ready'`);
  const begun = performance.now();
  await dueOn(feed);
  say(`what is due on a feed, evaluated and read from nothing: ${(since(begun) / 1000).toFixed(1)} s`);
  const after = await timesOf(5, async (round) => {
    await db.execute(sql`update ledger set held_digest = ${`changed ${round}`}, changed_at = utc_timestamp(3)
      where feed = ${feed} order by sku limit 100`);
    await dueOn(feed);
  });
  say(`what is due after 100 answers: ${after} (2000 wanted at 500,000)`);
}

/** The pages over a catalog of some size, answered by an evaluator, while another feed's draft is edited all the time. */
async function askEvaluator(feeds: readonly string[], rounds: number): Promise<void> {
  const [feed = '', other = ''] = feeds;
  const socket = join(mkdtempSync(join(tmpdir(), 'lively-bench-')), 'evaluator.sock');
  const evaluator = await start('dist/evaluator.js', evaluatorFlags, {
    LIVELY_EVALUATOR_SOCKET: socket,
  });
  const here = settings as { evaluator: string | undefined };
  here.evaluator = socket;
  try {
    let begun = performance.now();
    await queryItems({ ...grid, search: '' });
    say(`the catalog read by the evaluator: ${(since(begun) / 1000).toFixed(1)} s`);
    begun = performance.now();
    await draftChanges(feed);
    say(`a feed evaluated for the first time, draft and published: ${(since(begun) / 1000).toFixed(1)} s`);
    const placeOf = (round: number) => ({ leaveOut: `trial ${round}` });
    const edit = async (code: string, round: number) => {
      const plans = await feedPlans(code);
      await editDraft(code, plans?.revision ?? 0, {
        edit: 'place',
        placements: { Books: placeOf(round) },
      });
      return draftChanges(code);
    };
    say(`one edit of a draft with its impact: ${await timesOf(7, (round) => edit(feed, round))}`);
    for (const page of pages)
      say(`${page}, nothing else asked: ${await timesOf(10, () => feedPageOf(feed, page, {}))}`);
    let over = false;
    let edits = 0;
    const meanwhile = (async () => {
      while (!over) await edit(other, edits++);
    })();
    for (const page of pages)
      say(`${page}: ${await timesOf(rounds, () => feedPageOf(feed, page, {}))} (300 wanted)`);
    say(
      `items grid: ${await timesOf(rounds, (round) => queryItems({ ...grid, search: `pot ${round % 7}` }))} (200 wanted)`,
    );
    over = true;
    await meanwhile;
    say(`edits of another feed meanwhile: ${edits}`);
    say(`evaluator's peak memory: ${evaluator.peak().toFixed(0)} MB`);
  } finally {
    here.evaluator = undefined;
    await evaluator.end();
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
for (const size of sizes.length > 0 ? sizes : [10_000, 200_000]) {
  await emptyDatabase();
  await takeBundledChannels();
  await loadDemo('demo');
  const feeds = (await listFeeds()).length;
  const { records } = largeCatalog(size);
  const rows = records.map(({ sku, ...values }) => ({
    sku: asText(sku),
    values,
    origins: {},
    name: asText(values.name),
    brand: asText(values.brand),
    category: asText(values.category),
    gtin: asText(values.gtin) || null,
  }));
  for (let at = 0; at < rows.length; at += 1000)
    await db.transaction(async (tx) => {
      const revision = await raiseRevision(tx);
      await insertRows(
        tx,
        item,
        rows.slice(at, at + 1000).map((row) => ({ ...row, revision })),
      );
    });
  const byHand = median(
    Array.from({ length: 3 }, () => {
      const begun = performance.now();
      for (const record of records) evaluateByHand(record);
      return since(begun);
    }),
  );
  // Pictures are measured another time.
  await db.delete(job).where(eq(job.kind, 'measurePictures'));
  const worker = await start('dist/worker.js', workerFlags);
  const all = await counted();
  say(
    `${size} items in ${feeds} feeds counted by one worker in ${(all / 1000).toFixed(1)} s, ${((size * feeds) / all).toFixed(1)} thousand listings a second, reading and writing included; by hand, one feed, nothing read or written: ${(size / byHand).toFixed(1)} thousand: ratio ${((size * feeds * byHand) / (all * size)).toFixed(3)}`,
  );
  const edits: number[] = [];
  for (let round = 0; round < 5; round++) {
    await editCells([{ sku: rows[round * 7]?.sku ?? '', attribute: 'price', text: `${30 + round}.10` }]);
    edits.push(await counted());
  }
  say(`one changed item current in all ${feeds} feeds: ${median(edits).toFixed(0)} ms (300 wanted)`);
  for (const [name, view] of [
    ['spine', spineView],
    ['board', boardView],
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
    20,
  );
}
say(`peak memory, large to small: ${((peaks.at(-1) ?? 0) / (peaks[0] ?? 1)).toFixed(2)} (flat wanted)`);
await closePools();
