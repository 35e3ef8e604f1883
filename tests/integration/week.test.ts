import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { fieldWithRole } from '@/core/channels/sheet';
import type { PlanEdit } from '@/core/plans/edit';
import { archiveItems, editCells } from '@/server/catalog/itemEdits';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { channelOf } from '@/server/channels/channels';
import { db } from '@/server/db/connection';
import { ledger, rateLimit, submission, submissionEntry } from '@/server/db/schema';
import { addDemoFeeds } from '@/server/demo/load';
import { unattended } from '@/server/jobs/queue';
import { editDraft, feedPlans, listFeeds, publishDraft } from '@/server/plans/drafts';
import { askChannel } from '@/server/submissions/channelRecords';
import { dueOn } from '@/server/submissions/due';
import {
  findSubmission,
  releaseSubmission,
  resumeSubmission,
  sendFeed,
  sendHeldListings,
} from '@/server/submissions/submissions';
import { bringIn } from '../support/runs';
import { type Channels, startChannels, untilAnswered } from '../support/simulators';
import { closeDatabase, freshDemo } from '../support/stack';

/**
 * Days of a shop on seven feeds: prices and stock change, files come in, items are archived and come back, settings are
 * published, channels stumble, lose answers and change their minds. In the end our records are what each channel has, item by
 * item and value by value. LIVELY_DAYS says how many days, LIVELY_SEED which.
 */
const days = Number(process.env.LIVELY_DAYS ?? 3);
const seed = Number(process.env.LIVELY_SEED ?? 11);

let channels: Channels;
beforeAll(async () => {
  await freshDemo();
  await addDemoFeeds('demo');
  channels = await startChannels(mkdtempSync(join(tmpdir(), 'lively-week-')), 0.02, 0.05);
  await channels.forget();
  // The demo’s own history is not what these channels have.
  for (const table of [ledger, submissionEntry, submission, rateLimit]) await db.delete(table);
});
afterAll(async () => {
  await channels.stop();
  await closeDatabase();
});

/** The same choices for the same seed. Source: mulberry32, public domain. */
function random(from: number) {
  let state = from >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
  return {
    below: (most: number) => Math.floor(next() * most),
    of: <T>(some: readonly T[]): T => some[Math.floor(next() * some.length)] as T,
  };
}
const pick = random(seed);

/** Faults after which a submission still ends by itself. */
const stumbles = [
  'busy',
  'busyUntil',
  'stumbles',
  'drops',
  'dropsAfter',
  'twice',
  'reordered',
  'partial',
  'late',
  'lost',
  'restarts',
] as const;

async function finish(id: number): Promise<void> {
  for (let rounds = 0; rounds < 20; rounds++) {
    await untilAnswered(id);
    const state = (await findSubmission(id))?.state;
    if (state === 'held') await releaseSubmission(id, 'it is right');
    else if (state === 'paused') await resumeSubmission(id);
    else return;
  }
  throw new Error(`submission ${id} comes to no end`);
}

/** Sends what is due of a feed, held or not. @returns whether there was anything */
async function send(feed: string): Promise<boolean> {
  const sent = await sendFeed(feed, 'due');
  if (sent.ok) await finish(sent.submission);
  else if (sent.reason === 'doubtful') {
    const all = await sendHeldListings(feed, 'they are right');
    if (!all.ok) throw new Error(`${feed}: ${all.reason}`);
    await finish(all.submission);
  } else if (sent.reason !== 'nothing') throw new Error(`${feed}: ${sent.reason}`);
  return sent.ok || sent.reason === 'doubtful';
}

const one = (skus: readonly string[]) => skus[pick.below(skus.length)] as string;
const price = () => `${5 + pick.below(90)}.${pick.of(['00', '50', '90'])} EUR`;

