import { memoizedByText } from '../../text/remembering';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  composition: { found: string; sum: number };
}

/** Shares of a hundredth that rounding may leave over. */
const MAX_OFF = 1;

/**
 * The sum of the shares that a text names as all there is: “60 % cotton, 40 % linen”. Undefined where it names fewer than two, or
 * parts of several things (“shell: 100 % wool, lining: 100 % viscose”).
 */
export function sumOfShares(text: string): number | undefined {
  if (text.length > 300 || text.includes(':')) return undefined;
  const shares = [...text.matchAll(/(\d{1,3}(?:[.,]\d{1,2})?)\s?%/g)].map(([, share]) =>
    Number((share ?? '').replace(',', '.')),
  );
  if (shares.length < 2 || shares.some((share) => share >= 100)) return undefined;
  return Math.round(shares.reduce((sum, share) => sum + share, 0) * 100) / 100;
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const read = reader(context, 'material');
  const sumOf = memoizedByText(sumOfShares);
  return atFieldsOf(context, 'material', (row, report, field) => {
    const found = read(row);
    const sum = found === '' ? undefined : sumOf(found);
    if (sum !== undefined && Math.abs(sum - 100) > MAX_OFF)
      report('composition', 'risk', field, { found, sum });
  });
}

/** The shares of a composition make up the whole: Regulation (EU) 1007/2011 asks for all fibres of a textile. */
export const composition: CheckModule<Facts> = {
  issues: {
    composition: {
      about: 'A composition whose shares do not add up to 100 %.',
      severity: ['risk'],
      on: 'fields with the material',
      source: 'Regulation (EU) 1007/2011',
      example: { found: '60 % cotton, 30 % linen', sum: 90 },
      title: (label) => `${label} does not add up to 100 %`,
      words: ({ found, sum }, label) => `${label} “${found}” adds up to ${sum} %`,
    },
  },
  onListing,
};
