import { eq, sql } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { type CarriedOver, carryOver } from '../../core/plans/carryOver';
import { beginTitle, titleBeginnings } from '../../core/plans/edit';
import { emptyPlan, type Plan } from '../../core/plans/plan';
import { type TitlePattern, titlePatternSchema } from '../../core/titles/pattern';
import { currentUser, recordActivity } from '../auth/authorize';
import { raiseRevision } from '../catalog/changes';
import { loadAttributes } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { draft, feed } from '../db/schema';
import { addDestination } from '../transports/destinations';
import { feedPlans } from './drafts';

/** The market of a channel that a new feed is for, with the feed's code. @throws InputError where there is none */
async function marketOf(code: string, country: string, language: string) {
  const channel = await channelOf(code);
  const { sheet } = channel;
  const market = sheet.markets.find((one) => one.country === country);
  if (!market?.languages.includes(language))
    throw new InputError('noMarket', { channel: sheet.name, country, language });
  const first = market.languages[0] === language;
  return {
    channel,
    place: { country, language, currency: market.currency },
    feed: `${code}-${country.toLowerCase()}${first ? '' : `-${language}`}`,
  };
}

async function insertFeed(code: string, plan: Plan, name: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [known] = await tx.select().from(feed).where(eq(feed.code, code));
    if (known) throw new InputError('feedThere', { channel: name, country: plan.market.country });
    const [last] = await tx.select({ most: sql<number>`coalesce(max(position), 0)` }).from(feed);
    await tx
      .insert(feed)
      .values({ code, channel: plan.channel, ...plan.market, position: Number(last?.most ?? 0) + 1 });
    await tx.insert(draft).values({ feed: code, plan, revision: 1 });
    await addDestination(tx, code);
    // A new currency brings attributes for amounts in it.
    await raiseRevision(tx);
  });
}

/** The title pattern that a feed begins with: brand, product and what tells variants apart, as far as the catalog has them. */
async function firstTitle(): Promise<TitlePattern> {
  const known = new Set((await loadAttributes()).map(({ code }) => code));
  const [usual] = titleBeginnings;
  return titlePatternSchema.parse(beginTitle(usual?.parts ?? [], (code) => known.has(code)));
}

/**
 * Adds a feed: one channel in one market, with an empty draft.
 * @returns its code @throws InputError where the channel has no such market, or the feed is there
 */
export async function createFeed(channel: string, country: string, language: string): Promise<string> {
  const person = await currentUser();
  const { place, feed: code, channel: found } = await marketOf(channel, country, language);
  await insertFeed(code, { ...emptyPlan(channel, place), title: await firstTitle() }, found.sheet.name);
  await recordActivity(person, 'added a feed', code);
  return code;
}

/** What would go along if a feed were made for another market or channel from the draft of one that is there. */
export async function previewDuplicate(
  from: string,
  channel: string,
  country: string,
  language: string,
): Promise<CarriedOver & { feed: string }> {
  const plans = await feedPlans(from);
  if (!plans) throw new InputError('noFeed');
  const { channel: after, place, feed: code } = await marketOf(channel, country, language);
  return { ...carryOver(plans.draft, await channelOf(plans.head.channel), after, place), feed: code };
}

/** Makes a feed for another market or channel from the draft of one that is there. @returns its code */
export async function duplicateFeed(
  from: string,
  channel: string,
  country: string,
  language: string,
): Promise<string> {
  const person = await currentUser();
  const { plan, feed: code } = await previewDuplicate(from, channel, country, language);
  await insertFeed(code, plan, (await channelOf(channel)).sheet.name);
  await recordActivity(person, `created a feed from ${from}`, code);
  return code;
}
