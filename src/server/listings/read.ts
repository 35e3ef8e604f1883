import { and, asc, eq, getTableColumns, inArray, ne, sql } from 'drizzle-orm';
import { severityOfShared } from '../../core/checks/comparing';
import type { Issue } from '../../core/checks/issue';
import { compileSeverities, type SeverityResolver } from '../../core/checks/severityOverrides';
import { type Listing, MAX_NAMED } from '../../core/listing/evaluate';
import { planOn } from '../../core/plans/plan';
import { db, type Transaction } from '../db/connection';
import { feedListing, feedSummary, feedValue, job } from '../db/schema';
import { feedPlans } from '../plans/drafts';
import { today } from '../runtime/calendarDay';

/** What is kept of feeds and listings, for pages that compute nothing; `counting.ts` keeps it current. */

export type Summary = typeof feedSummary.$inferSelect;

/** The columns of a summary without the figures, which are long and wanted for few. */
const { figures: _figures, ...withoutFigures } = getTableColumns(feedSummary);
/** How far a feed is counted. */
export type RefreshState = Omit<Summary, 'figures'>;

export async function refreshStateOf(
  tx: Transaction | typeof db,
  code: string,
  lock = false,
): Promise<RefreshState | undefined> {
  const query = tx.select(withoutFigures).from(feedSummary).where(eq(feedSummary.feed, code));
  const [found] = lock ? await query.for('update') : await query;
  return found;
}

/** What is kept of each feed, by its code. */
export async function readSummaries(): Promise<Map<string, Summary>> {
  return new Map((await db.select().from(feedSummary)).map((one) => [one.feed, one]));
}

/** Whether listings are being counted anew, or are about to be. */
export async function isRefreshing(): Promise<boolean> {
  const [found] = await db
    .select({ id: job.id })
    .from(job)
    .where(and(inArray(job.state, ['queued', 'running']), eq(job.kind, 'evaluateFeeds')))
    .limit(1);
  return found !== undefined;
}

/** What is kept of one item in a feed, as an evaluation would tell it. */
export interface StoredListing {
  readonly state: Listing['state'];
  readonly reason: string | undefined;
  readonly issues: readonly Issue[];
}

/** What the merchant says of checks in some feeds, by the plan that counts. */
async function judgesOf(feeds: readonly string[]): Promise<Map<string, SeverityResolver | undefined>> {
  const found = await Promise.all(
    [...new Set(feeds)].map(async (feed) => {
      const plans = await feedPlans(feed);
      const plan = plans && planOn(plans.published ?? plans.draft, today());
      return [feed, compileSeverities(plan?.checks)] as const;
    }),
  );
  return new Map(found);
}

/** What is kept of one item, by feed. */
export async function storedListingsOf(
  sku: string,
  feeds: readonly string[],
): Promise<Map<string, StoredListing>> {
  if (feeds.length === 0) return new Map();
  const rows = await db
    .select()
    .from(feedListing)
    .where(and(inArray(feedListing.feed, [...feeds]), eq(feedListing.sku, sku)));
  const values = rows.flatMap(({ feed, shared }) => shared.map((one) => [feed, one] as const));
  const judges = await judgesOf(values.map(([feed]) => feed));
  const compared = await Promise.all(
    values.map(async ([feed, [check, field, digest, value, part]]) => {
      const theirs = and(
        eq(feedValue.feed, feed),
        eq(feedValue.digest, digest),
        part === '' ? ne(feedValue.sku, sku) : ne(feedValue.part, part),
      );
      const others = await db
        .select({ sku: feedValue.sku })
        .from(feedValue)
        .where(theirs)
        .orderBy(asc(feedValue.sku))
        .limit(MAX_NAMED);
      const severity = severityOfShared(judges.get(feed), sku, check, field);
      if (others.length === 0 || severity === undefined) return [];
      const [counted] = await db.select({ count: sql<number>`count(*)` }).from(feedValue).where(theirs);
      const facts = {
        found: value,
        others: others.map((one) => one.sku),
        count: Number(counted?.count ?? 0),
      };
      return [[feed, { check, severity, field, facts } as Issue] as const];
    }),
  );
  return new Map(
    rows.map(({ feed, state, reason, issues }) => [
      feed,
      {
        state,
        reason: reason ?? undefined,
        issues: [...issues, ...compared.flat().flatMap(([of, issue]) => (of === feed ? [issue] : []))],
      },
    ]),
  );
}
