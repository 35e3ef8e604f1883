import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, inArray, lte, max, sql } from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import type { Sheet } from '../../core/channels/sheet';
import { fieldWithRole, merchantNeedsIn } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import { after, changesBetween, type Due, emptyEntry, toPut } from '../../core/ledger/ledger';
import { alarmText, reviewReasonText } from '../../core/ledger/messages';
import type { RejectedOnce } from '../../core/ledger/rejectedBefore';
import type { Alarm, Doubt } from '../../core/ledger/review';
import { currentUser, recordActivity } from '../auth/authorize';
import { channelOf } from '../channels/channels';
import { inParts, insertRows } from '../db/bulk';
import { db, outsideTransaction, type Transaction } from '../db/connection';
import {
  batch,
  feed,
  feedSchedule,
  notification,
  type SubmissionCause,
  sheetVersion,
  submission,
  submissionEntry,
} from '../db/schema';
import { enqueue } from '../jobs/queue';
import { acceptedValues, BATCH_ROWS, ledgerOf, lockedLedger, writeLedger } from '../ledger/ledger';
import { notify } from '../notifications/notifications';
import { EvaluatorUnavailable, procedure } from '../rpc/rpc';
import { md5 } from '../runtime/md5';
import { transportOf } from '../transports';
import { isTesting } from '../transports/destinations';
import { environmentOf, isLive } from '../transports/environment';
import { quickFields } from '../transports/quickFields';
import {
  alarmsOn,
  changedListings,
  type DueListing,
  dueOn,
  type FeedDue,
  listingsForReview,
  valuesByField,
} from './due';
import { type SubmissionRow, transition } from './transition';

type EntryRow = typeof submissionEntry.$inferInsert;

/** States in which something is still to come. */
const underWay = ['held', 'queued', 'sending', 'paused', 'waiting'] as const;

export type SendResult =
  | {
      ok: true;
      submission: number;
      count: number;
      held: boolean;
      /** Listings that are held for review while the rest is sent. */
      doubtful: number;
    }
  | { ok: false; reason: 'unpublished' | 'nothing' | 'underWay' | 'conditions' | 'testing' | 'doubtful' };

/**
 * What is sent: all that is due; every ready listing; what changed in prices and stock alone; what is to be put, to be saved as
 * drafts; the drafts that are there, for review; or single ones.
 */
export type SendWhat =
  | 'due'
  | 'everything'
  | 'quick'
  | 'asDrafts'
  | 'drafts'
  | { readonly only: readonly string[] };

/** Leads that are not there yet, of members that are sent by themselves: without them no channel takes a member. */
function leadsFor(asked: readonly DueListing[], listings: readonly DueListing[], sheet: Sheet): DueListing[] {
  if (sheet.delivery.families !== 'leads') return [];
  const at = sheet.fields.findIndex(({ role }) => role === 'group');
  const groupOf = ({ out }: DueListing) => asText(out?.values[at]);
  const groups = new Set(asked.filter(({ out }) => out?.relation === 'member').map(groupOf));
  const mine = new Set(asked);
  return listings.filter(
    (one) => one.out?.relation === 'lead' && !mine.has(one) && toPut.has(one.due) && groups.has(groupOf(one)),
  );
}

/** Which listings have changed in nothing else than in some fields. */
function changedIn(sheet: Sheet, codes: Iterable<string>): (one: DueListing) => boolean {
  const fields = new Set(codes);
  return ({ due, out, values }) => {
    if (fields.size === 0 || due !== 'changed' || !out || !values) return false;
    const changes = changesBetween(values, valuesByField(sheet, out.values));
    // A listing with no changed value is a variant that became a single listing.
    return changes.length > 0 && changes.every(({ field }) => fields.has(field));
  };
}

