import { and, asc, eq, gt, isNotNull, lte, sql } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import {
  nextDue,
  type Schedule,
  scheduleSchema,
  scheduleTrouble,
  scheduleWords,
} from '../../core/schedule/schedule';
import { currentUser, recordActivity } from '../auth/authorize';
import { readWorkspace } from '../catalog/workspace';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { feed, feedSchedule, job } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { notify } from '../notifications/notifications';
import { settings } from '../runtime/settings';
import { quickFields } from '../transports/quickFields';

/** When a feed is sent by itself, as a page shows it. */
export interface ScheduleView {
  readonly schedule: Schedule | undefined;
  readonly words: string | undefined;
  readonly zone: string;
  readonly paused: boolean;
  /** Whether changes of prices and stock go out at once; undefined where the channel does not take them by themselves. */
  readonly quick: boolean | undefined;
  readonly next: Date | undefined;
  readonly last: Date | undefined;
  /** What came of the last time. */
  readonly lastWords: string | undefined;
  readonly revision: number;
}

/** Feeds are sent so many minutes after each other. */
const spreadMinutes = 2;
/** What is later than this was missed, in minutes. */
const missedAfter = 15;
/** Changes of prices and stock are gathered for so long, in ms. */
export const gatherFor = 20_000;

async function rowOf(code: string) {
  const [row] = await db.select().from(feedSchedule).where(eq(feedSchedule.feed, code));
  return row ?? unset(code);
}

/** The schedule of a feed for which nobody has set one. */
const unset = (code: string): typeof feedSchedule.$inferSelect => ({
  feed: code,
  schedule: null,
  quick: false,
  paused: false,
  beganAt: new Date(),
  nextAt: null,
  lastAt: null,
  lastWords: null,
  revision: 1,
});

/** A feed's schedule. */
export async function scheduleView(head: { code: string; channel: string }): Promise<ScheduleView> {
  const [row, { zone }, { sheet }] = await Promise.all([
    rowOf(head.code),
    readWorkspace(),
    channelOf(head.channel),
  ]);
  return {
    schedule: row.schedule ?? undefined,
    words: row.schedule ? scheduleWords(row.schedule) : undefined,
    zone,
    paused: row.paused,
    quick: quickFields(sheet).length > 0 ? row.quick : undefined,
    next: row.paused ? undefined : (row.nextAt ?? undefined),
    last: row.lastAt ?? undefined,
    lastWords: row.lastWords ?? undefined,
    revision: row.revision,
  };
}

export type ScheduleEdit =
  | { readonly set: 'schedule'; readonly schedule: Schedule | null }
  | { readonly set: 'paused'; readonly on: boolean }
  | { readonly set: 'quick'; readonly on: boolean };

/**
 * Changes when a feed is sent by itself. @returns its revision then
 * @throws InputError where the schedule contradicts itself, or somebody else changed it since
 */
export async function editSchedule(code: string, revision: number, edit: ScheduleEdit): Promise<number> {
  const person = await currentUser();
  const trouble = edit.set === 'schedule' && edit.schedule ? scheduleTrouble(edit.schedule) : undefined;
  if (trouble) throw new InputError('scheduleRefused', { words: trouble });
  const { zone } = await readWorkspace();
  await db.transaction(async (tx) => {
    await tx.insert(feedSchedule).ignore().values(unset(code));
    const [row] = await tx.select().from(feedSchedule).where(eq(feedSchedule.feed, code)).for('update');
    if (!row) throw new InputError('noFeed');
    if (row.revision !== revision) throw new InputError('scheduleChanged');
    const [head] = await tx.select({ position: feed.position }).from(feed).where(eq(feed.code, code));
    const schedule =
      edit.set === 'schedule' ? edit.schedule && scheduleSchema.parse(edit.schedule) : row.schedule;
    const now = new Date();
    const beganAt = edit.set === 'schedule' ? now : row.beganAt;
    await tx
      .update(feedSchedule)
      .set({
        schedule,
        beganAt,
        paused: edit.set === 'paused' ? edit.on : row.paused,
        quick: edit.set === 'quick' ? edit.on : row.quick,
        nextAt: schedule && dueAfter(schedule, zone, now, beganAt, head?.position ?? 0),
        revision: revision + 1,
      })
      .where(eq(feedSchedule.feed, code));
  });
  await recordActivity(person, `changed the schedule: ${edit.set}`, code);
  return revision + 1;
}

const dueAfter = (schedule: Schedule, zone: string, after: Date, since: Date, position: number): Date =>
  nextDue(schedule, zone, after, { since, spread: (Math.max(0, position - 1) % 10) * spreadMinutes });

/** Counts hours anew that a clock which was put back has left too far ahead. */
async function countAnew(now: Date, zone: string): Promise<void> {
  const ahead = await db
    .select({ row: feedSchedule, position: feed.position })
    .from(feedSchedule)
    .innerJoin(feed, eq(feed.code, feedSchedule.feed))
    .where(and(isNotNull(feedSchedule.schedule), gt(feedSchedule.nextAt, now)));
  for (const { row, position } of ahead) {
    if (!row.schedule || !row.nextAt) continue;
    const next = dueAfter(row.schedule, zone, now, row.beganAt, position);
    if (next < row.nextAt)
      await db
        .update(feedSchedule)
        .set({ nextAt: next })
        .where(and(eq(feedSchedule.feed, row.feed), eq(feedSchedule.nextAt, row.nextAt)));
  }
}

/**
 * Puts the feeds whose hour has come on the queue, each once however many of its hours have passed; any number of workers may
 * ask at the same time.
 */
export async function enqueueSchedules(now: Date): Promise<void> {
  const { zone } = await readWorkspace();
  await countAnew(now, zone);
  await db.transaction(async (tx) => {
    const due = await tx
      .select()
      .from(feedSchedule)
      .where(
        and(isNotNull(feedSchedule.schedule), lte(feedSchedule.nextAt, now), eq(feedSchedule.paused, false)),
      )
      .orderBy(asc(feedSchedule.nextAt))
      .for('update', { skipLocked: true });
    for (const { feed: code, schedule, beganAt, nextAt } of due) {
      if (!schedule || !nextAt) continue;
      const [head] = await tx.select({ position: feed.position }).from(feed).where(eq(feed.code, code));
      await tx
        .update(feedSchedule)
        .set({ nextAt: dueAfter(schedule, zone, now, beganAt, head?.position ?? 0) })
        .where(eq(feedSchedule.feed, code));
      const late = Math.round((now.getTime() - nextAt.getTime()) / 60_000);
      if (late > missedAfter) await notify(tx, 'scheduleMissed', code, { due: nextAt.toISOString(), late });
      await enqueue(tx, 'sendScheduled', { feed: code });
    }
  });
}

/** Has prices and stock of some feeds sent by themselves, where that is wished; what comes within a while goes together. */
export async function requestQuickSend(codes: readonly string[]): Promise<void> {
  for (const code of codes)
    await db.transaction(async (tx) => {
      const [row] = await tx.select().from(feedSchedule).where(eq(feedSchedule.feed, code)).for('update');
      if (!row?.quick || row.paused) return;
      const [open] = await tx
        .select({ id: job.id })
        .from(job)
        .where(
          and(
            eq(job.kind, 'sendQuick'),
            eq(job.state, 'queued'),
            sql`json_value(${job.payload}, '$.feed') = ${code}`,
          ),
        )
        .limit(1);
      if (!open) await enqueue(tx, 'sendQuick', { feed: code }, gatherFor / settings.haste);
    });
}
