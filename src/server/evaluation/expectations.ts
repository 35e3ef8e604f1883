import { and, asc, eq } from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { checkExpectations, type Expectation, type Expected } from '../../core/listing/expectations';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { feedExpectation } from '../db/schema';
import { memoPerRequest } from '../rpc/rpc';
import { memoFor } from '../runtime/memo';
import type { FeedContext } from './feedContext';

/** As many a feed has at most: each is looked at on every draft. */
const MAX_EXPECTATIONS = 200;

const rowsOf = memoPerRequest((code: string) =>
  db.select().from(feedExpectation).where(eq(feedExpectation.feed, code)).orderBy(asc(feedExpectation.id)),
);

/** Keeps an expectation with a feed; one for the same value of the same listing takes the place of the other. */
export async function addExpectation(code: string, expectation: Expectation): Promise<void> {
  const person = await currentUser();
  await db.transaction(async (tx) => {
    const known = await tx.select().from(feedExpectation).where(eq(feedExpectation.feed, code)).for('update');
    const about = (one: Expectation) =>
      one.expect === 'value'
        ? `${one.sku}\n${one.field}`
        : one.expect === 'noneBlocked'
          ? `category ${one.category}`
          : one.expect;
    const same = known.find((one) => about(one.expectation) === about(expectation));
    if (same) {
      await tx.update(feedExpectation).set({ expectation }).where(eq(feedExpectation.id, same.id));
      return;
    }
    if (known.length >= MAX_EXPECTATIONS)
      throw new InputError('tooManyExpectations', { most: MAX_EXPECTATIONS });
    await tx.insert(feedExpectation).values({ feed: code, expectation });
  });
  await recordActivity(person, 'added an expectation to the feed', code);
}

export async function removeExpectation(code: string, id: number): Promise<void> {
  const person = await currentUser();
  await db.delete(feedExpectation).where(and(eq(feedExpectation.feed, code), eq(feedExpectation.id, id)));
  await recordActivity(person, 'deleted an expectation of the feed', code);
}

export type ExpectedView = Expected & { readonly id: number };

/** The expectations of a feed, held against its draft over the catalog as it is now. */
export async function expectedOf({ plans, draft, sheet, snapshot }: FeedContext): Promise<ExpectedView[]> {
  const rows = await rowsOf(plans.head.code);
  if (rows.length === 0) return [];
  // Every page asks: held against a draft once, as long as nothing else is expected.
  return memoFor(
    draft,
    'expectations',
    () => {
      const slot = snapshot.index.slotOf('category') ?? -1;
      return checkExpectations(
        rows.map(({ expectation }) => expectation),
        {
          sheet,
          listings: draft.listings,
          positionOf: snapshot.positionOf,
          categoryAt: (at) => asText(snapshot.rows[at]?.[slot]),
        },
      ).map((one, at) => ({ ...one, id: rows[at]?.id ?? 0 }));
    },
    JSON.stringify(rows),
  );
}
