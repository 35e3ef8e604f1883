import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  customsCode: { found: string; reason: 'form' | 'chapter' };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const read = reader(context, 'customsCode');
  return atFieldsOf(context, 'customsCode', (row, report, field) => {
    const found = read(row);
    if (found === '') return;
    const digits = found.replace(/[\s.]/g, '');
    if (!/^\d{6}(?:\d{2}|\d{4}|\d{5})?$/.test(digits)) {
      report('customsCode', 'risk', field, { found, reason: 'form' });
      return;
    }
    const chapter = Number(digits.slice(0, 2));
    if (chapter < 1 || chapter > 97 || chapter === 77)
      report('customsCode', 'risk', field, { found, reason: 'chapter' });
  });
}

/**
 * A customs code has 6, 8, 10 or 11 digits, the first two a chapter of the Harmonized System (World Customs Organization):
 * 01 to 97 without 77, which is kept for later.
 */
export const customsCode: CheckModule<Facts> = {
  issues: {
    customsCode: {
      about: 'A customs code in a wrong form or of an unknown chapter.',
      severity: ['risk'],
      on: 'fields with the customs code',
      source: 'WCO Harmonized System',
      example: { found: '7712.00', reason: 'chapter' },
      title: (label) => `${label} is not a customs code`,
      words: ({ found, reason }, label) =>
        reason === 'form'
          ? `${label} “${found}” has not 6, 8, 10 or 11 digits`
          : `${label} “${found}” begins with ${found.replace(/\D/g, '').slice(0, 2)}, which is not a chapter of the Harmonized System`,
    },
  },
  onListing,
};
