import { readIdentifier } from '../../identifiers/gtin';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, reader } from '../item';

interface Facts {
  cartonGtin: { found: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const field = context.sheet.fields.find(({ role }) => role === 'gtin')?.code;
  if (field === undefined) return [];
  const read = reader(context, 'gtin');
  return [
    onItem(field, (row, report) => {
      const found = read(row);
      // 14 digits of which the first tells a level of packing; 9 is for goods of variable measure.
      if (/^[1-8]\d{13}$/.test(found) && readIdentifier(found).normal !== '')
        report('cartonGtin', 'risk', field, { found });
    }),
  ];
}

/** A GTIN-14 with an indicator of 1 to 8 names a carton of the item, not the item. */
export const cartonGtin: CheckModule<Facts> = {
  issues: {
    cartonGtin: {
      about: 'A GTIN of a carton instead of the single item.',
      severity: ['risk'],
      on: 'GTINs',
      source: 'GS1 General Specifications, section 2.1.7 (indicator digits)',
      example: { found: '19520000030158' },
      title: (label) => `${label} is a carton’s`,
      words: ({ found }, label) => `${label} ${found} is the GTIN of a carton; enter that of the single item`,
    },
  },
  onListing,
};
