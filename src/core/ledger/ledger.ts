import type { Value } from '../catalog/value';
import type { ChannelStatus } from '../conditions/conditions';

/** What a channel said of a listing. */
export interface Problem {
  readonly code: string;
  readonly field: string | null;
  readonly text: string;
}

/**
 * What a channel has of one listing, as far as it has told. Submissions are known by their number; a later one has a
 * greater number.
 */
export interface LedgerEntry {
  /** What it last accepted, and in which submission. */
  readonly held: { readonly digest: string; readonly submission: number } | undefined;
  /** What is on its way: a digest of the values, or a removal. */
  readonly pending:
    | { readonly submission: number; readonly digest: string | undefined; readonly removal: boolean }
    | undefined;
  /** What it last refused. */
  readonly refused: { readonly digest: string | undefined; readonly submission: number } | undefined;
  /** What it keeps as a draft that nobody sees, until it is sent for review. */
  readonly draft: { readonly digest: string; readonly submission: number } | undefined;
  /** What it said last: why it refused, or what it remarked. */
  readonly problems: readonly Problem[];
  /** Whether what was sent last may or may not have arrived: no answer came. */
  readonly unsure: boolean;
  /** Whether it lies with the channel to be looked at by people. */
  readonly inReview: boolean;
  /** Whether it was there and was taken back. */
  readonly withdrawn: boolean;
  /** The channel's own number. */
  readonly number: string | undefined;
}

export const emptyEntry: LedgerEntry = {
  held: undefined,
  pending: undefined,
  refused: undefined,
  draft: undefined,
  problems: [],
  unsure: false,
  inReview: false,
  withdrawn: false,
  number: undefined,
};

/** How a listing stands at the channel, for conditions; what is on its way counts when it is answered. */
export function channelStatusOf(entry: LedgerEntry | undefined): readonly ChannelStatus[] {
  const found: ChannelStatus[] = [];
  if (entry?.held && !entry.withdrawn) found.push('there');
  if (entry?.refused) found.push('refused');
  if (entry?.withdrawn) found.push('back');
  return found.length === 0 ? ['new'] : found;
}

export type LedgerEvent =
  | { readonly event: 'sent'; readonly submission: number; readonly digest: string }
  | { readonly event: 'removalSent'; readonly submission: number }
  | {
      readonly event: 'accepted';
      readonly submission: number;
      readonly problems?: readonly Problem[];
      readonly number?: string | undefined;
    }
  | { readonly event: 'refused'; readonly submission: number; readonly problems: readonly Problem[] }
  | { readonly event: 'inReview'; readonly submission: number; readonly number?: string | undefined }
  | {
      readonly event: 'drafted';
      readonly submission: number;
      readonly problems?: readonly Problem[];
      readonly number?: string | undefined;
    }
  /** It never left: the channel has what it had. */
  | { readonly event: 'failed'; readonly submission: number }
  /** It left, and no answer ever came. */
  | { readonly event: 'lost'; readonly submission: number };

/**
 * The ledger after something happened. An answer that comes after that of a later submission changes nothing; one that comes
 * while a later submission is on its way counts, and the later stays on its way. A failure forgets nothing.
 * @param sent the digest that the answered submission had sent of this listing; undefined where it took it back
 */
export function after(
  entry: LedgerEntry,
  what: LedgerEvent,
  sent?: { digest: string | undefined },
): LedgerEntry {
  switch (what.event) {
    case 'sent':
      return {
        ...entry,
        pending: { submission: what.submission, digest: what.digest, removal: false },
        inReview: false,
      };
    case 'removalSent':
      return { ...entry, pending: { submission: what.submission, digest: undefined, removal: true } };
    default:
      return answered(entry, what, sent);
  }
}

type Answer = Exclude<LedgerEvent, { event: 'sent' | 'removalSent' }>;

