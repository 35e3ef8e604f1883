/**
 * A year of daily submissions over seven feeds, each with all of its listings, as it stands where what each listing was sent
 * with is kept for some days: how long the outbox and the insights take, how large the database is, and whether it stays so
 * large when further days come and the oldest go. What would have been dropped by then is not made.
 * `npm run bench -- outbox [listings] [days] [days kept]`. Needs the database that scripts/bench.mjs starts.
 */
import { sql } from 'drizzle-orm';
import { causesOf } from '../src/core/ledger/causes';
import { takeBundledChannels } from '../src/server/channels/channels';
import { inParts, insertRows } from '../src/server/db/bulk';
import { closePools, db } from '../src/server/db/connection';
import { submission, submissionEntry } from '../src/server/db/schema';
import { loadDemo } from '../src/server/demo/load';
import { listFeeds } from '../src/server/plans/drafts';
import { dropOld, readRetention, saveRetention } from '../src/server/schedules/retention';
import { insights, submissionsView } from '../src/server/submissions/list';
import { emptyDatabase } from './database';

const say = (words: string) => process.stdout.write(`${words}\n`);
const numbers = process.argv.slice(2).map(Number).filter(Number.isFinite);
const [listings = 200, days = 365, kept = 90] = numbers;

await emptyDatabase();
await takeBundledChannels();
await loadDemo('demo');
await saveRetention({ ...(await readRetention()), entries: kept });
const feeds = await listFeeds();
const now = Date.now();
const dayLong = 86_400_000;
/** Days that are sent after the year, with what is too old dropped each day. */
const furtherDays = 7;

const entryOf = (submissionId: number, position: number, refused: boolean) => ({
  submissionId,
  sku: `SKU-${position}`,
  position,
  batch: 0,
  ref: `SKU-${position}`,
  due: 'changed' as const,
  relation: null,
  digest: 'of its values'.padEnd(32, '.'),
  values: {
    title: `Ridge pot ${position}`,
    price: '24.90 EUR',
    text: 'A hand-glazed stoneware pot. '.repeat(6),
  },
  answer: refused ? ('refused' as const) : ('accepted' as const),
  problems: refused ? [{ code: `C${position % 9}`, field: 'text', text: 'The text is too short' }] : [],
});

/** All feeds sent whole once. @param day days from now, negative where they have passed */
async function sendAll(day: number, withEntries: boolean): Promise<void> {
  const createdAt = new Date(now + day * dayLong);
  const refused = Math.round((listings * Math.min(days, Math.abs(day))) / days / 10);
  const positions = Array.from({ length: listings }, (_, position) => position);
  for (const { code } of feeds)
    await db.transaction(async (tx) => {
      const [made] = await tx
        .insert(submission)
        .values({
          feed: code,
          version: 1,
          sheetVersion: 1,
          state: 'answered',
          cause: 'schedule',
          total: listings,
          accepted: listings - refused,
          refused,
          causes: causesOf(
            Array.from({ length: refused }, (_, n) => [
              { code: `C${n % 9}`, field: 'text', text: 'The text is too short' },
            ]),
          ),
          createdAt,
          sentAt: createdAt,
          answeredAt: new Date(createdAt.getTime() + 300_000),
        })
        .$returningId();
      if (!withEntries) return;
      for (const part of inParts(positions, 2000))
        await insertRows(
          tx,
          submissionEntry,
          part.map((position) => entryOf(made?.id ?? 0, position, position < refused)),
        );
    });
}

for (let day = -days; day < 0; day++) await sendAll(day, day >= -kept);

const size = async (): Promise<number> => {
  await db.execute(sql`analyze table submission, submission_entry`);
  const [rows] = (await db.execute(sql`
    select sum(data_length + index_length) as bytes from information_schema.tables
    where table_schema = database() and table_name in ('submission', 'submission_entry')`)) as unknown as [
    { bytes: number | string }[],
  ];
  return Number(rows[0]?.bytes) / 1024 ** 2;
};
const timed = async (work: () => Promise<unknown>): Promise<string> => {
  const times: number[] = [];
  for (let round = 0; round < 20; round++) {
    const begun = performance.now();
    await work();
    times.push(performance.now() - begun);
  }
  times.sort((a, b) => a - b);
  return `median ${times[10]?.toFixed(0)} ms, 95th percentile ${times[18]?.toFixed(0)} ms (300 wanted)`;
};

say(
  `${days * feeds.length} submissions of ${listings} listings over ${feeds.length} feeds, ${kept} days of listings kept: ${(await size()).toFixed(0)} MB`,
);
say(`outbox: ${await timed(() => submissionsView({}))}`);
say(`insights over a month: ${await timed(() => insights(30))}`);
say(`insights over a year: ${await timed(() => insights(365))}`);
let dropped = 0;
let longest = 0;
for (let day = 0; day < furtherDays; day++) {
  await sendAll(day, true);
  const begun = performance.now();
  for (let more = -1; more !== 0; dropped += more)
    more = (await dropOld(new Date(now + (day + 0.5) * dayLong))).entries;
  longest = Math.max(longest, performance.now() - begun);
}
say(
  `after ${furtherDays} further days: ${dropped} listings dropped, at most ${(longest / 1000).toFixed(1)} s a day, ${(await size()).toFixed(0)} MB`,
);
await closePools();
