import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onTitle, reader } from '../item';

interface Facts {
  skuInTitle: { found: string };
}

/** Shorter ones, and those without a digit, are words as well. */
const MIN_SKU = 5;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const [sku, part] = [reader(context, 'sku'), reader(context, 'mpn')];
  return onTitle(context, (row, title, report, field) => {
    const found = sku(row);
    // A maker's number helps to find what one looks for.
    if (found.length < MIN_SKU || !/\d/.test(found) || found === part(row)) return;
    const from = title.toLowerCase().indexOf(found.toLowerCase());
    if (from < 0) return;
    const around = `${title[from - 1] ?? ' '}${title[from + found.length] ?? ' '}`;
    // Another check reports a title that is nothing else.
    if (title.trim().length > found.length && !/[\p{L}\p{N}]/u.test(around))
      report('skuInTitle', 'tip', field, { found });
  });
}

/** The merchant's own code in a title: no shopper looks for it. */
export const skuInTitle: CheckModule<Facts> = {
  issues: {
    skuInTitle: {
      about: 'The title has the merchant’s own SKU.',
      severity: ['tip'],
      on: 'titles',
      example: { found: 'QM-POT-RDG-MOS-14' },
      title: (label) => `${label} has your own SKU`,
      words: ({ found }, label) => `${label} has your own SKU “${found}”`,
    },
  },
  onListing,
};