function answered(
  entry: LedgerEntry,
  what: Answer,
  sent: { digest: string | undefined } | undefined,
): LedgerEntry {
  const mine = entry.pending?.submission === what.submission ? entry.pending : undefined;
  const digest = mine ? mine.digest : sent?.digest;
  const removal = mine ? mine.removal : sent !== undefined && sent.digest === undefined;
  const latest = Math.max(...[entry.held, entry.refused, entry.draft].map((one) => one?.submission ?? 0));
  if (what.submission < latest) return entry;
  const pending = mine ? undefined : entry.pending;
  const number = ('number' in what ? what.number : undefined) ?? entry.number;
  switch (what.event) {
    case 'accepted':
      return removal
        ? { ...emptyEntry, pending, withdrawn: true, number }
        : {
            ...entry,
            held: digest === undefined ? entry.held : { digest, submission: what.submission },
            pending,
            refused: undefined,
            draft: undefined,
            problems: what.problems ?? [],
            unsure: false,
            inReview: false,
            withdrawn: false,
            number,
          };
    case 'drafted':
      return {
        ...entry,
        pending,
        refused: undefined,
        draft: digest === undefined ? entry.draft : { digest, submission: what.submission },
        problems: what.problems ?? [],
        unsure: false,
        inReview: false,
        withdrawn: false,
        number,
      };
    case 'refused':
      return {
        ...entry,
        pending,
        draft: undefined,
        refused: { digest, submission: what.submission },
        problems: what.problems,
        unsure: false,
        inReview: false,
        number,
      };
    case 'inReview':
      // It waits with the channel, so it is still on its way.
      return { ...entry, inReview: true, draft: undefined, number };
    case 'failed':
      return { ...entry, pending };
    case 'lost':
      return { ...entry, pending, unsure: true, inReview: false };
  }
}

/** How a listing stands in the catalog's view now. */
export type Wanted =
  | { readonly state: 'ready'; readonly digest: string }
  | { readonly state: 'blocked' }
  /** Left out by a rule, a placement or the scope, archived, or no more in the catalog. */
  | { readonly state: 'gone' };

/** What the merchant wants of listings that are blocked now and that the channel has. */
export type OfBlocked = 'leave' | 'withdraw';

/**
 * What is to be done about a listing.
 * - `new`, `changed`, `again` (no answer came, so nobody knows), `mended` (refused before, and changed since), `renew` (would
 *   lapse on the channel): to be sent
 * - `drafted`: saved at the channel as it stands, for a person to send for review
 * - `withdraw`: to be taken back
 * - `waiting`: on its way; it is compared again when the answer is in
 * - `refused`: refused as it stands; sending it again would change nothing
 * - `left`: blocked now, and the channel keeps what it has
 * - `unchanged`, `none`: nothing to do; it is there, or neither side has it
 */
export type Due =
  | 'new'
  | 'changed'
  | 'again'
  | 'mended'
  | 'renew'
  | 'drafted'
  | 'withdraw'
  | 'waiting'
  | 'refused'
  | 'left'
  | 'unchanged'
  | 'none';

/** What is sent where nothing else is said. */
export const toPut: ReadonlySet<Due> = new Set(['new', 'changed', 'again', 'mended', 'renew']);

/**
 * What is to be done about one listing, of what the channel has and what it should have.
 * @param lapsed the last submission of which the channel has taken off what it holds, or soon will, for not having heard of it
 * for so long; and the last of which drafts have expired. 0 where there is none
 */
export function dueOf(
  entry: LedgerEntry | undefined,
  wanted: Wanted,
  ofBlocked: OfBlocked,
  lapsed: { readonly held: number; readonly draft: number } = { held: 0, draft: 0 },
): Due {
  const { held, pending, refused, unsure, draft } = entry ?? emptyEntry;
  if (pending) return 'waiting';
  const drafted = draft !== undefined && draft.submission > lapsed.draft;
  const there = held !== undefined || unsure || drafted;
  if (wanted.state === 'gone') return there ? 'withdraw' : 'none';
  if (wanted.state === 'blocked') return there ? (ofBlocked === 'withdraw' ? 'withdraw' : 'left') : 'none';
  if (unsure) return 'again';
  if (refused?.digest === wanted.digest) return 'refused';
  if (held?.digest === wanted.digest) return held.submission <= lapsed.held ? 'renew' : 'unchanged';
  if (drafted && draft.digest === wanted.digest) return 'drafted';
  // What was refused is the listing, not its being taken back.
  if (refused?.digest !== undefined) return 'mended';
  return held ? 'changed' : 'new';
}

/** One value of a listing that differs between what the channel has and what it will have. */
export interface ValueChange {
  readonly field: string;
  readonly before: Value | undefined;
  readonly after: Value | undefined;
}

/** Every value that differs, by the codes of the fields. */
export function changesBetween(
  before: Readonly<Record<string, Value>>,
  now: Readonly<Record<string, Value>>,
): ValueChange[] {
  const found: ValueChange[] = [];
  for (const field in before)
    if (!sameValue(before[field], now[field]))
      found.push({ field, before: before[field], after: now[field] });
  for (const field in now)
    if (!(field in before)) found.push({ field, before: undefined, after: now[field] });
  return found;
}

/** Whether two values are the same; lists by what they hold, in its order. */
export function sameValue(a: Value | undefined, b: Value | undefined): boolean {
  if (a === b) return true;
  if (typeof a === 'string' || typeof b === 'string' || a === undefined || b === undefined) return false;
  return a.length === b.length && a.every((one, at) => one === b[at]);
}
