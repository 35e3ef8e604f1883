import { Decimal } from 'decimal.js';
import { sourceCode, waitsForCode } from './item';

/** The attributes of an item under the headings a merchant looks for them. */
export const sections: readonly { readonly name: string; readonly codes: readonly string[] }[] = [
  {
    name: 'Identity',
    codes: ['name', 'brand', 'category', 'gtin', 'mpn', 'itemCondition', 'description', 'highlights'],
  },
  {
    name: 'Price',
    codes: ['price', 'priceCurrency', 'listPrice', 'salePrice', 'saleStarts', 'saleEnds', 'cost'],
  },
  {
    name: 'Stock and delivery',
    codes: [
      'availability',
      'availabilityStarts',
      'inventoryLevel',
      'backOrder',
      'minimumOrder',
      'maximumOrder',
      'digital',
      'deliveryNote',
    ],
  },
  {
    name: 'Weight and size',
    codes: [
      'weight',
      'width',
      'height',
      'depth',
      'diameter',
      'volume',
      'packageWeight',
      'packageWidth',
      'packageHeight',
      'packageDepth',
    ],
  },
  { name: 'Variant axes', codes: ['glaze', 'color', 'size', 'plug', 'pattern', 'bookFormat'] },
  {
    name: 'Rules and safety',
    codes: [
      'countryOfOrigin',
      'customsCode',
      'dangerousGoods',
      'batteries',
      'liquids',
      'ageRange',
      'shelfLife',
      'sowBy',
      'energyClass',
      'warning',
    ],
  },
  { name: 'Shop page', codes: ['url', 'pageTitle', 'pageDescription'] },
  { name: 'Import', codes: [sourceCode, waitsForCode] },
];

/** What an item that is only downloaded has no use for. */
export const onlyPhysical: ReadonlySet<string> = new Set(
  sections
    .find(({ name }) => name === 'Weight and size')
    ?.codes.concat('liquids', 'dangerousGoods', 'batteries'),
);
/** What only an item that is downloaded has. */
export const onlyDigital: ReadonlySet<string> = new Set(['deliveryNote']);

/** Length a page's text is cut at by most result pages; common practice, no source. */
export const pageLimits: Readonly<Record<string, number>> = { pageTitle: 70, pageDescription: 320 };

/** The share of a price that stays when the cost is paid, in per cent with one decimal; undefined without both. */
export function margin(price: string | undefined, cost: string | undefined): string | undefined {
  const plain = /^\d+(\.\d+)?$/;
  if (!price || !cost || !plain.test(price) || !plain.test(cost) || Number(price) === 0) return undefined;
  return new Decimal(price).minus(cost).div(price).mul(100).toFixed(1, Decimal.ROUND_HALF_UP);
}
