import { type BlockerIndex, blockerIndexOf } from '../../core/fixes/blockerIndex';
import type { Listings } from '../../core/listing/listings';
import { Memo, memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import type { FeedContext } from './feedContext';

/** The last index of each feed, from which the next one goes on. */
const last = new Memo<BlockerIndex, readonly [Listings]>({ owner: 'last blocker index', maxEntries: 100 });

/** What holds up the listings of a feed's draft, by cause: gathered once for each draft, from the one before it. */
export const blockerCounts = ({
  plans,
  draft: { listings },
}: Pick<FeedContext, 'plans' | 'draft'>): Promise<BlockerIndex> =>
  memoFor(listings, 'blocker index', async () => {
    const { code } = plans.head;
    const known = last.withDependencies(code);
    const from = known && { holding: known.value, of: known.dependencies[0] };
    const index = await inSlices(blockerIndexOf(listings, from));
    last.set(code, index, listings);
    return index;
  });
