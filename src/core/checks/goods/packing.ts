import { convert, readMeasure } from '../../measures/units';
import { memoizedByText } from '../../text/remembering';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  packing: { package: string; item: string; what: 'lighter' | 'smaller' };
}

const base = { weight: 'kg', length: 'm' } as const;

/** Reads measures in a base unit; undefined where a text is none, or of another dimension. */
const amountIn = (unit: string) =>
  memoizedByText((text): number | undefined => {
    if (text === '') return undefined;
    const measure = readMeasure(text);
    const amount = measure && convert(measure, unit);
    return amount === undefined ? undefined : Number(amount);
  });

const sides = ['width', 'height', 'depth'] as const;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  if (context.slotOf('packageWeight') === undefined && context.slotOf('packageWidth') === undefined)
    return [];
  const [weightOf, lengthOf] = [amountIn(base.weight), amountIn(base.length)];
  const [weight, packageWeight] = [reader(context, 'weight'), reader(context, 'packageWeight')];
  const sizes = sides.map((side) => reader(context, side));
  const packageSizes = (['packageWidth', 'packageHeight', 'packageDepth'] as const).map((side) =>
    reader(context, side),
  );
  const lighter = atFieldsOf<Facts>(
    context,
    'packageWeight',
    (row, report, field) => {
      const [own, packed] = [weightOf(weight(row)), weightOf(packageWeight(row))];
      if (own !== undefined && packed !== undefined && packed < own)
        report('packing', 'risk', field, { package: packageWeight(row), item: weight(row), what: 'lighter' });
    },
    ['weight'],
  );
  const smaller = atFieldsOf<Facts>(
    context,
    'packageWidth',
    (row, report, field) => {
      const read = (readers: typeof sizes) =>
        readers.flatMap((one) => lengthOf(one(row)) ?? []).sort((a, b) => b - a);
      const [own, packed] = [read(sizes), read(packageSizes)];
      // Things are turned to fit: the longest side is compared with the longest. Cloth is folded, and glass is not.
      const [longest, room] = [own[0], packed[0]];
      if (own.length < 2 || packed.length < 2 || longest === undefined || room === undefined) return;
      if (own.every((side, at) => side > (packed[at] ?? Number.POSITIVE_INFINITY)))
        report('packing', 'risk', field, {
          package: packageSizes
            .map((one) => one(row))
            .filter(Boolean)
            .join(' × '),
          item: sizes
            .map((one) => one(row))
            .filter(Boolean)
            .join(' × '),
          what: 'smaller',
        });
    },
    ['width', 'weight'],
  );
  return [...lighter, ...smaller];
}

/** A package that is lighter or smaller than the item. */
export const packing: CheckModule<Facts> = {
  issues: {
    packing: {
      about: 'A package that is lighter or smaller than the item.',
      severity: ['risk'],
      on: 'weights and sizes of packages',
      example: { package: '0.4 kg', item: '0.6 kg', what: 'lighter' },
      title: () => 'The package is smaller than the item',
      words: ({ package: packed, item, what }) => `The package, ${packed}, is ${what} than the item, ${item}`,
    },
  },
  onListing,
};
