import { asText } from '../../../core/catalog/value';
import type { Sheet } from '../../../core/channels/sheet';
import { fieldWithRole } from '../../../core/channels/sheet';
import { changesBetween, type Due, toPut } from '../../../core/ledger/ledger';
import type { submissionEntry } from '../../db/schema';
import { transportOf } from '../../transports';
import { quickFields } from '../../transports/quickFields';
import { type DueListing, type FeedDue, valuesByField } from '../due';
export type EntryRow = typeof submissionEntry.$inferInsert;

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
function leadsFor(
  requested: readonly DueListing[],
  listings: readonly DueListing[],
  sheet: Sheet,
): DueListing[] {
  if (sheet.delivery.families !== 'leads') return [];
  const at = sheet.fields.findIndex(({ role }) => role === 'group');
  const groupOf = ({ out }: DueListing) => asText(out?.values[at]);
  const groups = new Set(requested.filter(({ out }) => out?.relation === 'member').map(groupOf));
  const mine = new Set(requested);
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
export function chosen(
  { listings, sheet }: FeedDue,
  what: SendWhat,
): { whole: boolean; taken: DueListing[] } {
  if (what === 'asDrafts' || what === 'drafts') {
    const requested = listings.filter(({ due }) => (what === 'drafts' ? due === 'drafted' : toPut.has(due)));
    return { whole: false, taken: [...leadsFor(requested, listings, sheet), ...requested] };
  }
  if (what === 'quick') return { whole: false, taken: listings.filter(changedIn(sheet, quickFields(sheet))) };
  const only = typeof what === 'object' ? new Set(what.only) : undefined;
  const wanted = ({ sku, due, out }: DueListing) =>
    only
      ? only.has(sku) && due !== 'waiting' && (out !== undefined || due === 'withdraw')
      : toPut.has(due) ||
        due === 'withdraw' ||
        (what === 'everything' && (due === 'unchanged' || due === 'refused' || due === 'drafted'));
  const requested = listings.filter(wanted);
  const due = [...leadsFor(requested, listings, sheet), ...requested];
  const { delivery } = sheet;
  const complete =
    transportOf(sheet)?.whole === true ||
    delivery.partial === 'no' ||
    (delivery.removal === 'absence' && due.some((one) => one.due === 'withdraw'));
  if (!complete || due.length === 0) return { whole: complete, taken: due };
  // The last file counts, so it holds all that is to stay: the unchanged, and the blocked with what the channel has.
  const mine = new Set(due);
  return {
    whole: complete,
    taken: listings.flatMap((one): DueListing[] => {
      if (mine.has(one) || one.due === 'unchanged' || one.due === 'refused' || one.due === 'left')
        return [one];
      // What is not meant to change now stays as the channel has it.
      return one.kept?.held && one.values ? [{ ...one, due: 'left' }] : [];
    }),
  };
}

/** What a submission takes along without listings that are held for review: of these a whole file keeps what the channel has. */
export const withoutDoubtful = (
  { whole, taken }: ReturnType<typeof chosen>,
  doubtful: ReadonlySet<string>,
): ReturnType<typeof chosen> => ({
  whole,
  taken: taken.flatMap((one): DueListing[] => {
    if (!doubtful.has(one.sku)) return [one];
    return whole && one.kept?.held && one.values ? [{ ...one, due: 'left' }] : [];
  }),
});

export type Entry = Omit<EntryRow, 'submissionId'>;

/** Entries in the order in which they leave. Each is made when it is asked for: all of them may be a whole catalog with its values. */
export interface Entries {
  readonly length: number;
  at(place: number): Entry;
}

/**
 * The entries of a submission, cut into batches.
 * @param allOfEach nothing goes with only some of its fields
 */
export function entriesOf(
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
export const partOf = (entries: Entries, from: number, most: number): Entry[] =>
  Array.from({ length: Math.max(0, Math.min(most, entries.length - from)) }, (_, n) => entries.at(from + n));

/** What would leave of all that is due, in its order, but for what goes by itself; nothing where nothing is due. */
export function wouldLeave(due: FeedDue): Entry[] {
  const { whole, taken } = chosen(due, 'due');
  const entries = entriesOf(due, taken, whole);
  return partOf(entries, 0, entries.length).filter(({ quick }) => !quick);
}

/** What goes along in a file that holds all, and changes nothing. */
export const still: ReadonlySet<Due> = new Set(['unchanged', 'left']);

/** Whether a listing is to be put or taken back, and not only along in a file that holds all. */
export const isDue = ({ due }: DueListing): boolean => toPut.has(due) || due === 'withdraw';

export const movingOf = (taken: readonly DueListing[]): number =>
  taken.filter(({ due }) => !still.has(due)).length;
