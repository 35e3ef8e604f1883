import { type BlockerIndex, blockerIndexOf } from '../../core/fixes/blockerIndex';
import type { Listings } from '../../core/listing/listings';
import { memoFor } from '../rpc/memo';
import { inSlices } from '../runtime/timeBudget';
import type { FeedContext } from './feedContext';

/** What was gathered last of each feed, as long as anybody has its listings. */
const last = new Map<string, { readonly listings: WeakRef<Listings>; readonly holding: BlockerIndex }>();

/** What holds up the listings of a feed's draft, by cause: gathered once for each draft, from the one before it. */
export const blockerCounts = ({
  plans,
  draft: { listings },
}: Pick<FeedContext, 'plans' | 'draft'>): Promise<BlockerIndex> =>
  memoFor(listings, 'held by cause', async () => {
    const { code } = plans.head;
    const known = last.get(code);
    const before = known?.listings.deref();
    const from = known && before ? { holding: known.holding, of: before } : undefined;
    const holding = await inSlices(blockerIndexOf(listings, from));
    last.set(code, { listings: new WeakRef(listings), holding });
    return holding;
  });
