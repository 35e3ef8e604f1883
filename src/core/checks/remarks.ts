import { asText } from '../catalog/value';
import type { CheckContext, ListingCheck } from './check';
import { onItem, reader } from './item';

/** What the rest of the catalog tells of an item: a price far from those of its likes, the brand of others in its name. */
export function remarks(context: CheckContext): ListingCheck[] {
  const { sheet, seen, filledFrom } = context;
  const sku = reader(context, 'sku');
  const price = sheet.fields.find(({ role }) => role === 'price')?.code;
  const title = sheet.fields.find(({ role }) => role === 'title')?.code;
  const [priceSlot, nameSlot] = [context.slotOf('price'), context.slotOf('name')];
  const filling = filledFrom('price').find(({ field }) => field === price);
  const checks: ListingCheck[] = [];
  if (price !== undefined && priceSlot !== undefined && filling)
    checks.push({
      ...onItem(price, (row, report) => {
        if (filling.on && !filling.on(row)) return;
        const found = seen.remarks(sku(row))?.price;
        // It was said of a price that may stand there no more.
        if (found && found.of === asText(row[priceSlot]))
          report('priceOutlier', 'risk', price, { found: found.of, usual: found.usual, alike: found.alike });
      }),
      filling: `price ${filling.key}`,
    });
  if (title !== undefined && nameSlot !== undefined)
    checks.push(
      onItem(title, (row, report) => {
        const found = seen.remarks(sku(row))?.brand;
        if (found && found.of === asText(row[nameSlot]))
          report('otherBrand', 'risk', title, { found: found.found });
      }),
    );
  return checks;
}
