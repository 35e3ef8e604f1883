import { and, eq, lt, max, type SQL } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { asText, type Value } from '../../core/catalog/value';
import { fieldWithRole, type Sheet } from '../../core/channels/sheet';
import { type Outgoing, shaped, sheetAsShown } from '../../core/ledger/families';
import {
  changesBetween,
  type Due,
  dueOf,
  emptyEntry,
  type LedgerEntry,
  type OfBlocked,
  toPut,
  type Wanted,
} from '../../core/ledger/ledger';
import {
  type Alarm,
  alarmsOf,
  type ChangedListing,
  type Doubt,
  doubtsOf,
  type Limits,
  type ReviewFields,
} from '../../core/ledger/review';
import { currentSnapshot, variantWordsIn } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { submission } from '../db/schema';
import { digestOf, type Evaluation, evaluationOf } from '../evaluation/evaluation';
import { acceptedValues, ledgerOf } from '../ledger/ledger';
import { valuesDigest } from '../listings/digest';
import { type FeedPlans, feedPlans } from '../plans/drafts';
import { memoPerRequest } from '../rpc/rpc';
import { memoFor, WeakMemo } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import { destinationView } from '../transports/destinations';
import { isLive } from '../transports/environment';

/** One listing of a feed, or the lead of a family, with what is to be done about it. */
export interface DueListing {
  readonly sku: string;
  readonly due: Due;
  /** Why it is gone or left, for those that are. */
  readonly reason: 'blocked' | 'leftOut' | 'archived' | undefined;
  /** As it would leave; undefined where it is not ready. */
  readonly out: Outgoing | undefined;
  readonly digest: string | undefined;
  readonly kept: LedgerEntry | undefined;
  /** The values the channel last accepted, where they differ from what is there now. */
  readonly values: Values | undefined;
}

/** All that there is to do on a feed. */
export interface FeedDue {
  readonly plans: FeedPlans;
  readonly sheet: Sheet;
  readonly evaluation: Evaluation;
  readonly listings: readonly DueListing[];
  readonly counts: Readonly<Record<Due, number>>;
  readonly ofBlocked: OfBlocked;
  readonly limits: Limits;
}

/** Values by the codes of their fields. */
export function valuesByField(sheet: Sheet, values: readonly (Value | undefined)[]): Values {
  const found: Record<string, Value> = {};
  for (const [at, { code }] of sheet.fields.entries()) {
    const value = values[at];
    if (value !== undefined) found[code] = value;
  }
  return found;
}

/** Of what the channel's values are looked at: what changes, goes, or stays as it was. */
const wantsValues: ReadonlySet<Due> = new Set([...toPut, 'withdraw', 'left']);

interface OutgoingListings {
  readonly outgoing: readonly Outgoing[];
  readonly digests: readonly string[];
}

/** What would leave of an evaluation, families as the sheet shows them. */
const outgoingOf = (evaluation: Evaluation): Promise<OutgoingListings> =>
  memoFor(evaluation, 'outgoing listings', () => findOutgoing(evaluation));

async function findOutgoing(evaluation: Evaluation): Promise<OutgoingListings> {
  const { listings, compiled } = evaluation;
  // Digests of values are made once for each listing, as long as it is the same one.
  await inSlices(listings.settling());
  const ready = listings.whole((state) => state === 'ready');
  const byHand = new Map(ready.map((one) => [one.values, one]));
  const outgoing = shaped(
    sheetAsShown(compiled.sheet, compiled.plan.families),
    ready,
    new Set(listings.skus()),
    variantWordsIn(evaluation.snapshot),
  );
  const { sheet } = compiled;
  const group = fieldWithRole(sheet, 'group');
  const groupAt = group && sheet.delivery.families === 'leads' ? sheet.fields.indexOf(group) : -1;
  const digests = outgoing.map(({ values, relation }) => {
    // A variant without siblings left is a single listing now, although no value of it changed.
    if (groupAt >= 0 && relation === undefined && asText(values[groupAt]) !== '')
      return valuesDigest([...values, 'alone']);
    const listing = byHand.get(values);
    return listing ? digestOf(listing) : valuesDigest(values);
  });
  return { outgoing, digests };
}

/**
 * What is to be done on a feed: each of its listings held against what the channel has. Undefined where the feed is not
 * published. Found once for a question.
 */
export const dueOn = memoPerRequest(findDue);

/** The last submissions of which listings lapse on the channel, and of which drafts have expired there. */
interface Lapsed {
  readonly held: number;
  readonly draft: number;
}

/** What was found last for an evaluation, and the ledger it was held against. */
const found = new WeakMemo<
  Evaluation,
  { readonly entries: ReadonlyMap<string, LedgerEntry>; readonly lapsed: Lapsed; readonly due: FeedDue }
>('due listings');

/** So much of the time for which a channel keeps listings may pass before they are sent again. */
const renewAt = 0.9;

/** The last submission that was answered so many days ago; 0 where there is none. */
async function answeredBefore(code: string, days: number | undefined, which: SQL): Promise<number> {
  if (days === undefined) return 0;
  const before = new Date(Date.now() - days * 86_400_000);
  const [row] = await db
    .select({ last: max(submission.id) })
    .from(submission)
    .where(and(eq(submission.feed, code), which, lt(submission.answeredAt, before)));
  return row?.last ?? 0;
}

