export { languageName } from '@/core/locale/languages';

const regions = new Intl.DisplayNames('en', { type: 'region' });

/** ISO 3166 codes as a person says them. */
export const regionName = (code: string): string => regions.of(code) ?? code;
