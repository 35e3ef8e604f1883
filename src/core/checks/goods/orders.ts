import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  orders: { least: string; most: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
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

/** The minimum order is above the maximum. */
export const orders: CheckModule<Facts> = {
  issues: {
    orders: {
      about: 'The minimum order is above the maximum.',
      severity: ['risk'],
      on: 'items with bounds of an order',
      example: { least: '6', most: '4' },
      title: () => 'Minimum order above the maximum',
      words: ({ least, most }) => `${least} is the minimum order, ${most} the maximum`,
    },
  },
  onListing,
};
