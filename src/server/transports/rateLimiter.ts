import { randomUUID } from 'node:crypto';
import { and, eq, sql } from 'drizzle-orm';
import { db } from '../db/connection';
import { rateLimit } from '../db/schema';
import { settings } from '../runtime/settings';

/** So many in so many seconds at most. */
export interface Rate {
  readonly count: number;
  readonly seconds: number;
}

export type Permit =
  | { readonly holder: string }
  | { readonly wait: number; readonly words: string | undefined };

/** What came of a turn: how the destination behaved, not what it thought of the listings. */
export type Release = 'well' | 'failed' | { readonly wait: number };

/** After so many failures in a row a destination is left alone for a while, which grows up to the longest. In ms. */
const MAX_FAILURES = 5;
const MIN_REST = 15_000;
const MAX_REST = 300_000;
/** Between two things that are sent there lies at least this, beyond what the rate asks for: clocks differ. In ms. */
const margin = 50;

const clock = sql<number>`round(unix_timestamp(utc_timestamp(3)) * 1000)`;
/** @param ms since the epoch by the database's clock, as {@link clock} counts */
const timeAt = (ms: number) => sql`from_unixtime(${ms / 1000})`;

/**
 * Takes the one turn that a destination has, however many workers want it. Nothing else is sent there until it ends, or its
 * time is over; by the rate it is counted from its end, so that what arrives is never closer together than the rate allows.
 * @param most how long a turn may last, in ms
 */
export async function acquire(destination: string, rate: Rate | undefined, most: number): Promise<Permit> {
  await db.insert(rateLimit).ignore().values({ destination, times: [], failures: 0 });
  return db.transaction(async (tx): Promise<Permit> => {
    const [row] = await tx
      .select({
        times: rateLimit.times,
        words: rateLimit.words,
        now: clock,
        held: sql<number | null>`round(unix_timestamp(${rateLimit.heldUntil}) * 1000)`,
        closed: sql<number | null>`round(unix_timestamp(${rateLimit.closedUntil}) * 1000)`,
      })
      .from(rateLimit)
      .where(eq(rateLimit.destination, destination))
      .for('update');
    if (!row) throw new Error('The rate of a destination is missing.');
    const now = Number(row.now);
    const blocked = row.held === null ? 0 : Number(row.held);
    const closed = row.closed === null ? 0 : Number(row.closed);
    if (blocked > now) return { wait: Math.min(blocked - now, 250), words: undefined };
    if (closed > now) return { wait: closed - now, words: row.words ?? undefined };
    if (rate) {
      const span = (rate.seconds * 1000) / settings.haste;
      // A worker that died in its turn may have sent something at any time until the turn was over.
      const times = blocked > 0 ? [...row.times, blocked] : row.times;
      const first = times.at(-rate.count);
      if (first !== undefined && first + span + margin > now)
        return { wait: first + span + margin - now, words: undefined };
    }
    const holder = randomUUID();
    await tx
      .update(rateLimit)
      .set({
        holder,
        heldUntil: timeAt(now + most),
        ...(blocked > 0 ? { times: [...row.times, blocked] } : {}),
      })
      .where(eq(rateLimit.destination, destination));
    return { holder };
  });
}

/** Ends a turn and says how it went. */
export async function release(destination: string, holder: string, rate: Rate | undefined, end: Release) {
  await db.transaction(async (tx) => {
    const [row] = await tx
      .select({ times: rateLimit.times, failures: rateLimit.failures, now: clock })
      .from(rateLimit)
      .where(and(eq(rateLimit.destination, destination), eq(rateLimit.holder, holder)))
      .for('update');
    // The turn was over before it ended: its time is counted already.
    if (!row) return;
    const now = Number(row.now);
    const failures = end === 'failed' ? row.failures + 1 : 0;
    const rest =
      typeof end === 'object'
        ? end.wait
        : failures >= MAX_FAILURES
          ? Math.min(MAX_REST, MIN_REST * 2 ** (failures - MAX_FAILURES)) / settings.haste
          : 0;
    await tx
      .update(rateLimit)
      .set({
        holder: null,
        heldUntil: null,
        times: [...row.times, now].slice(-(rate?.count ?? 1)),
        failures,
        closedUntil: rest > 0 ? timeAt(now + rest) : null,
        words:
          rest === 0
            ? null
            : typeof end === 'object'
              ? 'The channel asked us to wait.'
              : `The channel failed ${failures} times in a row; requests pause for a while.`,
      })
      .where(eq(rateLimit.destination, destination));
  });
}

/** How a destination stands: left alone until when, and why. */
export async function rateOf(destination: string) {
  const [row] = await db.select().from(rateLimit).where(eq(rateLimit.destination, destination));
  return row;
}
