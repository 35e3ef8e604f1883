import { plural } from '../formatting/formatting';
import type { Due, LedgerEntry } from './ledger';
import type { Alarm, Doubt, Limits } from './review';

const share = (count: number, of: number): string => `${Math.round((count / of) * 100)} %`;

/** Why listings are held for review by themselves. @param doubts by SKU */
export function reviewReasonText(
  doubts: ReadonlyMap<string, Doubt>,
  limits: Pick<Limits, 'price'>,
): string[] {
  const reasons = {
    prices: `the price changes by more than ${limits.price} %`,
    fixed: 'the listing’s ID at the channel changes',
  };
  return (['prices', 'fixed'] as const).flatMap((doubt) => {
    const skus = [...doubts].flatMap(([sku, one]) => (one === doubt ? [sku] : []));
    const more = skus.length > 3 ? ` and ${skus.length - 3} more` : '';
    return skus.length === 0 ? [] : [`${reasons[doubt]}: ${skus.slice(0, 3).join(', ')}${more}`];
  });
}

/** Why a submission is held back, in a sentence. */
export function alarmText(alarm: Alarm): string {
  const { count, limit } = alarm;
  switch (alarm.alarm) {
    case 'vanish':
      return `${count} of ${alarm.of} listings would be withdrawn (${share(count, alarm.of)}); the feed’s limit is ${limit} %`;
    case 'prices':
      return `${count} ${plural(count, 'price changes', 'prices change')} by more than ${limit} %`;
    case 'moved':
      return `${count} of ${alarm.of} listings change their category (${share(count, alarm.of)}); the feed’s limit is ${limit} %`;
    case 'fixed':
      return `${count} ${plural(count, 'listing changes its', 'listings change their')} ID at the channel, such as ${alarm.example}`;
    case 'titles':
      return `${count} of ${alarm.of} titles change (${share(count, alarm.of)}); the feed’s limit is ${limit} %`;
  }
}

/** What is to be done about a listing, in a word or two. */
export const dueText: Readonly<Record<Due, string>> = {
  new: 'new',
  changed: 'changed',
  again: 'no result',
  mended: 'corrected',
  renew: 'renewed',
  drafted: 'saved as a draft',
  withdraw: 'withdrawn',
  waiting: 'waiting for the channel',
  refused: 'rejected',
  left: 'unchanged',
  unchanged: 'unchanged',
  none: 'not there',
};

/** How a listing stands with its channel, in a word or two. */
export function ledgerStateText({
  held,
  pending,
  refused,
  unsure,
  inReview,
  withdrawn,
  draft,
  problems,
}: LedgerEntry): string {
  if (inReview) return 'in review';
  if (pending) return pending.removal ? 'being withdrawn' : 'waiting for the channel';
  if (unsure) return 'no result';
  if (refused) return held ? 'rejected; an earlier version is live' : 'rejected';
  if (draft) return held ? 'accepted; a newer draft is there' : 'saved as a draft';
  if (held) return problems.length > 0 ? 'accepted with warnings' : 'accepted';
  return withdrawn ? 'withdrawn' : 'not sent';
}
