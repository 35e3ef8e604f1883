import { asText } from '../catalog/value';
import type { CheckContext, ListingCheck } from './check';
import type { Report } from './issue';

/** A list price so many times the price is a slip, or taken for bait; common practice. */
const farAbove = 5;

/** Prices and stock that contradict each other on the item itself, whatever a feed makes of them. */
export function offer(context: CheckContext): ListingCheck[] {
  const fieldOf = (role: 'price' | 'availability') =>
    context.sheet.fields.find((field) => field.role === role);
  const read = (code: string) => {
    const slot = context.slotOf(code);
    return (row: ListingRow): string => (slot === undefined ? '' : asText(row[slot]));
  };
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
      on(priceField, (row, report) => {
        const asked = Number.parseFloat(price(row));
        if (!(asked > 0)) return;
        const paid = Number.parseFloat(cost(row));
        if (paid > asked) report('underCost', 'risk', priceField, { price: price(row), cost: cost(row) });
        const reduced = Number.parseFloat(sale(row));
        if (reduced >= asked)
          report('salePrice', 'risk', priceField, { reason: 'notBelow', found: sale(row) });
        const [begins, over] = [starts(row), ends(row)];
        if (reduced > 0 && begins !== '' && over !== '' && over < begins)
          report('salePrice', 'risk', priceField, { reason: 'dates', found: `${begins} – ${over}` });
        const full = Number.parseFloat(list(row));
        if (full > 0 && (full <= asked || full > farAbove * asked))
          report('listPrice', 'risk', priceField, { list: list(row), price: price(row), far: full > asked });
      }),
    );
  const stockField = fieldOf('availability')?.code;
  if (stockField !== undefined)
    checks.push(
      on(stockField, (row, report) => {
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

type ListingRow = Parameters<ListingCheck['run']>[0];
type Read = (row: ListingRow) => string;

const on = (field: string, look: (row: ListingRow, report: Report) => void): ListingCheck => ({
  field,
  reads: [],
  readsPlace: false,
  run: (row, _values, report) => look(row, report),
});
