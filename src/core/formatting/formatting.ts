/**
 * Numbers, dates, times and plurals for people. One locale and one time zone for the whole installation, kept in Settings and set in
 * each process by the code that reads them (the server's `readWorkspace`, the pages' `Providers`), so that server and browser write alike.
 * Values in feeds have the feed's locale and do not come here.
 */

export interface Formatting {
  /** Language and region, BCP 47. */
  readonly locale: string;
  /** IANA time zone. */
  readonly zone: string;
}

let current: Formatting = { locale: 'en-GB', zone: 'UTC' };
const numberFormats = new Map<string, Intl.NumberFormat>();
const dateFormats = new Map<string, Intl.DateTimeFormat>();

export function setFormatting(given: Formatting): void {
  if (given.locale === current.locale && given.zone === current.zone) return;
  current = given;
  numberFormats.clear();
  dateFormats.clear();
}
export const formatting = (): Formatting => current;

function numberFormat(digits: number): Intl.NumberFormat {
  const key = String(digits);
  const known = numberFormats.get(key);
  if (known) return known;
  const format = new Intl.NumberFormat(current.locale, { maximumFractionDigits: digits });
  numberFormats.set(key, format);
  return format;
}
function dateFormat(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${zone} ${JSON.stringify(options)}`;
  const known = dateFormats.get(key);
  if (known) return known;
  const format = new Intl.DateTimeFormat(current.locale, { ...options, timeZone: zone });
  dateFormats.set(key, format);
  return format;
}
/** Browser and server have different releases of CLDR, which differ in the kind of space before “pm”. */
const plainSpaces = (text: string): string => text.replace(/[\u00a0\u202f]/g, ' ');

/** A number as the locale writes it. @param digits decimals at most */
export const formatNumber = (value: number, digits = 3): string =>
  plainSpaces(numberFormat(digits).format(value));

/** A time of day, 16:00 or 4:00 PM. @param zone the shop's by default */
export const formatTime = (at: Date, zone = current.zone): string =>
  plainSpaces(dateFormat(zone, { hour: '2-digit', minute: '2-digit' }).format(at));

/** A date, 23/11/2026. @param zone the shop's by default */
export const formatDate = (at: Date, zone = current.zone): string =>
  plainSpaces(dateFormat(zone, { day: '2-digit', month: '2-digit', year: 'numeric' }).format(at));

/** A day without a time, as 2026-11-23 keeps it; any other text as it is. */
export const formatDay = (day: string): string =>
  /^\d{4}-\d{2}-\d{2}$/.test(day) ? formatDate(new Date(`${day}T12:00:00Z`), 'UTC') : day;

/** A time of day that is stored as 16:00, as the locale writes it. */
export const formatClock = (time: string): string => formatTime(new Date(`2000-01-01T${time}:00Z`), 'UTC');

/** Date and time. @param zone the shop's by default */
export const formatDateTime = (at: Date, zone = current.zone): string =>
  `${formatDate(at, zone)} ${formatTime(at, zone)}`;

/** Days between two moments in a zone: 1 where the other is tomorrow. */
export function daysBetween(from: Date, to: Date, zone = current.zone): number {
  const dayOf = (at: Date) => {
    const parts = new Intl.DateTimeFormat('en', {
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      timeZone: zone,
    }).formatToParts(at);
    const of = (type: string) => Number(parts.find((part) => part.type === type)?.value);
    return Date.UTC(of('year'), of('month') - 1, of('day')) / 86_400_000;
  };
  return dayOf(to) - dayOf(from);
}

/** Pages are in English whatever the locale of numbers is. */
const pluralRules = new Intl.PluralRules('en');

/** The form of a word for a count. @param other the form for all counts but one; with an s by default */
export const plural = (count: number, one: string, other = `${one}s`): string =>
  pluralRules.select(count) === 'one' ? one : other;

/** A count and its word: “1 item”, “1,200 items”. */
export const counted = (count: number, one: string, other?: string): string =>
  `${formatNumber(count)} ${plural(count, one, other)}`;
