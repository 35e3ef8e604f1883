import { foldAlike } from '../../text/folding';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, reader } from '../item';

interface Facts {
  partNumber: { found: string; what: 'brand' | 'gtin' };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const field = context.sheet.fields.find(({ role }) => role === 'mpn')?.code;
  if (field === undefined) return [];
  const [part, brand, gtin] = [reader(context, 'mpn'), reader(context, 'brand'), reader(context, 'gtin')];
  const digits = (text: string) => text.replace(/\D/g, '').replace(/^0+/, '');
  return [
    onItem(field, (row, report) => {
      const found = part(row);
      if (found === '') return;
      if (foldAlike(found, brand(row))) report('partNumber', 'risk', field, { found, what: 'brand' });
      // Eight digits and more: a short number may be a part's and the end of a GTIN by chance.
      else if (/^\d{8,14}$/.test(found) && digits(found) === digits(gtin(row)))
        report('partNumber', 'risk', field, { found, what: 'gtin' });
    }),
  ];
}

/** A part number is the maker's for this item, and neither its brand nor its GTIN. */
export const partNumber: CheckModule<Facts> = {
  issues: {
    partNumber: {
      about: 'The part number is the brand or the GTIN.',
      severity: ['risk'],
      on: 'part numbers',
      example: { found: 'Tarnholt', what: 'brand' },
      title: (label) => `${label} is no part number`,
      words: ({ found, what }, label) => `${label} “${found}” is the ${what === 'brand' ? 'brand' : 'GTIN'}`,
    },
  },
  onListing,
};