/** Which listings a submission takes along. */
function chosen({ listings, sheet }: FeedDue, what: SendWhat): { whole: boolean; taken: DueListing[] } {
  if (what === 'asDrafts' || what === 'drafts') {
    const asked = listings.filter(({ due }) => (what === 'drafts' ? due === 'drafted' : toPut.has(due)));
    return { whole: false, taken: [...leadsFor(asked, listings, sheet), ...asked] };
  }
  if (what === 'quick') return { whole: false, taken: listings.filter(changedIn(sheet, quickFields(sheet))) };
  const only = typeof what === 'object' ? new Set(what.only) : undefined;
  const wanted = ({ sku, due, out }: DueListing) =>
    only
      ? only.has(sku) && due !== 'waiting' && (out !== undefined || due === 'withdraw')
      : toPut.has(due) ||
        due === 'withdraw' ||
        (what === 'everything' && (due === 'unchanged' || due === 'refused' || due === 'drafted'));
  const asked = listings.filter(wanted);
  const due = [...leadsFor(asked, listings, sheet), ...asked];
  const { delivery } = sheet;
  const whole =
    transportOf(sheet)?.whole === true ||
    delivery.partial === 'no' ||
    (delivery.removal === 'absence' && due.some((one) => one.due === 'withdraw'));
  if (!whole || due.length === 0) return { whole, taken: due };
  // The last file counts, so it holds all that is to stay: the unchanged, and the blocked with what the channel has.
  const mine = new Set(due);
  return {
    whole,
    taken: listings.flatMap((one): DueListing[] => {
      if (mine.has(one) || one.due === 'unchanged' || one.due === 'refused' || one.due === 'left')
        return [one];
      // What is not meant to change now stays as the channel has it.
      return one.kept?.held && one.values ? [{ ...one, due: 'left' }] : [];
    }),
  };
}

/** What a submission takes along without listings that are held for review: of these a whole file keeps what the channel has. */
const withoutDoubtful = (
  { whole, taken }: ReturnType<typeof chosen>,
  doubtful: ReadonlySet<string>,
): ReturnType<typeof chosen> => ({
  whole,
  taken: taken.flatMap((one): DueListing[] => {
    if (!doubtful.has(one.sku)) return [one];
    return whole && one.kept?.held && one.values ? [{ ...one, due: 'left' }] : [];
  }),
});

type Entry = Omit<EntryRow, 'submissionId'>;

/** Entries in the order in which they leave. Each is made when it is asked for: all of them may be a whole catalog with its values. */
interface Entries {
  readonly length: number;
  at(place: number): Entry;
}

/**
 * The entries of a submission, cut into batches.
 * @param allOfEach nothing goes with only some of its fields
 */
function entriesOf(
  { sheet }: Pick<FeedDue, 'sheet'>,
  taken: readonly DueListing[],
  allOfEach: boolean,
): Entries {
  const { removal } = sheet.delivery;
  const most = transportOf(sheet)?.most(sheet) ?? Number.POSITIVE_INFINITY;
  const idAt = sheet.fields.findIndex(({ role }) => role === 'id');
  const idCode = fieldWithRole(sheet, 'id')?.code ?? '';
  const isQuick = allOfEach ? () => false : changedIn(sheet, sheet.delivery.quick?.fields ?? []);
  const quick = taken.filter(isQuick);
  const quickOnes = new Set(quick);
  const puts = taken.filter((one) => one.due !== 'withdraw' && !quickOnes.has(one));
  const removals = taken.filter(({ due }) => due === 'withdraw');
  const rows = removal === 'row' ? [...puts, ...removals] : puts;
  const batchOf = (at: number) => (Number.isFinite(most) ? Math.floor(at / most) : 0);
  const batches = (count: number) => (count === 0 ? 0 : batchOf(count - 1) + 1);
  const afterRows = batches(rows.length);
  const afterQuick = afterRows + batches(quick.length);
  const entry = (one: DueListing, position: number, batch: number): Entry => {
    const values =
      one.due === 'withdraw' || one.due === 'left'
        ? (one.values ?? {})
        : valuesByField(sheet, one.out?.values ?? []);
    return {
      sku: one.sku,
      position,
      batch,
      ref: asText(one.out?.values[idAt]) || asText(values[idCode]) || one.sku,
      due: one.due,
      relation: one.out?.relation ?? null,
      quick: quickOnes.has(one),
      digest:
        one.due === 'withdraw' ? null : ((one.due === 'left' ? one.kept?.held?.digest : one.digest) ?? ''),
      values,
      answer: 'waiting',
      problems: [],
    };
  };
  const calls = removal === 'row' ? [] : removals;
  const beforeCalls = rows.length + quick.length;
  return {
    length: beforeCalls + calls.length,
    at: (place) => {
      if (place < rows.length) return entry(rows[place] as DueListing, place, batchOf(place));
      if (place < beforeCalls) {
        const at = place - rows.length;
        return entry(quick[at] as DueListing, place, afterRows + batchOf(at));
      }
      const at = place - beforeCalls;
      // Each call has a turn of its own: the rate holds for them too.
      return entry(calls[at] as DueListing, place, removal === 'absence' ? 0 : afterQuick + at);
    },
  };
}

