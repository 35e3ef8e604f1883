import { randomUUID } from 'node:crypto';
import { merchantNeedsIn } from '../../../core/channels/sheet';
import { reviewReasonText } from '../../../core/ledger/messages';
import type { Alarm, Doubt } from '../../../core/ledger/review';

import { BATCH_ROWS } from '../../ledger/ledger';
import { procedure } from '../../rpc/rpc';
import { alarmsOn, changedListings, dueOn, listingsForReview } from '../due';
import {
  chosen,
  type Entries,
  type Entry,
  entriesOf,
  isDue,
  movingOf,
  partOf,
  type SendWhat,
  withoutDoubtful,
} from './choosing';

/** Submissions that are being written down, where the catalog is: what they take along is asked for a part at a time. */
const beingWritten = new Map<string, Entries>();

/** So many at once; one that is forgotten is planned anew. */
const MAX_BEING_WRITTEN = 8;

/** Entries that are handed over at once. */
const partSize = 4 * BATCH_ROWS;

export const partOfPlanned = procedure(
  'submissionPart',
  async (_feed: string, key: string, from: number): Promise<Entry[] | undefined> => {
    const entries = beingWritten.get(key);
    return entries && partOf(entries, from, partSize);
  },
);

/** Keeps entries until they have been written down, where the catalog is. */
export function toBeWritten(entries: Entries): Pick<Planned, 'key' | 'total'> {
  const key = randomUUID();
  beingWritten.set(key, entries);
  for (const [oldest] of beingWritten) {
    if (beingWritten.size <= MAX_BEING_WRITTEN) break;
    beingWritten.delete(oldest);
  }
  return { key, total: entries.length };
}

export const forgetPlanned = procedure(
  'forgetSubmissionPlan',
  async (_feed: string, key: string): Promise<boolean> => beingWritten.delete(key),
);

/** What a submission would take along, computed where the catalog is; says why where there is nothing to take. */
export const planSubmission = procedure(
  'submissionPlan',
  async (code: string, what: SendWhat, testing: boolean) => {
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
    const forReview = {
      count: doubts.size,
      reasons: reviewReasonText(doubts, due.limits),
      skus: [...doubts.keys()],
    };
    const { whole, taken } = withoutDoubtful(all, new Set(forReview.skus));
    // A file that holds all takes rejected listings along; by themselves they are no reason to send it.
    const dueCount = what === 'due' || what === 'quick' ? taken.filter(isDue).length : movingOf(taken);
    if (doubts.size > 0 && dueCount === 0) return { held: forReview };
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
      held: forReview,
      moving: movingOf(taken),
    };
  },
);

export interface Planned {
  /** Whether what is sent stands for all that the channel is to have. */
  readonly whole: boolean;
  readonly version: number;
  readonly alarms: readonly Alarm[];
  /** By which its entries are asked for; how many there are, and how many of them change something. */
  readonly key: string;
  readonly total: number;
  readonly moving: number;
}
