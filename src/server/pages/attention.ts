import { and, count, eq, inArray, isNotNull, max, sql } from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import { counted } from '../../core/formatting/formatting';
import { currentSnapshot } from '../catalog/snapshot';
import { db } from '../db/connection';
import { ledger, submission } from '../db/schema';
import { type FeedHead, feedPlans } from '../plans/drafts';
import { EvaluatorUnavailable, procedure } from '../rpc/rpc';
import { memoFor } from '../runtime/memo';
import { isLive } from '../transports/environment';

/** One kind of thing that needs a person, and where it waits. */
export interface AttentionLine {
  readonly kind: 'rejected' | 'held' | 'failed' | 'expiring' | 'lowStock';
  /** “7 listings rejected”. */
  readonly label: string;
  readonly places: readonly { readonly name: string; readonly count: number; readonly href: string }[];
}

/** From this many pieces down a stock is low; nothing is out of stock yet. */
const LOW_STOCK = 3;
/** Days before it ends that a proof is named. */
const EXPIRY_DAYS = 30;

/** Items with some pieces left, but few. */
const lowStockCount = procedure('lowStockCount', async (): Promise<number> => {
  const snapshot = await currentSnapshot();
  return memoFor(snapshot, 'low stock', () => {
    const slot = snapshot.index.slotOf('inventoryLevel') ?? -1;
    let found = 0;
    for (const row of snapshot.rows) {
      const level = Number(asText(row[slot]) || Number.NaN);
      if (level > 0 && level <= LOW_STOCK) found++;
    }
    return found;
  });
});

/** What needs a person now: rejected, held for review, failed, expiring, low stock. A kind with nothing to do has no line. */
export async function attentionLines(
  feeds: readonly { readonly head: FeedHead; readonly name: string }[],
  today = new Date(),
): Promise<AttentionLine[]> {
  const [rejected, held, failed, plans, low] = await Promise.all([
    db
      .select({ feed: ledger.feed, count: count() })
      .from(ledger)
      .where(isNotNull(ledger.rejectedDigest))
      .groupBy(ledger.feed),
    db
      .select({ feed: submission.feed, count: sql<number>`sum(${submission.total})` })
      .from(submission)
      .where(and(eq(submission.state, 'held'), isLive))
      .groupBy(submission.feed),
    // One row a feed: the last of its submissions, where it failed.
    db
      .select({ feed: submission.feed, count: sql<number>`1` })
      .from(submission)
      .where(
        and(
          eq(submission.state, 'failed'),
          inArray(
            submission.id,
            db
              .select({ id: max(submission.id) })
              .from(submission)
              .where(isLive)
              .groupBy(submission.feed),
          ),
        ),
      ),
    Promise.all(feeds.map(async ({ head }) => ({ feed: head.code, plans: await feedPlans(head.code) }))),
    lowStockCount().catch((error: unknown) => {
      // The page is there without the evaluator; this line comes back with it.
      if (error instanceof EvaluatorUnavailable) return 0;
      throw error;
    }),
  ]);
  const last = new Date(today.getTime() + EXPIRY_DAYS * 86_400_000).toISOString().slice(0, 10);
  const expiring = plans.map(({ feed, plans }) => ({
    feed,
    count: Object.values(plans?.draft.proofs ?? {}).filter(
      ({ until }) => until !== undefined && until <= last,
    ).length,
  }));
  const line = (
    kind: AttentionLine['kind'],
    one: string,
    other: string,
    found: readonly { readonly feed: string; readonly count: number }[],
    page: string,
  ): AttentionLine[] => {
    const places = feeds.flatMap(({ head, name }) => {
      const own = Number(found.find(({ feed }) => feed === head.code)?.count ?? 0);
      return own > 0 ? [{ name, count: own, href: `/feeds/${head.code}/${page}` }] : [];
    });
    const total = places.reduce((sum, place) => sum + place.count, 0);
    return total === 0 ? [] : [{ kind, label: counted(total, one, other), places }];
  };
  return [
    ...line('rejected', 'listing rejected', 'listings rejected', rejected, 'send'),
    ...line('held', 'listing held for review', 'listings held for review', held, 'send'),
    ...line('failed', 'feed whose last sending failed', 'feeds whose last sending failed', failed, 'send'),
    ...line('expiring', 'document expires soon', 'documents expire soon', expiring, 'settings'),
    ...(low === 0
      ? []
      : [
          {
            kind: 'lowStock' as const,
            label: counted(low, 'item is low on stock', 'items are low on stock'),
            places: [
              {
                name: `${LOW_STOCK} pieces or fewer`,
                count: low,
                href: '/items?columns=sku,name,inventoryLevel&sort=inventoryLevel',
              },
            ],
          },
        ]),
  ];
}