/** Some entries, from a place on. */
const partOf = (entries: Entries, from: number, most: number): Entry[] =>
  Array.from({ length: Math.max(0, Math.min(most, entries.length - from)) }, (_, n) => entries.at(from + n));

/** What would leave of all that is due, in its order, but for what goes by itself; nothing where nothing is due. */
export function wouldLeave(due: FeedDue): Entry[] {
  const { whole, taken } = chosen(due, 'due');
  const entries = entriesOf(due, taken, whole);
  return partOf(entries, 0, entries.length).filter(({ quick }) => !quick);
}

async function sheetVersionOf(tx: Transaction, sheet: Sheet): Promise<number> {
  const [row] = await tx
    .select({ version: sheetVersion.version })
    .from(sheetVersion)
    .where(and(eq(sheetVersion.channel, sheet.code), sql`${sheetVersion.takenOnAt} is not null`))
    .orderBy(desc(sheetVersion.version))
    .limit(1);
  return row?.version ?? sheet.version;
}

/** Puts some of what a submission takes along on its way, in the ledger. */
async function setOff(
  tx: Transaction,
  code: string,
  id: number,
  entries: readonly Pick<EntryRow, 'sku' | 'digest' | 'due'>[],
) {
  const moving = entries.filter(({ due }) => !still.has(due ?? 'new'));
  if (moving.length === 0) return;
  const known = await lockedLedger(
    tx,
    code,
    moving.map(({ sku }) => sku),
  );
  await writeLedger(
    tx,
    code,
    moving.map(({ sku, digest }) => {
      const event =
        digest == null
          ? ({ event: 'removalSent', submission: id } as const)
          : ({ event: 'sent', submission: id, digest } as const);
      return [sku, after(known.get(sku) ?? emptyEntry, event)];
    }),
  );
}

/** What goes along in a file that holds all, and changes nothing. */
const still: ReadonlySet<Due> = new Set(['unchanged', 'left']);
/** Whether a listing is to be put or taken back, and not only along in a file that holds all. */
const isDue = ({ due }: DueListing): boolean => toPut.has(due) || due === 'withdraw';
const movingOf = (taken: readonly DueListing[]): number => taken.filter(({ due }) => !still.has(due)).length;

/** Submissions that are being written down, where the catalog is: what they take along is asked for a part at a time. */
const beingWritten = new Map<string, Entries>();
/** So many at once; one that is forgotten is planned anew. */
const MAX_BEING_WRITTEN = 8;
/** Entries that are handed over at once. */
const partSize = 4 * BATCH_ROWS;

const partOfPlanned = procedure(
  'submissionPart',
  async (_feed: string, key: string, from: number): Promise<Entry[] | undefined> => {
    const entries = beingWritten.get(key);
    return entries && partOf(entries, from, partSize);
  },
);
/** Keeps entries until they have been written down, where the catalog is. */
function toBeWritten(entries: Entries): Pick<Planned, 'key' | 'total'> {
  const key = randomUUID();
  beingWritten.set(key, entries);
  for (const [oldest] of beingWritten) {
    if (beingWritten.size <= MAX_BEING_WRITTEN) break;
    beingWritten.delete(oldest);
  }
  return { key, total: entries.length };
}

const forgetPlanned = procedure(
  'submissionWritten',
  async (_feed: string, key: string): Promise<boolean> => beingWritten.delete(key),
);

