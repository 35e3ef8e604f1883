import { countryCode } from '../catalog/countries';
import { remembering } from '../text/remembering';
import type { CheckContext, ListingCheck } from './check';
import { atFieldsOf, reader } from './item';

/** Where something comes from is a country: an ISO 3166-1 code, or its name in a language that is read. */
export function origin(context: CheckContext): ListingCheck[] {
  const read = reader(context, 'countryOfOrigin');
  const isCountry = remembering((text) => countryCode(text) !== undefined);
  return atFieldsOf(context, 'countryOfOrigin', (row, report, field) => {
    const found = read(row);
    if (found !== '' && !isCountry(found)) report('origin', 'risk', field, { found });
  });
}
