const regions = new Intl.DisplayNames('en', { type: 'region' });
const languages = new Intl.DisplayNames('en', { type: 'language' });

/** ISO 3166 and BCP 47 codes as a person says them. */
export const regionName = (code: string): string => regions.of(code) ?? code;
export const languageName = (code: string): string => languages.of(code) ?? code;