/** What a submission would take along, computed where the catalog is; says why where there is nothing to take. */
const planSubmission = procedure('submission', async (code: string, what: SendWhat, testing: boolean) => {
  const due = await dueOn(code);
  if (!due) return 'unpublished' as const;
  const { plans, sheet } = due;
  const met = new Set(plans.published?.met);
  if (merchantNeedsIn(sheet, plans.head.country).some((need) => !met.has(need.code)))
    return 'conditions' as const;
  if (what === 'asDrafts' && !sheet.delivery.drafts) return 'nothing' as const;
  const all = chosen(due, what);
  // What a person asks for by name, and what no shopper sees, is in no doubt.
  const looked = testing || typeof what === 'object' || what === 'asDrafts';
  const doubts = looked
    ? new Map<string, Doubt>()
    : listingsForReview(due, changedListings({ ...due, listings: all.taken }));
  const held = {
    count: doubts.size,
    reasons: reviewReasonText(doubts, due.limits),
    skus: [...doubts.keys()],
  };
  const { whole, taken } = withoutDoubtful(all, new Set(held.skus));
  // A file that holds all takes rejected listings along; by themselves they are no reason to send it.
  const dueCount = what === 'due' || what === 'quick' ? taken.filter(isDue).length : movingOf(taken);
  if (doubts.size > 0 && dueCount === 0) return { held };
  if (taken.length === 0) return due.counts.waiting > 0 ? ('underWay' as const) : ('nothing' as const);
  return {
    ...toBeWritten(entriesOf(due, taken, whole || what === 'everything')),
    whole,
    version: plans.version,
    channel: plans.head.channel,
    alarms: looked
      ? []
      : what === 'quick'
        ? alarmsOn(
            { ...due, counts: { ...due.counts, withdraw: 0 } },
            changedListings({ ...due, listings: taken }),
          )
        : alarmsOn(
            due,
            changedListings({ ...due, listings: due.listings.filter(({ sku }) => !doubts.has(sku)) }),
          ),
    held,
    moving: movingOf(taken),
  };
});

/**
 * Writes a submission down and queues it; where it looks wrong it is held back until a person says that it is right. Nothing
 * has left the process when this returns. A feed that is set to the test account is tried there by persons alone.
 */
export async function sendFeed(
  code: string,
  what: SendWhat = 'due',
  cause: SubmissionCause = 'hand',
): Promise<SendResult> {
  const testing = await isTesting(code);
  if (testing && (cause !== 'hand' || what === 'asDrafts')) return { ok: false, reason: 'testing' };
  const planned = await planSubmission(code, what, testing);
  if (typeof planned === 'string') return { ok: false, reason: planned };
  if (!('key' in planned)) {
    await notifyHeld(code, planned.held, cause);
    return { ok: false, reason: 'doubtful' };
  }
  const { sheet } = await channelOf(planned.channel);
  const result = await writeSubmission(
    code,
    sheet,
    planned,
    testing ? 'test' : what === 'asDrafts' ? 'draft' : cause,
  );
  if (result.ok) await notifyHeld(code, planned.held, cause);
  return result.ok ? { ...result, doubtful: planned.held.count } : result;
}

/** Listings that are held for review while the rest is sent. */
interface ListingsForReview {
  readonly count: number;
  readonly reasons: readonly string[];
  readonly skus: readonly string[];
}

/** Tells of listings that are held for review, once for the same ones. */
async function notifyHeld(
  code: string,
  { count, reasons, skus }: ListingsForReview,
  cause: string,
): Promise<void> {
  if (count === 0) return;
  const facts = { count, reasons, cause, which: md5([...skus].sort().join('\n')) };
  await db.transaction(async (tx) => {
    const [last] = await tx
      .select({ facts: notification.facts })
      .from(notification)
      .where(and(eq(notification.feed, code), eq(notification.kind, 'listingsHeld')))
      .orderBy(desc(notification.id))
      .limit(1);
    if (last && 'which' in last.facts && last.facts.which === facts.which) return;
    await notify(tx, 'listingsHeld', code, facts);
  });
}

/**
 * Sends the listings that are held for review, with the word of the person who looked at them.
 * @throws InputError where none is held any more
 */
