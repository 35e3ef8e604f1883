import { fold, foldAlike } from '../text/folding';
import type { CheckContext, ListingCheck } from './check';
import { onItem, reader } from './item';

/** The maker's part number is the merchant's own SKU: right only where the merchant is the maker. */
export function ownCode(context: CheckContext): ListingCheck[] {
  const field = context.sheet.fields.find(({ role }) => role === 'mpn')?.code;
  if (field === undefined) return [];
  const [sku, part, brand] = [reader(context, 'sku'), reader(context, 'mpn'), reader(context, 'brand')];
  const merchant = ` ${fold(context.merchant ?? '')} `;
  return [
    onItem(field, (row, report) => {
      const found = part(row);
      if (found === '' || !foldAlike(found, sku(row))) return;
      const maker = fold(brand(row));
      if (maker !== '' && merchant.includes(` ${maker} `)) return;
      report('ownCode', 'risk', field, { found });
    }),
  ];
}
