import { eq, sql } from 'drizzle-orm';
import { InputError } from '../../core/formats/inputError';
import { emptyPlan } from '../../core/listing/plan';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { draft, feed } from '../db/schema';
import { record, whoAsks } from '../people/gate';

/**
 * Adds a feed: one channel in one market, with an empty draft.
 * @returns its code @throws InputError where the channel has no such market, or the feed is there
 */
export async function createFeed(channel: string, country: string, language: string): Promise<string> {
  const person = await whoAsks();
  const { sheet } = await channelOf(channel);
  const market = sheet.markets.find((one) => one.country === country);
  if (!market?.languages.includes(language))
    throw new InputError(`${sheet.name} has no market ${country} in “${language}”.`);
  const first = market.languages[0] === language;
  const code = `${channel}-${country.toLowerCase()}${first ? '' : `-${language}`}`;
  await db.transaction(async (tx) => {
    const [known] = await tx.select().from(feed).where(eq(feed.code, code));
    if (known) throw new InputError(`There is already a feed for ${sheet.name} in ${country}.`);
    const [last] = await tx.select({ most: sql<number>`coalesce(max(position), 0)` }).from(feed);
    const place = { country, language, currency: market.currency };
    await tx.insert(feed).values({ code, channel, ...place, position: Number(last?.most ?? 0) + 1 });
    await tx.insert(draft).values({ feed: code, plan: emptyPlan(channel, place), revision: 1 });
  });
  await record(person, 'added a feed', code);
  return code;
}
