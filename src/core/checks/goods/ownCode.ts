import { fold, foldAlike } from '../../text/folding';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, reader } from '../item';

interface Facts {
  ownCode: { found: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
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

/** The maker's part number is the merchant's own SKU: right only where the merchant is the maker. */
export const ownCode: CheckModule<Facts> = {
  issues: {
    ownCode: {
      about: 'The part number is the merchant’s own SKU, although another company makes the item.',
      severity: ['risk'],
      on: 'part numbers',
      example: { found: 'QM-POT-RDG-MOS-14' },
      title: (label) => `${label} is your own SKU`,
      words: ({ found }, label) =>
        `${label} “${found}” is your own SKU; leave it empty if the manufacturer has none`,
    },
  },
  onListing,
};
