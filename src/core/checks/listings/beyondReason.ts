import { formatDay, formatNumber } from '../../formatting/formatting';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, reader } from '../item';

interface Facts {
  beyondReason: { found: string; what: 'stock' | 'date' };
}

/** More pieces than a warehouse of a shop holds: a stand-in for “enough”. */
const MAX_PIECES = 999_999;
/** In years from today: a later date is a typing error. */
const MAX_AHEAD = 3;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const field = context.sheet.fields.find(({ role }) => role === 'availability')?.code;
  if (field === undefined) return [];
  const [level, from] = [reader(context, 'inventoryLevel'), reader(context, 'availabilityStarts')];
  const { day } = context;
  const latest = day === undefined ? undefined : `${Number(day.slice(0, 4)) + MAX_AHEAD}${day.slice(4)}`;
  return [
    onItem(field, (row, report) => {
      const pieces = level(row);
      if (pieces !== '' && Number(pieces) >= MAX_PIECES)
        report('beyondReason', 'risk', field, { found: pieces, what: 'stock' });
      const date = from(row).slice(0, 10);
      if (latest !== undefined && /^\d{4}-/.test(date) && date > latest)
        report('beyondReason', 'risk', field, { found: date, what: 'date' });
    }),
  ];
}

/** A stock or a day that nobody means. */
export const beyondReason: CheckModule<Facts> = {
  issues: {
    beyondReason: {
      about: 'A stock of a million pieces, or an availability years ahead.',
      severity: ['risk'],
      on: 'availability',
      example: { found: '999999', what: 'stock' },
      title: (label) => `${label} is beyond reason`,
      words: ({ found, what }, label) =>
        what === 'stock'
          ? `${label}: a stock of ${formatNumber(Number(found))} pieces`
          : `${label}: available only from ${formatDay(found)}`,
    },
  },
  onListing,
};
