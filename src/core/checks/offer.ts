import { compareAmounts } from '../measures/money';
import type { CheckContext, ListingCheck } from './check';
import { onItem, type Read, reader } from './item';

/** A list price so many times the price is a slip, or taken for bait; common practice. */
const farAbove = 5;

/** Prices and stock that contradict each other on the item itself, whatever a feed makes of them. */
export function offer(context: CheckContext): ListingCheck[] {
  const fieldOf = (role: 'price' | 'availability') =>
    context.sheet.fields.find((field) => field.role === role);
  const read = (code: string) => reader(context, code);
  const [price, cost, sale, list, starts, ends] = [
    'price',
    'cost',
    'salePrice',
    'listPrice',
    'saleStarts',
    'saleEnds',
  ].map(read) as [Read, Read, Read, Read, Read, Read];
  const [state, level, from] = ['availability', 'inventoryLevel', 'availabilityStarts'].map(read) as [
    Read,
    Read,
    Read,
  ];
  const checks: ListingCheck[] = [];
  const priceField = fieldOf('price')?.code;
  // A market with another currency has amounts of its own.
  if (priceField !== undefined && context.currency === context.catalogCurrency)
    checks.push(
      onItem(priceField, (row, report) => {
        const asked = Number.parseFloat(price(row));
        if (!(asked > 0)) return;
        const paid = Number.parseFloat(cost(row));
        if (paid > 0 && compareAmounts(cost(row), price(row)) > 0)
          report('underCost', 'risk', priceField, { price: price(row), cost: cost(row) });
        const reduced = Number.parseFloat(sale(row));
        if (reduced >= 0 && compareAmounts(sale(row), price(row)) >= 0)
          report('salePrice', 'risk', priceField, { reason: 'notBelow', found: sale(row) });
        const [begins, over] = [starts(row), ends(row)];
        if (reduced > 0 && begins !== '' && over !== '' && over < begins)
          report('salePrice', 'risk', priceField, { reason: 'dates', found: `${begins} – ${over}` });
        const full = Number.parseFloat(list(row));
        if (
          full > 0 &&
          (compareAmounts(list(row), price(row)) <= 0 || compareAmounts(list(row), price(row), farAbove) > 0)
        )
          report('listPrice', 'risk', priceField, { list: list(row), price: price(row), far: full > asked });
      }),
    );
  const stockField = fieldOf('availability')?.code;
  if (stockField !== undefined)
    checks.push(
      onItem(stockField, (row, report) => {
        const [is, left] = [state(row), level(row)];
        const pieces = left === '' ? undefined : Number(left);
        if (is === 'InStock' && pieces !== undefined && pieces <= 0)
          report('stock', 'risk', stockField, { reason: 'noneLeft', pieces: left });
        if ((is === 'OutOfStock' || is === 'SoldOut') && pieces !== undefined && pieces > 0)
          report('stock', 'risk', stockField, { reason: 'someLeft', pieces: left });
        if ((is === 'PreOrder' || is === 'BackOrder') && from(row) === '')
          report('stock', 'risk', stockField, { reason: 'noDate', pieces: left });
      }),
    );
  return checks;
}
