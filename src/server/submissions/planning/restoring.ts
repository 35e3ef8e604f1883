import { and, eq, gt, inArray, lte, max, sql } from 'drizzle-orm';
import { InputError } from '../../../core/errors/inputError';
import { currentUser, recordActivity } from '../../auth/authorize';
import { channelOf } from '../../channels/channels';
import { db } from '../../db/connection';
import { feed, submission, submissionEntry } from '../../db/schema';
import { acceptedValues, ledgerOf } from '../../ledger/ledger';
import { procedure } from '../../rpc/rpc';
import { transportOf } from '../../transports';
import { isTesting } from '../../transports/destinations';
import { environmentOf, isLive } from '../../transports/environment';
import type { DueListing } from '../due';
import { findSubmission } from '../submissions';
import { entriesOf, movingOf } from './choosing';
import { toBeWritten } from './planned';
import { type SendResult, writeSubmission } from './writing';

/** Whether listings of a submission up to one are not kept any more: then nobody knows what the channel had. */
async function isForgotten(code: string, id: number): Promise<boolean> {
  const [gone] = await db
    .select({ id: submission.id })
    .from(submission)
    .where(
      and(
        eq(submission.feed, code),
        isLive,
        lte(submission.id, id),
        eq(submission.state, 'answered'),
        gt(submission.total, 0),
        sql`not exists (select 1 from ${submissionEntry} where ${submissionEntry.submissionId} = ${submission.id})`,
      ),
    )
    .limit(1);
  return gone !== undefined;
}

/** What a feed's channel had of each listing once a submission was answered; null of what it had taken back. */
async function reviewedBefore(
  code: string,
  id: number,
): Promise<Map<string, typeof submissionEntry.$inferSelect | null>> {
  const settled = and(
    eq(submission.feed, code),
    isLive,
    lte(submission.id, id),
    inArray(submissionEntry.answer, ['accepted', 'withdrawn']),
  );
  const last = db
    .select({ sku: submissionEntry.sku, last: max(submissionEntry.submissionId).as('last') })
    .from(submissionEntry)
    .innerJoin(submission, eq(submission.id, submissionEntry.submissionId))
    .where(settled)
    .groupBy(submissionEntry.sku)
    .as('latest');
  const rows = await db
    .select({ entry: submissionEntry })
    .from(submissionEntry)
    .innerJoin(last, and(eq(last.sku, submissionEntry.sku), eq(last.last, submissionEntry.submissionId)));
  return new Map(rows.map(({ entry }) => [entry.sku, entry.answer === 'accepted' ? entry : null]));
}

/** What brings a channel back to what it had once a submission was answered, computed where the catalog is. */
const planRestore = procedure('restorePlan', async (code: string, channel: string, id: number) => {
  const { sheet } = await channelOf(channel);
  const [then, now] = await Promise.all([reviewedBefore(code, id), ledgerOf(code)]);
  const skus = [...new Set([...then.keys(), ...[...now].flatMap(([sku, { held }]) => (held ? [sku] : []))])];
  // Of what goes as it was then that is enough.
  const values = await acceptedValues(
    code,
    skus.filter((sku) => !then.get(sku)),
  );
  const listings = skus.flatMap((sku): DueListing[] => {
    const [was, kept] = [then.get(sku), now.get(sku)];
    if (!was && !kept?.held) return [];
    const due = !was
      ? 'withdraw'
      : !kept?.held
        ? 'new'
        : kept.held.digest === was.digest
          ? 'unchanged'
          : 'changed';
    const out = was && {
      sku,
      values: sheet.fields.map((field) => was.values[field.code]),
      relation: was.relation ?? undefined,
    };
    return [
      {
        sku,
        due,
        reason: undefined,
        out: out ?? undefined,
        digest: was?.digest ?? undefined,
        kept,
        values: values.get(sku),
      },
    ];
  });
  if (listings.every(({ due }) => due === 'unchanged')) throw new InputError('nothingToBringBack');
  const { delivery } = sheet;
  const complete =
    transportOf(sheet)?.whole === true || delivery.partial === 'no' || delivery.removal === 'absence';
  const taken = listings.filter(({ due }) => complete || due !== 'unchanged');
  return {
    ...toBeWritten(entriesOf({ sheet }, taken, true)),
    whole: complete,
    moving: movingOf(taken),
  };
});

/**
 * Sends a channel back to what it had once an earlier submission was answered: what is otherwise now is sent as it was then, what
 * came since is taken back. The feed's hour is paused, which would otherwise undo it.
 * @param words why, for it is not held back to be looked at
 * @throws InputError where there is nothing to bring back, or where what the channel had is not known any more
 */
export async function restoreEarlier(code: string, id: number, words: string): Promise<SendResult> {
  const person = await currentUser();
  const found = await findSubmission(id);
  if (!found || found.feed !== code || environmentOf(found) === 'test') throw new InputError('noSubmission');
  if (await isTesting(code)) throw new InputError('testing');
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  if (!head) throw new InputError('noFeed');
  if (await isForgotten(code, id)) throw new InputError('listingsDropped');
  const { sheet } = await channelOf(head.channel);
  const planned = await planRestore(code, head.channel, id);
  const result = await writeSubmission(
    code,
    sheet,
    { ...planned, version: found.version, alarms: [] },
    'back',
  );
  if (result.ok) await recordActivity(person, `restored the channel to submission ${id}: ${words}`, code);
  return result;
}