async function findDue(code: string): Promise<FeedDue | undefined> {
  const [plans, snapshot, entries] = await Promise.all([feedPlans(code), currentSnapshot(), ledgerOf(code)]);
  if (!plans?.published) return undefined;
  const channel = await channelOf(plans.head.channel);
  const evaluation = await evaluationOf(plans.published, channel, snapshot);
  const { ofBlocked, limits } = await destinationView(plans.head);
  const known = found.get(evaluation);
  const { keeps, drafts } = channel.sheet.delivery;
  const lapsed: Lapsed = {
    held: await answeredBefore(code, keeps && keeps * renewAt, isLive),
    draft: await answeredBefore(code, drafts?.keeps, eq(submission.cause, 'draft')),
  };
  const asBefore = known?.lapsed.held === lapsed.held && known.lapsed.draft === lapsed.draft;
  if (known?.entries === entries && asBefore && known.due.ofBlocked === ofBlocked)
    return { ...known.due, plans, limits };
  const { outgoing, digests } = await outgoingOf(evaluation);
  const counts: Record<Due, number> = {
    new: 0,
    changed: 0,
    again: 0,
    mended: 0,
    renew: 0,
    drafted: 0,
    withdraw: 0,
    waiting: 0,
    refused: 0,
    left: 0,
    unchanged: 0,
    none: 0,
  };
  const listings: (DueListing & { values: Values | undefined })[] = [];
  const seen = new Set<string>();
  const add = (sku: string, wanted: Wanted, more: Pick<DueListing, 'reason' | 'out'>) => {
    seen.add(sku);
    const stored = entries.get(sku);
    const due = dueOf(stored, wanted, ofBlocked, lapsed);
    counts[due]++;
    if (due === 'none') return;
    listings.push({
      sku,
      due,
      kept: stored,
      values: undefined,
      digest: wanted.state === 'ready' ? wanted.digest : undefined,
      ...more,
    });
  };
  for (const [at, out] of outgoing.entries())
    add(out.sku, { state: 'ready', digest: digests[at] ?? '' }, { out, reason: undefined });
  for (let i = 0; i < evaluation.listings.length; i++) {
    const [sku, state] = [evaluation.listings.skuAt(i), evaluation.listings.stateAt(i)];
    if (!seen.has(sku) && state !== 'ready' && entries.has(sku))
      add(sku, { state: state === 'blocked' ? 'blocked' : 'gone' }, { out: undefined, reason: state });
  }
  for (const sku of entries.keys())
    if (!seen.has(sku)) add(sku, { state: 'gone' }, { out: undefined, reason: 'archived' });
  const differing = listings.filter(({ due, kept }) => kept?.held && wantsValues.has(due));
  const values = await acceptedValues(
    code,
    differing.map(({ sku }) => sku),
  );
  for (const one of differing) one.values = values.get(one.sku);
  const due = { plans, sheet: channel.sheet, evaluation, listings, counts, ofBlocked, limits };
  found.set(evaluation, { entries, lapsed, due });
  return due;
}

/** How many listings would leave. */
export const toSendCount = ({ counts }: FeedDue): number =>
  [...toPut].reduce((sum, due) => sum + counts[due], counts.withdraw);

/** The listings that the channel has and that would change, each with what differs. */
export function changedListings({ listings, sheet }: FeedDue): ChangedListing[] {
  return listings.flatMap(({ sku, due, out, values }) =>
    out && toPut.has(due) && values
      ? [{ sku, changes: changesBetween(values, valuesByField(sheet, out.values)) }]
      : [],
  );
}

function reviewFields({ sheet }: FeedDue): ReviewFields {
  const code = (role: Parameters<typeof fieldWithRole>[1]) => fieldWithRole(sheet, role)?.code;
  return {
    price: code('price'),
    title: code('title'),
    category: code('category'),
    fixed: sheet.fields.flatMap((field) =>
      field.stable || field.role === 'id' || field.role === 'gtin' ? [field.code] : [],
    ),
  };
}

/**
 * The listings that are held for review by themselves, by SKU; with them the rest of their family, where the channel takes
 * families as one.
 */
export function listingsForReview(due: FeedDue, changed = changedListings(due)): ReadonlyMap<string, Doubt> {
  const doubts = new Map(doubtsOf(changed, reviewFields(due), due.limits));
  const { sheet, listings } = due;
  const groupAt = sheet.fields.findIndex(({ role }) => role === 'group');
  if (doubts.size === 0 || sheet.delivery.families === 'singles' || groupAt < 0) return doubts;
  const groupOf = ({ out }: DueListing) => asText(out?.values[groupAt]);
  const groups = new Map<string, Doubt>();
  for (const one of listings) {
    const doubt = doubts.get(one.sku);
    if (doubt && groupOf(one) !== '') groups.set(groupOf(one), doubt);
  }
  for (const one of listings) {
    const doubt = groups.get(groupOf(one));
    if (doubt && toPut.has(one.due)) doubts.set(one.sku, doubts.get(one.sku) ?? doubt);
  }
  return doubts;
}

/** What looks wrong about it before it leaves. */
export function alarmsOn(due: FeedDue, changed = changedListings(due)): Alarm[] {
  return alarmsOf(
    changed,
    {
      has: due.listings.filter(({ kept }) => (kept ?? emptyEntry).held).length,
      withdrawn: due.counts.withdraw,
    },
    reviewFields(due),
    due.limits,
  );
}

/** What a listing is called: its title, else its SKU. */
export function titleOf(sheet: Sheet, sku: string, values: Values | undefined): string {
  const field = fieldWithRole(sheet, 'title')?.code ?? '';
  return asText(values?.[field]) || sku;
}
