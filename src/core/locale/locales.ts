/** Languages with regions that Settings offer for numbers, dates and times; BCP 47. */
export const commonLocales = [
  'bg-BG',
  'cs-CZ',
  'da-DK',
  'de-AT',
  'de-CH',
  'de-DE',
  'el-GR',
  'en-AU',
  'en-CA',
  'en-GB',
  'en-IE',
  'en-IN',
  'en-NZ',
  'en-US',
  'en-ZA',
  'es-ES',
  'es-MX',
  'es-AR',
  'et-EE',
  'fi-FI',
  'fr-BE',
  'fr-CA',
  'fr-CH',
  'fr-FR',
  'hr-HR',
  'hu-HU',
  'it-CH',
  'it-IT',
  'ja-JP',
  'ko-KR',
  'lt-LT',
  'lv-LV',
  'nb-NO',
  'nl-BE',
  'nl-NL',
  'pl-PL',
  'pt-BR',
  'pt-PT',
  'ro-RO',
  'sk-SK',
  'sl-SI',
  'sv-SE',
  'tr-TR',
  'uk-UA',
] as const;

const languages = new Intl.DisplayNames('en', { type: 'language', languageDisplay: 'standard' });

/** “German (Germany)”. @param locale BCP 47 */
export const localeName = (locale: string): string => languages.of(locale) ?? locale;

/** Whether a tag is a language with a region that numbers and dates can be written for. */
export function isLocale(tag: string): boolean {
  try {
    return (
      new Intl.Locale(tag).region !== undefined && Intl.NumberFormat.supportedLocalesOf(tag).length === 1
    );
  } catch {
    return false;
  }
}

/** A number, a date and a time as a locale writes them: “1.234,5 and 23.11.2026, 16:05”. */
export function example(locale: string): string {
  const at = new Date('2026-11-23T16:05:00Z');
  const date = new Intl.DateTimeFormat(locale, {
    day: '2-digit',
    month: '2-digit',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: 'UTC',
  });
  return `${new Intl.NumberFormat(locale).format(12_345.5)} and ${date.format(at)}`.replace(
    /[\u00a0\u202f]/g,
    ' ',
  );
}
