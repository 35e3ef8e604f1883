import { and, eq } from 'drizzle-orm';
import { counted } from '../../core/formatting/formatting';
import { db } from '../db/connection';
import { feedSchedule, submission } from '../db/schema';
import { notify } from '../notifications/notifications';
import { settings } from '../runtime/settings';
import { gatherFor } from '../schedules/schedules';
import type { SendResult } from './planning/writing';
import { sendFeed } from './submissions';

const outcomes: Readonly<Record<Extract<SendResult, { ok: false }>['reason'], string>> = {
  unpublished: 'not published yet',
  nothing: 'nothing had changed',
  underWay: 'another submission was still in progress',
  testing: 'it is set to the channel’s test account',
  doubtful: 'all changed listings are held for review',
  conditions: 'a prerequisite of the channel is not met, see the feed’s settings',
};

const outcomeText = (result: SendResult): string =>
  result.ok
    ? `${counted(result.count, 'listing')} ${result.held ? 'prepared and held for review' : 'sent'}${
        result.doubtful > 0 ? `, ${result.doubtful} held for review` : ''
      }`
    : outcomes[result.reason];

/** Sends a feed because its hour has come. */
export async function sendScheduled(code: string): Promise<void> {
  const result = await sendFeed(code, 'due', 'schedule');
  await db.transaction(async (tx) => {
    await tx
      .update(feedSchedule)
      .set({ lastAt: new Date(), lastWords: outcomeText(result) })
      .where(eq(feedSchedule.feed, code));
    if (!result.ok && result.reason !== 'nothing' && result.reason !== 'underWay')
      await notify(tx, 'notSent', code, { words: outcomes[result.reason] });
  });
}

/** Sends what changed in prices and stock alone. @returns in how many ms it is tried again, where something is in the way */
export async function sendQuick(code: string): Promise<number | undefined> {
  const [row] = await db.select().from(feedSchedule).where(eq(feedSchedule.feed, code));
  if (!row?.quick || row.paused) return undefined;
  const [held] = await db
    .select({ id: submission.id })
    .from(submission)
    .where(and(eq(submission.feed, code), eq(submission.state, 'held')))
    .limit(1);
  // What is held back is looked at by a person first.
  if (held) return undefined;
  const result = await sendFeed(code, 'quick', 'quick');
  return !result.ok && result.reason === 'underWay' ? gatherFor / settings.haste : undefined;
}
