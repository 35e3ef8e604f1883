/**
 * The Checks page of every feed over a large catalog: how long it takes to be shown, how soon what would clear its causes is worked
 * out, and how soon all of it is current after a change. Needs the database that scripts/bench.mjs starts.
 */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { editCells } from '../src/server/catalog/itemEdits';
import { closePools } from '../src/server/db/connection';
import { feedPageOf } from '../src/server/pages/stages';
import { editDraft, feedPlans, listFeeds } from '../src/server/plans/drafts';
import { settings } from '../src/server/runtime/settings';
import { waitForFixes } from '../src/server/stages/checks';
import { evaluatorFlags, fillDatabase, median, since, start, timesOf } from './large';

const size = Number(process.argv[2]) || 200_000;
/** Of one feed alone, where it is named. */
const only = process.argv[3];
const say = (words: string) => process.stdout.write(`${words}\n`);
const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

const { rows } = await fillDatabase(size);
// The boards take few of the items.
const feeds = (await listFeeds()).flatMap(({ code, channel }) =>
  channel === 'tessel-boards' || (only !== undefined && code !== only) ? [] : [code],
);
const socket = join(mkdtempSync(join(tmpdir(), 'lively-bench-')), 'evaluator.sock');
const evaluator = await start('dist/evaluator.js', evaluatorFlags, { LIVELY_EVALUATOR_SOCKET: socket });
(settings as { evaluators: readonly string[] }).evaluators = [socket];

const checks = (feed: string, query: Record<string, string> = {}) => feedPageOf(feed, 'checks', query);
const took = async (work: () => Promise<unknown>): Promise<number> => {
  const begun = performance.now();
  await work();
  return since(begun);
};

say(`${size} items in ${feeds.length} feeds, one evaluator`);
for (const feed of feeds) {
  const first = await took(() => checks(feed));
  const worked = await took(() => waitForFixes(feed, undefined));
  say(
    `${feed}: evaluated and shown for the first time in ${seconds(first)}, all calculated ${seconds(worked)} later; shown again: ${await timesOf(20, () => checks(feed))} (300 wanted)`,
  );
}
const [feed = ''] = feeds;
const edits: number[] = [];
const whole: number[] = [];
for (let round = 0; round < 5; round++) {
  await editCells([{ sku: rows[round * 7]?.sku ?? '', attribute: 'price', text: `${30 + round}.10` }]);
  for (const one of feeds) {
    edits.push(await took(() => checks(one)));
    whole.push(await took(() => waitForFixes(one, undefined)));
  }
}
say(
  `after one changed item, a feed's page current: median ${median(edits).toFixed(0)} ms, longest ${Math.max(...edits).toFixed(0)} ms; what is calculated ${median(whole).toFixed(0)} ms later, longest ${seconds(Math.max(...whole))} (seconds wanted)`,
);
const drafted: number[] = [];
for (let round = 0; round < 7; round++) {
  const plans = await feedPlans(feed);
  await editDraft(feed, plans?.revision ?? 0, {
    edit: 'place',
    placements: { Books: { leaveOut: `trial ${round}` } },
  });
  drafted.push(await took(() => checks(feed)));
}
say(
  `after one edit of a draft: median ${median(drafted).toFixed(0)} ms, longest ${Math.max(...drafted).toFixed(0)} ms`,
);
await waitForFixes(feed, undefined);
const page = (await checks(feed)) as unknown as {
  body?: { stage?: { groups: { key: string; severity: string }[] } };
};
for (const { key } of (page.body?.stage?.groups ?? [])
  .filter(({ severity }) => severity === 'blocker')
  .slice(0, 6)) {
  const first = await took(() => waitForFixes(feed, key));
  say(
    `${key} open: calculated and tried in ${seconds(first)}, then shown in ${(await took(() => checks(feed, { fix: key }))).toFixed(0)} ms`,
  );
}
say(`evaluator's peak memory: ${evaluator.peak().toFixed(0)} MB`);
await evaluator.end();
await closePools();
