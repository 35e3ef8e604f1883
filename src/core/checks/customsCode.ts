import type { CheckContext, ListingCheck } from './check';
import { atFieldsOf, reader } from './item';

/**
 * A customs code has 6, 8, 10 or 11 digits, the first two a chapter of the Harmonized System (World Customs Organization):
 * 01 to 97 without 77, which is kept for later.
 */
export function customsCode(context: CheckContext): ListingCheck[] {
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
