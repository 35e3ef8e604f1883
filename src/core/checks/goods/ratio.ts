import { asText } from '../../catalog/value';
import { compareAmounts } from '../../measures/money';
import { type CheckContext, type CheckModule, type ListingCheck, readsOf } from '../check';

interface Facts {
  ratio: { ratio: number; words: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  return context.sheet.demands.flatMap((demand): ListingCheck<Facts>[] => {
    if (demand.demand !== 'ratio') return [];
    const [over, under] = [context.fieldAt(demand.field), context.fieldAt(demand.to)];
    if (over === undefined || under === undefined) return [];
    const here = demand.when ? context.predicate(demand.when) : undefined;
    const { reads, readsPlace } = readsOf(demand.when);
    return [
      {
        field: demand.field,
        reads: [demand.field, demand.to, ...reads],
        readsPlace,
        run: (row, values, report) => {
          const [one, other] = [asText(values[over]), asText(values[under])];
          const [a, b] = [Number.parseFloat(one), Number.parseFloat(other)];
          if (!(a >= 0) || !(b > 0)) return;
          const ratio = a / b;
          const fits =
            (demand.most === undefined || compareAmounts(one, other, demand.most) <= 0) &&
            (demand.least === undefined || compareAmounts(one, other, demand.least) >= 0);
          if (!fits && (here === undefined || here(row, values)))
            report('ratio', demand.severity, demand.field, { ratio, words: demand.words });
        },
      },
    ];
  });
}

/** Numbers of two fields that stand in a ratio to each other, e.g. a list price that makes the price look like a trick. */
export const ratio: CheckModule<Facts> = {
  issues: {
    ratio: {
      about: 'A ratio of two numbers outside the limits of the sheet.',
      severity: 'the sheet’s',
      on: 'pairs of numbers',
      example: { ratio: 0.3, words: 'The price per litre does not fit the volume' },
      title: (label) => `${label} out of proportion`,
      words: ({ ratio, words }) => `${words} (it is ${ratio.toFixed(2)} times)`,
    },
  },
  onListing,
};
