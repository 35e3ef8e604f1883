import { and, asc, desc, eq, gte, inArray, isNotNull, sql } from 'drizzle-orm';
import { db } from '../db/connection';
import { batch, feed, type SubmissionCause, type SubmissionState, submission } from '../db/schema';
import { feedName } from '../plans/feedName';
import { type ScheduleView, scheduleView } from '../schedules/schedules';
import { isLive } from '../transports/environment';

/** A submission as the outbox shows it. */
export interface SubmissionLine {
  readonly id: number;
  readonly feed: string;
  readonly name: string;
  readonly version: number;
  readonly cause: SubmissionCause;
  readonly state: SubmissionState;
  readonly total: number;
  readonly accepted: number;
  readonly refused: number;
  readonly withdrawn: number;
  readonly silent: number;
  readonly error: string | undefined;
  readonly createdAt: Date;
  readonly answeredAt: Date | undefined;
  /** Of what is under way: how many parts there are and how many have left. */
  readonly parts: number;
  readonly partsSent: number;
  /** How long the channel usually takes to answer, in seconds; of what waits for its answer. */
  readonly usual: number | undefined;
}

export interface SubmissionsView {
  readonly underWay: readonly SubmissionLine[];
  readonly done: readonly SubmissionLine[];
  readonly feeds: readonly { readonly code: string; readonly name: string; readonly hour: ScheduleView }[];
  /** Older ones than those shown, to go on from. */
  readonly before: number | undefined;
}

const median = (sorted: readonly number[]): number | undefined => sorted[Math.floor(sorted.length / 2)];
const secondsToAnswer = sql<number>`timestampdiff(microsecond, ${submission.sentAt}, ${submission.answeredAt}) / 1000000`;
/** How many of the last answers tell what is usual, and how few do not. */
const usualOf = { most: 30, least: 3 };

/**
 * How long a channel usually takes from the sending to its last answer, looking at listings included: the median of the last
 * submissions of a feed, in seconds; undefined where there were too few.
 */
export async function usualAnswer(code: string): Promise<number | undefined> {
  const rows = await db
    .select({ seconds: secondsToAnswer })
    .from(submission)
    .where(
      and(eq(submission.feed, code), isLive, eq(submission.state, 'answered'), isNotNull(submission.sentAt)),
    )
    .orderBy(desc(submission.id))
    .limit(usualOf.most);
  if (rows.length < usualOf.least) return undefined;
  return median(rows.map(({ seconds }) => Number(seconds)).sort((a, b) => a - b));
}

const open = [
  'planning',
  'held',
  'queued',
  'sending',
  'paused',
  'waiting',
] as const satisfies readonly SubmissionState[];
const atOnce = 60;

/** Everything that is on its way or was sent. @param query one feed alone; older than a submission */
export async function submissionsView(query: {
  readonly feed?: string | undefined;
  readonly before?: number | undefined;
}): Promise<SubmissionsView> {
  const heads = await db.select().from(feed).orderBy(feed.position);
  const names = new Map(
    await Promise.all(heads.map(async (head) => [head.code, await feedName(head)] as const)),
  );
  const ofFeed = query.feed ? eq(submission.feed, query.feed) : undefined;
  const [going, done, hours] = await Promise.all([
    db
      .select()
      .from(submission)
      .where(and(inArray(submission.state, [...open]), ofFeed))
      .orderBy(desc(submission.id)),
    db
      .select()
      .from(submission)
      .where(
        and(
          inArray(submission.state, ['answered', 'failed', 'stopped']),
          ofFeed,
          query.before === undefined ? undefined : sql`${submission.id} < ${query.before}`,
        ),
      )
      .orderBy(desc(submission.id))
      .limit(atOnce + 1),
    Promise.all(heads.map(async (head) => ({ code: head.code, hour: await scheduleView(head) }))),
  ]);
  const ids = going.map(({ id }) => id);
  const parts =
    ids.length === 0
      ? []
      : await db
          .select({
            id: batch.submissionId,
            count: sql<number>`count(*)`,
            sent: sql<number>`sum(${batch.state} not in ('made', 'checked'))`,
          })
          .from(batch)
          .where(inArray(batch.submissionId, ids))
          .groupBy(batch.submissionId);
  const waiting = [...new Set(going.flatMap(({ state, feed: code }) => (state === 'waiting' ? [code] : [])))];
  const usual = new Map(
    await Promise.all(waiting.map(async (code) => [code, await usualAnswer(code)] as const)),
  );
  const line = (one: typeof submission.$inferSelect): SubmissionLine => {
    const found = parts.find(({ id }) => id === one.id);
    return {
      id: one.id,
      feed: one.feed,
      name: names.get(one.feed) ?? one.feed,
      version: one.version,
      cause: one.cause,
      state: one.state,
      total: one.total,
      accepted: one.accepted,
      refused: one.refused,
      withdrawn: one.withdrawn,
      silent: one.silent,
      error: one.error ?? undefined,
      createdAt: one.createdAt,
      answeredAt: one.answeredAt ?? undefined,
      parts: Number(found?.count ?? 0),
      partsSent: Number(found?.sent ?? 0),
      usual: one.state === 'waiting' ? usual.get(one.feed) : undefined,
    };
  };
  return {
    underWay: going.map(line),
    done: done.slice(0, atOnce).map(line),
    feeds: hours.map(({ code, hour }) => ({ code, hour, name: names.get(code) ?? code })),
    before: done.length > atOnce ? done[atOnce - 1]?.id : undefined,
  };
}

