import { asList } from '../../catalog/value';
import { counted } from '../../formatting/formatting';
import type { CheckContext, CheckModule, ListingCheck } from '../check';

interface Facts {
  fewPictures: { found: number; advised: number };
}

function onListing({ sheet }: CheckContext): ListingCheck<Facts>[] {
  const advised = sheet.pictures?.advised;
  const places = sheet.fields.flatMap((field, at) => (field.kind === 'pictures' ? [at] : []));
  const [first] = sheet.fields.filter((field) => field.kind === 'pictures');
  if (advised === undefined || !first) return [];
  return [
    {
      field: first.code,
      reads: sheet.fields.filter(({ kind }) => kind === 'pictures').map(({ code }) => code),
      readsPlace: false,
      run: (_row, values, report) => {
        let found = 0;
        for (const at of places) found += asList(values[at]).length;
        if (found > 0 && found < advised) report('fewPictures', 'tip', first.code, { found, advised });
      },
    },
  ];
}

/** A channel that advises so many pictures, counted over all its fields that take some. */
export const fewPictures: CheckModule<Facts> = {
  issues: {
    fewPictures: {
      about: 'Fewer pictures than recommended.',
      severity: ['tip'],
      on: 'pictures',
      example: { found: 2, advised: 5 },
      title: () => 'Few pictures',
      words: ({ found, advised }) => `${counted(found, 'picture')}; ${advised} are recommended`,
    },
  },
  onListing,
};
