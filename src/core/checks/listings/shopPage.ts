import { asText } from '../../catalog/value';
import { readAmount } from '../../measures/money';
import { type PageFacts, type PageProduct, termWords } from '../../shop/page';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { reader } from '../item';

interface Facts {
  shopPage: {
    what: 'price' | 'currency' | 'availability' | 'condition' | 'gtin' | 'gone' | 'moved' | 'silent';
    page: string;
    listing: string;
  };
}

/** Members of schema.org's ItemAvailability by what a shopper can do: buy now, not, or wait. */
const buyable: Readonly<Record<string, 'now' | 'not' | 'later'>> = {
  InStock: 'now',
  LimitedAvailability: 'now',
  OnlineOnly: 'now',
  InStoreOnly: 'now',
  OutOfStock: 'not',
  SoldOut: 'not',
  Discontinued: 'not',
  Reserved: 'not',
  PreOrder: 'later',
  PreSale: 'later',
  BackOrder: 'later',
  MadeToOrder: 'later',
};
const buyableOf = (term: string | undefined) =>
  term !== undefined && Object.hasOwn(buyable, term) ? buyable[term] : undefined;

/** All digits of a GTIN as 14, as GS1 has them compared. */
const padded = (gtin: string): string | undefined =>
  /^\d{8,14}$/.test(gtin) ? gtin.padStart(14, '0') : undefined;

/**
 * The product of a page that an item is: by its number, by its SKU, or as the only one there, unless that names another's: a
 * page of many variants often shows the data of one.
 * @returns undefined where none is surely it
 */
export function productOnPage({ products }: PageFacts, sku: string, gtin: string): PageProduct | undefined {
  const number = padded(gtin);
  const named =
    (number && products.find((one) => one.gtin !== undefined && padded(one.gtin) === number)) ||
    products.find((one) => one.sku === sku);
  if (named) return named;
  const [only, ...others] = products;
  return others.length === 0 && only?.sku === undefined && (only?.gtin === undefined || !number)
    ? only
    : undefined;
}

/** Whether a page asks another price; where it names another currency, that is another thing. */
export const differsInPrice = (stated: PageProduct, amount: string, currency: string | undefined): boolean =>
  stated.price !== undefined &&
  (stated.currency === undefined || stated.currency === currency) &&
  Number(stated.price) !== Number(amount);

/** Whether a shopper can do something else there than an item's availability says: buy now, not, or wait. */
export function differsInAvailability(stated: PageProduct, availability: string): boolean {
  const [there, here] = [buyableOf(stated.availability), buyableOf(availability)];
  return there !== undefined && here !== undefined && there !== here;
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const { sheet, seen, currency, catalogCurrency, slotOf, fieldAt } = context;
  const fieldOf = (role: 'link' | 'price' | 'availability' | 'gtin') =>
    sheet.fields.find((field) => field.role === role)?.code;
  const link = fieldOf('link');
  if (link === undefined || sheet.makesPages || slotOf('url') === undefined) return [];
  const linkAt = fieldAt(link) ?? -1;
  const url = reader(context, 'url');
  const sku = reader(context, 'sku');
  const gtin = reader(context, 'gtin');
  const availability = reader(context, 'availability');
  const condition = reader(context, 'itemCondition');
  type Run = Parameters<ListingCheck<Facts>['run']>;
  /** The page that a listing leads to; undefined where it leads nowhere, or nobody looked. */
  const pageOf = (row: Run[0], values: Run[1]) =>
    values[linkAt] === undefined ? undefined : seen.page(url(row));
  /** A check on what the page says of the product, told at a field of the listing. */
  const ofProduct = (
    field: string | undefined,
    look: (
      stated: PageProduct,
      row: Run[0],
      values: Run[1],
      tell: (facts: Facts['shopPage']) => void,
    ) => void,
  ): ListingCheck<Facts>[] =>
    field === undefined
      ? []
      : [
          {
            field,
            reads: [...new Set([field, link])],
            readsPlace: false,
            run: (row, values, report) => {
              const page = pageOf(row, values);
              const stated = page?.state === 'read' ? productOnPage(page, sku(row), gtin(row)) : undefined;
              if (stated) look(stated, row, values, (facts) => report('shopPage', 'risk', field, facts));
            },
          },
        ];
  const price = fieldOf('price');
  const priceAt = price === undefined ? -1 : (fieldAt(price) ?? -1);
  return [
    {
      field: link,
      reads: [link],
      readsPlace: false,
      run: (row, values, report) => {
        const { state, words = '' } = pageOf(row, values) ?? {};
        if (state === 'gone' || state === 'silent' || state === 'moved')
          report('shopPage', 'risk', link, { what: state, page: words, listing: url(row) });
      },
    },
    ...ofProduct(link, (stated, row, _values, tell) => {
      const own = condition(row);
      if (stated.condition !== undefined && own !== '' && stated.condition !== own)
        tell({ what: 'condition', page: stated.condition, listing: own });
    }),
    // A market with another currency is shown other pages.
    ...ofProduct(currency === catalogCurrency ? price : undefined, (stated, _row, values, tell) => {
      const own = readAmount(asText(values[priceAt]), currency);
      if (!own || stated.price === undefined) return;
      const page = `${stated.price} ${stated.currency ?? currency}`;
      if (stated.currency !== undefined && stated.currency !== currency)
        tell({ what: 'currency', page, listing: currency });
      else if (differsInPrice(stated, own.amount, currency))
        tell({ what: 'price', page, listing: `${own.amount} ${currency}` });
    }),
    ...ofProduct(fieldOf('availability'), (stated, row, _values, tell) => {
      if (differsInAvailability(stated, availability(row)))
        tell({ what: 'availability', page: stated.availability ?? '', listing: availability(row) });
    }),
    ...ofProduct(fieldOf('gtin'), (stated, row, _values, tell) => {
      const [there, here] = [stated.gtin && padded(stated.gtin), padded(gtin(row))];
      if (there && here && there !== here)
        tell({ what: 'gtin', page: stated.gtin ?? '', listing: gtin(row) });
    }),
  ];
}

/**
 * What the shop's own page says, where a listing leads there: shoppers who follow it must find the price they were shown, and
 * channels that look do not take what differs.
 */
export const shopPage: CheckModule<Facts> = {
  issues: {
    shopPage: {
      about:
        'The shop’s page shows another price, availability, condition or GTIN, has moved, or is missing.',
      severity: ['risk'],
      on: 'listings that lead to the shop',
      source: 'schema.org; Open Graph protocol',
      example: { what: 'price', page: '19.90 EUR', listing: '18.90 EUR' },
      title: (label) => `${label}: differs from the shop’s page`,
      words: ({ what, page, listing }, label) =>
        what === 'gone'
          ? `${label}: there is no page at ${listing}`
          : what === 'moved'
            ? `${label}: the page has moved to ${page}`
            : what === 'silent'
              ? `${label}: the page has no product data that a channel can read`
              : what === 'currency'
                ? `${label}: the shop’s page shows ${page}, not ${listing}`
                : what === 'availability' || what === 'condition'
                  ? `${label}: the shop’s page shows ${termWords(page)}, the item ${termWords(listing)}`
                  : `${label}: the shop’s page shows ${page}, the listing ${listing}`,
    },
  },
  onListing,
};
