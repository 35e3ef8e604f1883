import type { CheckContext, ListingCheck } from './check';
import { atFieldsOf, reader } from './item';

/** The least that can be ordered is more than the most. */
export function orders(context: CheckContext): ListingCheck[] {
  const [least, most] = [reader(context, 'minimumOrder'), reader(context, 'maximumOrder')];
  if (context.slotOf('minimumOrder') === undefined || context.slotOf('maximumOrder') === undefined) return [];
  return atFieldsOf(
    context,
    'minimumOrder',
    (row, report, field) => {
      const [from, to] = [Number(least(row)), Number(most(row))];
      if (from > 0 && to > 0 && from > to)
        report('orders', 'risk', field, { least: least(row), most: most(row) });
    },
    ['maximumOrder', 'inventoryLevel', 'price'],
  );
}