/** How a feed fared on a day: by the answers of the submissions that were answered on it. */
export interface DayFigures {
  /** The day in UTC, 2026-11-26. */
  readonly day: string;
  readonly accepted: number;
  readonly refused: number;
}

export interface FeedInsights {
  readonly code: string;
  readonly name: string;
  readonly days: readonly DayFigures[];
  readonly accepted: number;
  readonly refused: number;
  /** Refusals that our own checks had said something of on the same field. */
  readonly foreseen: number;
  /** From sending to the last answer, the median of all submissions, in seconds. */
  readonly seconds: number | undefined;
}

export interface Insights {
  readonly days: number;
  readonly feeds: readonly FeedInsights[];
  /** Why listings were refused, by the channel's code, the most frequent first. */
  readonly causes: readonly {
    readonly feed: string;
    readonly code: string;
    readonly text: string;
    readonly count: number;
  }[];
}

const MAX_CAUSES = 12;

/** What came of what was sent in the last days, feed by feed. @param days how many, 366 at most */
export async function insights(days: number): Promise<Insights> {
  const since = new Date(Date.now() - Math.min(366, Math.max(1, days)) * 86_400_000);
  const heads = await db.select().from(feed).orderBy(feed.position);
  const answered = and(isLive, eq(submission.state, 'answered'), gte(submission.answeredAt, since));
  const day = sql<string>`date_format(${submission.answeredAt}, '%Y-%m-%d')`;
  const [byDay, times, causes] = await Promise.all([
    db
      .select({
        feed: submission.feed,
        day,
        accepted: sql<number>`sum(${submission.accepted})`,
        refused: sql<number>`sum(${submission.refused})`,
        foreseen: sql<number>`sum(${submission.foreseen})`,
      })
      .from(submission)
      .where(answered)
      .groupBy(submission.feed, day)
      .orderBy(asc(day)),
    db
      .select({
        feed: submission.feed,
        seconds: secondsToAnswer,
      })
      .from(submission)
      .where(and(answered, isNotNull(submission.sentAt))),
    db
      .select({ feed: submission.feed, causes: submission.causes })
      .from(submission)
      .where(and(answered, sql`${submission.refused} > 0`)),
  ]);
  const byCause = new Map<string, { feed: string; code: string; text: string; count: number }>();
  for (const { feed: code, causes: own } of causes)
    for (const cause of own ?? []) {
      const key = `${code} ${cause.code}`;
      const known = byCause.get(key);
      if (known) known.count += cause.count;
      else byCause.set(key, { feed: code, ...cause });
    }
  const feeds = await Promise.all(
    heads.map(async (head): Promise<FeedInsights> => {
      const own = byDay.filter((one) => one.feed === head.code);
      const sum = (of: (one: (typeof own)[number]) => unknown) =>
        own.reduce((total, one) => total + Number(of(one)), 0);
      const sorted = times
        .filter((one) => one.feed === head.code)
        .map(({ seconds }) => Number(seconds))
        .sort((a, b) => a - b);
      return {
        code: head.code,
        name: await feedName(head),
        days: own.map((one) => ({
          day: one.day,
          accepted: Number(one.accepted),
          refused: Number(one.refused),
        })),
        accepted: sum(({ accepted }) => accepted),
        refused: sum(({ refused }) => refused),
        foreseen: sum(({ foreseen }) => foreseen),
        seconds: median(sorted),
      };
    }),
  );
  const names = new Map(feeds.map(({ code, name }) => [code, name]));
  return {
    days,
    feeds: feeds.filter(({ accepted, refused }) => accepted + refused > 0),
    causes: [...byCause.values()]
      .sort((a, b) => b.count - a.count)
      .slice(0, MAX_CAUSES)
      .map((one) => ({ ...one, feed: names.get(one.feed) ?? one.feed })),
  };
}
