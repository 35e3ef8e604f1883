import { and, asc, eq } from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { checkExpectations, type Expectation, type Expected } from '../../core/listing/expectations';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { feedExpectation } from '../db/schema';
import { memoPerRequest, procedure } from '../rpc/rpc';
import { memoFor } from '../runtime/memo';
import { type FeedContext, loadFeedContext } from './feedContext';

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

/** What a field of a listing has in the draft; undefined where the feed has no such listing. */
const valueInDraft = procedure(
  'valueInDraft',
  async (code: string, sku: string, field: string): Promise<string | undefined> => {
    const work = await loadFeedContext(code);
    const position = work?.snapshot.positionOf(sku);
    const at = work?.sheet.fields.findIndex((one) => one.code === field) ?? -1;
    if (!work || position === undefined || at < 0) return undefined;
    const listing = work.draft.listings.at(position);
    return !listing || listing.state === 'leftOut' ? undefined : asText(listing.values[at]);
  },
);

/** Adds the expectation that a field of a listing keeps the value it has. @throws InputError where the feed has no such listing */
export async function expectPresentValue(code: string, sku: string, field: string): Promise<void> {
  const value = await valueInDraft(code, sku, field);
  if (value === undefined) throw new InputError('noListing', { sku });
  await addExpectation(code, { expect: 'value', sku, field, value });
}

/** The figures that a new expectation starts from. */
export interface PresentFigures {
  readonly ready: number;
  readonly categories: readonly { readonly name: string; readonly blocked: number }[];
  readonly fields: readonly { readonly code: string; readonly label: string }[];
  /** An item and a field with its value, as an example. */
  readonly example: { readonly sku: string; readonly field: string; readonly value: string } | undefined;
}

/** What the draft has at present, for the sentences that expectations are written in. */
export function presentFigures({ draft: { listings }, sheet, snapshot }: FeedContext): PresentFigures {
  const slot = snapshot.index.slotOf('category') ?? -1;
  const blocked = new Map<string, number>();
  let ready = 0;
  for (let at = 0; at < listings.length; at++) {
    const state = listings.stateAt(at);
    if (state === 'ready') ready++;
    const category = asText(snapshot.rows[at]?.[slot]);
    if (state !== 'leftOut')
      blocked.set(category, (blocked.get(category) ?? 0) + (state === 'blocked' ? 1 : 0));
  }
  const title = sheet.fields.findIndex(({ role }) => role === 'title');
  const first = listings.first((at) => listings.stateAt(at) === 'ready');
  return {
    ready,
    categories: [...blocked]
      .map(([name, count]) => ({ name, blocked: count }))
      .filter(({ name }) => name !== '')
      .sort((one, other) => one.name.localeCompare(other.name, 'en')),
    fields: sheet.fields.map(({ code, label }) => ({ code, label })),
    example:
      first < 0 || title < 0
        ? undefined
        : {
            sku: listings.skuAt(first),
            field: sheet.fields[title]?.code ?? '',
            value: asText(listings.at(first)?.values[title]),
          },
  };
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
