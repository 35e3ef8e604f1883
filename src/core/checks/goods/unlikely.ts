import { convert, readMeasure } from '../../measures/units';
import { memoizedByText } from '../../text/remembering';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  unlikely: { found: string; large: boolean };
}

/** From here on a measure is rather written in the wrong unit than true of goods that are sent in a parcel; common practice. */
const bounds = [
  { unit: 'kg', most: 500, least: 0.0001 },
  { unit: 'm', most: 20, least: 0.0001 },
  { unit: 'l', most: 1000, least: 0.00001 },
] as const;

const measures = [
  'weight',
  'width',
  'height',
  'depth',
  'volume',
  'packageWeight',
  'packageWidth',
  'packageHeight',
  'packageDepth',
] as const;

/** Whether a measure is too large or too small to be true; undefined where it may be true, or is none. */
function unlikelySize(found: string): 'large' | 'small' | undefined {
  const measure = found === '' ? undefined : readMeasure(found);
  if (!measure) return undefined;
  for (const { unit, most, least } of bounds) {
    const amount = Number(convert(measure, unit) ?? Number.NaN);
    if (amount > most) return 'large';
    if (amount > 0 && amount < least) return 'small';
  }
  return undefined;
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  return measures.flatMap((attribute) => {
    const read = reader(context, attribute);
    const sizeOf = memoizedByText(unlikelySize);
    return atFieldsOf(context, attribute, (row, report, field) => {
      const found = read(row);
      const size = sizeOf(found);
      if (size !== undefined) report('unlikely', 'risk', field, { found, large: size === 'large' });
    });
  });
}

/** Grams written as kilograms, millimetres as metres. */
export const unlikely: CheckModule<Facts> = {
  issues: {
    unlikely: {
      about: 'A measure that is probably in the wrong unit.',
      severity: ['risk'],
      on: 'fields with weights and sizes',
      example: { found: '600 kg', large: true },
      title: (label) => `${label} is unlikely`,
      words: ({ found, large }, label) =>
        `${label} “${found}” is very ${large ? 'much' : 'little'}; check its unit`,
    },
  },
  onListing,
};