async function day(at: number): Promise<void> {
  const { skus } = await currentSnapshot();
  await editCells([
    ...Array.from({ length: 6 }, () => ({ sku: one(skus), attribute: 'price', text: price() })),
    { sku: one(skus), attribute: 'availability', text: pick.of(['InStock', 'OutOfStock', 'PreOrder']) },
    { sku: one(skus), attribute: 'color', text: pick.of(['moss', 'a word of nobody', '']) },
    { sku: one(skus), attribute: 'name', text: `Renamed on day ${at}, ${pick.below(1000)}` },
    { sku: one(skus), attribute: 'gtin', text: '' },
  ]);
  const lines = Array.from({ length: 8 }, () => `${one(skus)};${5 + pick.below(60)},90`);
  await bringIn(`week-${at}.csv`, `SKU;Preis\n${lines.join('\n')}\n`);
  const gone = one(skus);
  await archiveItems([gone, one(skus)], true);
  await archiveItems([gone], false);

  const feeds = (await listFeeds()).map(({ code }) => code);
  const shaped = pick.of(feeds);
  const { revision = 0 } = (await feedPlans(shaped)) ?? {};
  const edit: PlanEdit = {
    edit: 'addRule',
    rule: {
      id: `week-${at}`,
      name: `Rule of day ${at}`,
      on: true,
      when: { attribute: 'sku', is: 'equals', value: one(skus) },
      then: [{ do: 'leaveOut', reason: 'not this week' }],
    },
  };
  const edited = await editDraft(shaped, revision, edit);
  if (!edited.ok) throw new Error(edited.reason);
  await publishDraft(shaped, edited.revision, `day ${at}`);

  if (at === 1) await channels.giveUp('lanternry', 'L142');
  for (const feed of feeds) {
    const channel = (await feedPlans(feed))?.head.channel ?? '';
    if (pick.below(3) > 0) await channels.fault(channel, pick.of(stumbles));
    await send(feed);
  }
  await channels.lookAgain();
  for (const feed of feeds) await askChannel(feed, unattended);
}

/** Entries that a channel has of a feed, by our key. */
async function entriesOf(feed: string): Promise<Map<string, Record<string, string[]>>> {
  const { head } = (await feedPlans(feed)) ?? {};
  if (!head) throw new Error(`no ${feed}`);
  const { listings = {} } = (await channels.state())[head.channel] ?? {};
  return new Map(
    Object.entries(listings).flatMap(([key, { row }]) => {
      const [country, rest] =
        head.channel === 'lanternry' ? [key.slice(0, 2), key.slice(3)] : [head.country, key];
      return country === head.country ? [[rest, row] as const] : [];
    }),
  );
}

test(`after ${days} days our records are what each channel has`, async () => {
  for (let at = 0; at < days; at++) await day(at);
  const feeds = (await listFeeds()).map(({ code }) => code);
  // Answers that were lost are asked for by sending once more; then nothing is due.
  for (const feed of feeds) for (let rounds = 0; rounds < 4 && (await send(feed)); rounds++);
  for (const feed of feeds) {
    await channels.lookAgain();
    await askChannel(feed, unattended);
    const sheet = (await channelOf((await feedPlans(feed))?.head.channel ?? '')).sheet;
    const id = fieldWithRole(sheet, 'id')?.code ?? '';
    const rows = await db.select().from(ledger).where(eq(ledger.feed, feed));
    const held = rows.filter(({ acceptedDigest, withdrawn }) => acceptedDigest !== null && !withdrawn);
    const before = await entriesOf(feed);
    expect([feed, held.map(({ acceptedValues, sku }) => String(acceptedValues?.[id] ?? sku)).sort()]).toEqual(
      [feed, [...before.keys()].sort()],
    );
    expect([
      feed,
      rows.filter(({ pendingSubmission, unsure }) => pendingSubmission !== null || unsure),
    ]).toEqual([feed, []]);

    // What is unchanged by our records is what the channel has: sending all of it again changes no value.
    const due = await dueOn(feed);
    const unchanged = (due?.listings ?? []).flatMap(({ due: what, out }) =>
      what === 'unchanged' && out
        ? [String(out.values[sheet.fields.findIndex(({ code }) => code === id)])]
        : [],
    );

    expect([feed, unchanged.length > 0]).toEqual([feed, true]);
    const again = await sendFeed(feed, 'everything');
    if (again.ok) await finish(again.submission);
    const after = await entriesOf(feed);
    const differing = unchanged.flatMap((key) => {
      const [was, is] = [before.get(key) ?? {}, after.get(key) ?? {}];
      return Object.keys({ ...was, ...is })
        .filter((name) => JSON.stringify(was[name] ?? []) !== JSON.stringify(is[name] ?? []))
        .map((name) => `${key} ${name}: ${was[name]} → ${is[name]}`);
    });
    expect([feed, differing]).toEqual([feed, []]);
  }
});
