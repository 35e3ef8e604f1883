import { foldAlike } from '../../text/folding';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onTitle, reader } from '../item';

interface Facts {
  bareTitle: { found: string; what: 'brand' | 'sku' | 'mpn' | 'gtin' };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const others = (['brand', 'sku', 'mpn', 'gtin'] as const).map(
    (code) => [code, reader(context, code)] as const,
  );
  return onTitle(context, (row, title, report, field) => {
    if (title.length > 60) return;
    for (const [code, read] of others) {
      const other = read(row);
      if (other !== '' && foldAlike(other, title))
        return report('bareTitle', 'risk', field, { found: title, what: code });
    }
  });
}

/** A title that says no more than the brand, or the item's code. */
export const bareTitle: CheckModule<Facts> = {
  issues: {
    bareTitle: {
      about: 'A title of only the brand or a code.',
      severity: ['risk'],
      on: 'titles',
      example: { found: 'Tarnholt', what: 'brand' },
      title: (label) => `${label} has too little content`,
      words: ({ found, what }, label) =>
        `${label} “${found}” is only ${what === 'brand' ? 'the brand' : what === 'sku' ? 'your SKU' : what === 'mpn' ? 'the part number' : 'the barcode'}`,
    },
  },
  onListing,
};
