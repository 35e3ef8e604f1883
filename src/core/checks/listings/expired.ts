import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, onItem, type Read, reader } from '../item';

interface Facts {
  over: { found: string; what: 'sowBy' | 'sale' | 'stock' };
}

const isDay = /^\d{4}-\d{2}-\d{2}/;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const { day, sheet } = context;
  if (day === undefined) return [];
  const past = (text: string): boolean => isDay.test(text) && text.slice(0, 10) < day;
  const [sowBy, saleEnds, sale, starts, state] = (
    ['sowBy', 'saleEnds', 'salePrice', 'availabilityStarts', 'availability'] as const
  ).map((code) => reader(context, code)) as [Read, Read, Read, Read, Read];
  const checks: ListingCheck<Facts>[] = [];
  if (context.slotOf('sowBy') !== undefined)
    checks.push(
      ...atFieldsOf<Facts>(context, 'sowBy', (row, report, field) => {
        if (past(sowBy(row))) report('over', 'risk', field, { found: sowBy(row), what: 'sowBy' });
      }),
    );
  const price = sheet.fields.find(({ role }) => role === 'price')?.code;
  if (price !== undefined && context.slotOf('saleEnds') !== undefined)
    checks.push(
      onItem(price, (row, report) => {
        if (sale(row) !== '' && past(saleEnds(row)))
          report('over', 'risk', price, { found: saleEnds(row), what: 'sale' });
      }),
    );
  const stock = sheet.fields.find(({ role }) => role === 'availability')?.code;
  if (stock !== undefined && context.slotOf('availabilityStarts') !== undefined)
    checks.push(
      onItem(stock, (row, report) => {
        if (/^(?:Pre|Back)Order$/.test(state(row)) && past(starts(row)))
          report('over', 'risk', stock, { found: starts(row), what: 'stock' });
      }),
    );
  return checks;
}

/** Days that have passed: what was to be sown by then, a sale that is over, something promised for a day that has been. */
export const expired: CheckModule<Facts> = {
  issues: {
    over: {
      about: 'A date in the past: sow-by date, end of a sale, promised availability.',
      severity: ['risk'],
      on: 'days, prices and availability',
      example: { found: '2026-03-31', what: 'sowBy' },
      title: (label) => `${label}: a date in the past`,
      words: ({ found, what }, label) =>
        what === 'sowBy'
          ? `${label}: ${found} has passed`
          : what === 'sale'
            ? `${label}: the sale ended on ${found}`
            : `${label} is promised for ${found}, which has passed`,
    },
  },
  onListing,
};