export async function sendHeldListings(code: string, words: string): Promise<SendResult> {
  const planned = await planSubmission(code, 'due', false);
  const held = typeof planned === 'string' ? undefined : planned.held;
  if (!held || held.count === 0) throw new InputError('notHeld');
  const result = await sendFeed(code, { only: held.skus });
  if (result.ok)
    await recordActivity(
      await currentUser(),
      `let ${held.count} listings go that were held for review: ${words}`,
      code,
    );
  return result;
}

interface Planned {
  /** Whether what is sent stands for all that the channel is to have. */
  readonly whole: boolean;
  readonly version: number;
  readonly alarms: readonly Alarm[];
  /** By which its entries are asked for; how many there are, and how many of them change something. */
  readonly key: string;
  readonly total: number;
  readonly moving: number;
}

/** What somebody else has sent in the meantime is on its way already; nothing is written. */
class UnderWay extends Error {}

async function writeSubmission(
  code: string,
  sheet: Sheet,
  { whole, version, alarms, key, total, moving }: Planned,
  cause: SubmissionCause,
  besides: (tx: Transaction) => Promise<void> = async () => undefined,
): Promise<SendResult> {
  const person = await currentUser();
  const writing = db.transaction(async (tx): Promise<SendResult> => {
    await tx.select({ code: feed.code }).from(feed).where(eq(feed.code, code)).for('update');
    const open = await tx
      .select({ id: submission.id, state: submission.state })
      .from(submission)
      .where(and(eq(submission.feed, code), inArray(submission.state, [...underWay])));
    if (open.some(({ state }) => state === 'held') || (whole && open.length > 0))
      return { ok: false, reason: 'underWay' };
    const [made] = await tx
      .insert(submission)
      .values({
        feed: code,
        version,
        sheetVersion: await sheetVersionOf(tx, sheet),
        state: alarms.length > 0 ? 'held' : 'queued',
        alarms: alarms.length > 0 ? [...alarms] : null,
        cause,
        total,
        accepted: 0,
        refused: 0,
        createdAt: new Date(),
      })
      .$returningId();
    const id = made?.id ?? 0;
    for (let from = 0; from < total; ) {
      // What was planned is kept beyond the transaction that writes it down.
      const handed = await outsideTransaction(() => partOfPlanned(code, key, from));
      // The evaluator has been started again since.
      if (!handed) throw new EvaluatorUnavailable();
      for (const chunk of inParts(handed, BATCH_ROWS)) {
        const skus = chunk.map(({ sku }) => sku);
        if (
          cause !== 'test' &&
          [...(await lockedLedger(tx, code, skus)).values()].some(({ pending }) => pending)
        )
          throw new UnderWay();
        await insertRows(
          tx,
          submissionEntry,
          chunk.map((entry) => ({ ...entry, submissionId: id })),
        );
        if (alarms.length === 0 && cause !== 'test') await setOff(tx, code, id, chunk);
      }
      from += handed.length;
    }
    await besides(tx);
    if (alarms.length === 0) await enqueue(tx, 'sendSubmission', { submission: id });
    else await notify(tx, 'heldBack', code, { submission: id, reasons: alarms.map(alarmText), cause });
    return { ok: true, submission: id, count: moving, held: alarms.length > 0, doubtful: 0 };
  });
  const result = await writing
    .catch((error: unknown): SendResult => {
      if (error instanceof UnderWay) return { ok: false, reason: 'underWay' };
      throw error;
    })
    // What has been written stays written, even where the evaluator has gone since; it forgets by itself, too.
    .finally(() => forgetPlanned(code, key).catch(() => undefined));
  if (result.ok) {
    const did =
      cause === 'test'
        ? 'tried'
        : cause === 'draft'
          ? 'saved as drafts'
          : result.held
            ? 'made ready'
            : 'sent';
    await recordActivity(person, `${did} ${result.count} listings`, code);
  }
  return result;
}

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
const planRestore = procedure('backSubmission', async (code: string, channel: string, id: number) => {
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
  const whole =
    transportOf(sheet)?.whole === true || delivery.partial === 'no' || delivery.removal === 'absence';
  const taken = listings.filter(({ due }) => whole || due !== 'unchanged');
  return {
    ...toBeWritten(entriesOf({ sheet }, taken, true)),
    whole,
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
    // In the same transaction: a schedule that goes on would undo it.
    async (tx) => {
      await tx
        .insert(feedSchedule)
        .values({ feed: code, revision: 1, beganAt: new Date(), paused: true })
        .onDuplicateKeyUpdate({ set: { paused: true } });
    },
  );
  if (result.ok) await recordActivity(person, `brought the channel back to submission ${id}: ${words}`, code);
  return result;
}

/** A submission; undefined where there is none of that number. */
export async function findSubmission(id: number): Promise<SubmissionRow | undefined> {
  const [found] = await db.select().from(submission).where(eq(submission.id, id));
  return found;
}

async function locked(tx: Transaction, id: number): Promise<SubmissionRow> {
  const [found] = await tx.select().from(submission).where(eq(submission.id, id)).for('update');
  if (!found) throw new InputError('noSubmission');
  return found;
}

/** Lets a submission go that was held back, with the word of the person who looked at it. */
export async function releaseSubmission(id: number, words: string): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'held') throw new InputError('notHeld');
    const entries = await tx
      .select({ sku: submissionEntry.sku, digest: submissionEntry.digest, due: submissionEntry.due })
      .from(submissionEntry)
      .where(eq(submissionEntry.submissionId, id));
    for (const part of inParts(entries, BATCH_ROWS)) await setOff(tx, row.feed, id, part);
    await transition(tx, id, ['held'], {
      state: 'queued',
      releasedBy: person.name,
      releaseWords: words.slice(0, 300),
    });
    await enqueue(tx, 'sendSubmission', { submission: id });
    return row;
  });
  await recordActivity(person, `let a submission go that was held back: ${words}`, found.feed);
}

