import { compareAmounts } from '../../measures/money';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, type Read, reader } from '../item';

interface Facts {
  underCost: { price: string; cost: string };
  salePrice: { reason: 'notBelow' | 'dates'; found: string };
  listPrice: { list: string; price: string; far: boolean };
  stock: { reason: 'noneLeft' | 'someLeft' | 'noDate'; pieces: string };
}

/** A list price so many times the price is a slip, or taken for bait; common practice. */
const farAbove = 5;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
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
  const checks: ListingCheck<Facts>[] = [];
  const priceField = fieldOf('price')?.code;
  // A market with another currency has amounts of its own.
  if (priceField !== undefined && context.currency === context.catalogCurrency)
    checks.push(
      onItem(priceField, (row, report) => {
        const requested = Number.parseFloat(price(row));
        if (!(requested > 0)) return;
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
          report('listPrice', 'risk', priceField, {
            list: list(row),
            price: price(row),
            far: full > requested,
          });
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

/** Prices and stock that contradict each other on the item itself, whatever a feed makes of them. */
export const priceAndStock: CheckModule<Facts> = {
  issues: {
    underCost: {
      about: 'A price below the cost of the item.',
      severity: ['risk'],
      on: 'prices',
      example: { price: '9.00', cost: '11.20' },
      title: (label) => `${label} is below cost`,
      words: ({ price, cost }, label) => `${label} ${price} is below the cost of the item, ${cost}`,
    },
    salePrice: {
      about: 'A sale price that is not lower, or a sale that ends before it starts.',
      severity: ['risk'],
      on: 'prices',
      example: { reason: 'notBelow', found: '24.90' },
      title: (label) => `${label}: sale price or dates are wrong`,
      words: ({ reason, found }, label) =>
        reason === 'dates'
          ? `${label}: the sale ends before it starts, ${found}`
          : `${label}: the sale price ${found} is not below the price`,
    },
    listPrice: {
      about: 'A list price that is not above the price, or many times it.',
      severity: ['risk'],
      on: 'prices',
      example: { list: '19.00', price: '24.90', far: false },
      title: (label) => `${label}: the list price is wrong`,
      words: ({ list, price, far }, label) =>
        far
          ? `${label}: the list price ${list} is many times ${price}`
          : `${label}: the list price ${list} is not above ${price}`,
    },
    stock: {
      about: 'Availability contradicts the stock, or a later delivery has no date.',
      severity: ['risk'],
      on: 'availability',
      source: 'schema.org ItemAvailability',
      example: { reason: 'noneLeft', pieces: '0' },
      title: (label) => `${label} contradicts the stock`,
      words: ({ reason, pieces }, label) =>
        reason === 'noneLeft'
          ? `${label} is in stock, but the stock is ${pieces}`
          : reason === 'someLeft'
            ? `${label} is out of stock, but the stock is ${pieces}`
            : `${label} promises later delivery without a date`,
    },
  },
  onListing,
};
