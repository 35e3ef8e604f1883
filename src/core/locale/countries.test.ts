import { readFileSync } from 'node:fs';
import { countryCode, countryName, isCountryCode, replacedCountryCode } from './countries';

interface Entry {
  readonly alpha_2: string;
  readonly alpha_3: string;
  readonly name: string;
  readonly common_name?: string;
}

/** ISO 3166-1 as Debian's `iso-codes` has it. */
const standard: readonly Entry[] = JSON.parse(
  readFileSync('/usr/share/iso-codes/json/iso_3166-1.json', 'utf8'),
)['3166-1'];

describe('countries', () => {
  it('knows the codes of ISO 3166-1 in force and no other', () => {
    const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
    const known = letters.flatMap((a) => letters.map((b) => a + b)).filter(isCountryCode);
    expect(known).toEqual(standard.map(({ alpha_2 }) => alpha_2).sort());
  });

  it('reads every name and code of the standard', () => {
    for (const { alpha_2, alpha_3, name, common_name } of standard)
      for (const text of [alpha_2, alpha_2.toLowerCase(), alpha_3, name, common_name ?? name])
        expect([text, countryCode(text)]).toEqual([text, alpha_2]);
  });

  it.each([
    ['Germany', 'DE'],
    ['Deutschland', 'DE'],
    ['Allemagne', 'DE'],
    ['Vietnam', 'VN'],
    ['Viet Nam', 'VN'],
    ['Serbia', 'RS'],
    ['Serbien', 'RS'],
    ['Yemen', 'YE'],
    ['Myanmar', 'MM'],
    ['Burma', 'MM'],
    ['Vanuatu', 'VU'],
    ['Zimbabwe', 'ZW'],
    ['UK', 'GB'],
    ['U.K.', 'GB'],
    ['England', 'GB'],
    ['Holland', 'NL'],
    ['Czech Republic', 'CZ'],
    ['Turkey', 'TR'],
    ['Türkiye', 'TR'],
    ['P.R.C.', 'CN'],
    ['USA', 'US'],
    ['South Korea', 'KR'],
    ['Republic of Korea', 'KR'],
    ['Congo, The Democratic Republic of the', 'CD'],
    ['de', 'DE'],
    ['DEU', 'DE'],
    ['Atlantis', undefined],
    ['Europe', undefined],
    ['DD', undefined],
    ['EU', undefined],
    ['XK', undefined],
    ['ZZZ', undefined],
    ['', undefined],
  ])('reads %s as %s', (text, code) => {
    expect(countryCode(text)).toBe(code);
  });

  it('gives each code back from the name it shows', () => {
    for (const { alpha_2 } of standard)
      for (const language of ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt', 'sv'])
        expect([alpha_2, language, countryCode(countryName(alpha_2, language))]).toEqual([
          alpha_2,
          language,
          alpha_2,
        ]);
  });

  it('shows no name for a withdrawn code, and tells which code replaced it', () => {
    expect(countryName('DD')).toBe('DD');
    for (const [code, now] of [
      ['DD', 'DE'],
      ['VD', 'VN'],
      ['CS', 'RS'],
      ['YD', 'YE'],
      ['BU', 'MM'],
      ['NH', 'VU'],
      ['RH', 'ZW'],
      ['DE', undefined],
      ['EU', undefined],
      ['XQ', undefined],
    ] as const)
      expect([code, replacedCountryCode(code)]).toEqual([code, now]);
  });
});
