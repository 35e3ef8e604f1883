import { countryCode, countryName } from '../catalog/countries';
import type { CheckContext, ListingCheck } from './check';
import { atFieldsOf, reader } from './item';

/** Where something comes from is a country: an ISO 3166-1 code, or its name in a language that is read. */
export function origin(context: CheckContext): ListingCheck[] {
  const read = reader(context, 'countryOfOrigin');
  const known = new Map<string, boolean>();
  const isCountry = (text: string): boolean => {
    const found = known.get(text);
    if (found !== undefined) return found;
    const is =
      (/^[A-Z]{2}$/.test(text) && countryName(text) !== text) ||
      /^[A-Z]{3}$/.test(text) ||
      countryCode(text) !== undefined;
    if (known.size < 1000) known.set(text, is);
    return is;
  };
  return atFieldsOf(context, 'countryOfOrigin', (row, report, field) => {
    const found = read(row);
    if (found !== '' && !isCountry(found)) report('origin', 'risk', field, { found });
  });
}
