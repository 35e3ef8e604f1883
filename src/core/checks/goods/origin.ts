import { countryCode } from '../../locale/countries';
import { memoizedByText } from '../../text/remembering';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  origin: { found: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const read = reader(context, 'countryOfOrigin');
  const isCountry = memoizedByText((text) => countryCode(text) !== undefined);
  return atFieldsOf(context, 'countryOfOrigin', (row, report, field) => {
    const found = read(row);
    if (found !== '' && !isCountry(found)) report('origin', 'risk', field, { found });
  });
}

/** Where something comes from is a country: an ISO 3166-1 code, or its name in a language that is read. */
export const origin: CheckModule<Facts> = {
  issues: {
    origin: {
      about: 'A country of origin that does not exist.',
      severity: ['risk'],
      on: 'fields with the country of origin',
      source: 'ISO 3166-1, Unicode CLDR',
      example: { found: 'Atlantis' },
      title: (label) => `${label} is not a country`,
      words: ({ found }, label) => `${label} “${found}” is not a country`,
    },
  },
  onListing,
};
