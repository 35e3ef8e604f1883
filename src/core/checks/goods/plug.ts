import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  plug: { found: string; country: string };
}

/** Plug types that fit the sockets of a country. IEC TR 60083, as the IEC's world plugs list them. */
const fitting: Readonly<Record<string, string>> = {
  AT: 'CEF',
  BE: 'CE',
  BG: 'CF',
  CH: 'CJ',
  CY: 'G',
  CZ: 'CE',
  DE: 'CEF',
  DK: 'CEFK',
  EE: 'CF',
  ES: 'CEF',
  FI: 'CEF',
  FR: 'CE',
  GB: 'G',
  GR: 'CF',
  HR: 'CF',
  HU: 'CF',
  IE: 'G',
  IT: 'CFL',
  LT: 'CF',
  LU: 'CF',
  LV: 'CF',
  MT: 'G',
  NL: 'CEF',
  NO: 'CEF',
  PL: 'CE',
  PT: 'CEF',
  RO: 'CF',
  SE: 'CEF',
  SI: 'CF',
  SK: 'CE',
  US: 'AB',
  CA: 'AB',
  MX: 'AB',
  JP: 'AB',
  AU: 'I',
  NZ: 'I',
  CN: 'ACI',
  IN: 'CDM',
  BR: 'CN',
  ZA: 'CMN',
};

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const types = fitting[context.country];
  if (types === undefined) return [];
  const read = reader(context, 'plug');
  return atFieldsOf(context, 'plug', (row, report, field) => {
    const found = read(row);
    const letters = found.match(/\b[A-O]\b/g);
    if (letters && letters.length > 0 && !letters.some((letter) => types.includes(letter)))
      report('plug', 'risk', field, { found, country: context.country });
  });
}

/** A plug that fits no socket of the feed’s country. */
export const plug: CheckModule<Facts> = {
  issues: {
    plug: {
      about: 'A plug that fits no socket of the feed’s country.',
      severity: ['risk'],
      on: 'fields with the plug',
      source: 'IEC TR 60083',
      example: { found: 'Type G', country: 'DE' },
      title: (label) => `${label} does not fit the country`,
      words: ({ found, country }, label) => `${label} “${found}” fits no socket in ${country}`,
    },
  },
  onListing,
};
