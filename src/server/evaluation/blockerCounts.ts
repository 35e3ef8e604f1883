import { type Holding, holdingOf } from '../../core/fixes/blockerIndex';
import type { Listings } from '../../core/listing/listings';
import { keptFor } from '../rpc/memo';
import { inSlices } from '../runtime/timeBudget';
import type { FeedWork } from './feedContext';

/** What was gathered last of each feed, as long as anybody has its listings. */
const last = new Map<string, { readonly listings: WeakRef<Listings>; readonly holding: Holding }>();

/** What holds up the listings of a feed's draft, by cause: gathered once for each draft, from the one before it. */
export const holdingIn = ({
  plans,
  draft: { listings },
}: Pick<FeedWork, 'plans' | 'draft'>): Promise<Holding> =>
  keptFor(listings, 'held by cause', async () => {
    const { code } = plans.head;
    const known = last.get(code);
    const before = known?.listings.deref();
    const from = known && before ? { holding: known.holding, of: before } : undefined;
    const holding = await inSlices(holdingOf(listings, from));
    last.set(code, { listings: new WeakRef(listings), holding });
    return holding;
  });