/** Drops a submission that was held back: nothing of it left. */
export async function dropSubmission(id: number): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'held') throw new InputError('notHeld');
    await tx.delete(submissionEntry).where(eq(submissionEntry.submissionId, id));
    await transition(tx, id, ['held'], { state: 'stopped', answeredAt: new Date() });
    return row;
  });
  await recordActivity(person, 'dropped a submission that was held back', found.feed);
}

/** Stops sending for now; what came of what has left is asked for when it goes on. */
export async function pauseSubmission(id: number): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'queued' && row.state !== 'sending') throw new InputError('notSending');
    await transition(tx, id, ['queued', 'sending'], { state: 'paused', error: null });
    return row;
  });
  await recordActivity(person, 'paused a submission', found.feed);
}

/** Goes on with a submission that was paused, by a person or because the channel did not let it in. */
export async function resumeSubmission(id: number): Promise<void> {
  const person = await currentUser();
  const found = await db.transaction(async (tx) => {
    const row = await locked(tx, id);
    if (row.state !== 'paused') throw new InputError('notPaused');
    await tx
      .update(batch)
      .set({ sentAt: new Date() })
      .where(and(eq(batch.submissionId, id), eq(batch.state, 'checked')));
    await transition(tx, id, ['paused'], { state: 'queued', error: null });
    await enqueue(tx, 'sendSubmission', { submission: id });
    return row;
  });
  await recordActivity(person, 'went on with a submission', found.feed);
}

export async function listSubmissions(code?: string, most = 20): Promise<SubmissionRow[]> {
  const query = db.select().from(submission);
  return (code ? query.where(eq(submission.feed, code)) : query).orderBy(desc(submission.id)).limit(most);
}

export async function submissionEntries(id: number) {
  return db
    .select()
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, id))
    .orderBy(submissionEntry.position);
}

/** Rejected listings of a feed's last live submissions, the latest first; so many at most. */
export async function rejectedLately(code: string, most = 500): Promise<RejectedOnce[]> {
  return db
    .select({
      sku: submissionEntry.sku,
      values: submissionEntry.values,
      problems: submissionEntry.problems,
    })
    .from(submissionEntry)
    .innerJoin(submission, eq(submission.id, submissionEntry.submissionId))
    .where(and(eq(submission.feed, code), isLive, eq(submissionEntry.answer, 'refused')))
    .orderBy(desc(submissionEntry.submissionId))
    .limit(most);
}
