import { asText } from '../../catalog/value';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, reader } from '../item';

interface Facts {
  priceOutlier: { found: string; usual: string; alike: number };
  otherBrand: { found: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const { sheet, seen, filledFrom } = context;
  const sku = reader(context, 'sku');
  const price = sheet.fields.find(({ role }) => role === 'price')?.code;
  const title = sheet.fields.find(({ role }) => role === 'title')?.code;
  const [priceSlot, nameSlot] = [context.slotOf('price'), context.slotOf('name')];
  const filling = filledFrom('price').find(({ field }) => field === price);
  const checks: ListingCheck<Facts>[] = [];
  if (price !== undefined && priceSlot !== undefined && filling)
    checks.push({
      ...onItem(price, (row, report) => {
        if (filling.on && !filling.on(row)) return;
        const found = seen.hints(sku(row))?.price;
        // It was said of a price that may stand there no more.
        if (found && found.of === asText(row[priceSlot]))
          report('priceOutlier', 'risk', price, { found: found.of, usual: found.usual, alike: found.alike });
      }),
      filling: `price ${filling.key}`,
    });
  if (title !== undefined && nameSlot !== undefined)
    checks.push(
      onItem(title, (row, report) => {
        const found = seen.hints(sku(row))?.brand;
        if (found && found.of === asText(row[nameSlot]))
          report('otherBrand', 'risk', title, { found: found.found });
      }),
    );
  return checks;
}

/** What the rest of the catalog tells of an item: a price far from those of its likes, the brand of others in its name. */
export const catalogHints: CheckModule<Facts> = {
  issues: {
    priceOutlier: {
      about: 'A price far from those of similar items that would match with its decimal point moved.',
      severity: ['risk'],
      on: 'prices with the item’s price as their source',
      example: { found: '189.00', usual: '18.90', alike: 7 },
      title: (label) => `${label} is far from similar items`,
      words: ({ found, usual, alike }, label) =>
        `${label} ${found} is far from the ${usual} usual for ${alike} similar items; check the decimal point`,
    },
    otherBrand: {
      about: 'The name has another item’s brand, not as something it fits.',
      severity: ['risk'],
      on: 'titles',
      example: { found: 'Tarnholt' },
      title: (label) => `${label} names another brand`,
      words: ({ found }, label) => `${label} names “${found}”, the brand of other items`,
    },
  },
  onListing,
};
