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

/** The parts of a day in the order of the locale. */
const dayParts = (): ('day' | 'month' | 'year')[] =>
  dateFormat('UTC', { day: '2-digit', month: '2-digit', year: 'numeric' })
    .formatToParts(new Date(0))
    .flatMap(({ type }) => (type === 'day' || type === 'month' || type === 'year' ? [type] : []));

/** How a day is typed, as DD/MM/YYYY. */
export const dayOrder = (): string =>
  formatDate(new Date('2003-02-01T12:00:00Z'), 'UTC')
    .replace('2003', 'YYYY')
    .replace('02', 'MM')
    .replace('01', 'DD');

/** A day as a person types it, in the order of the locale or as 2026-11-23. @returns as 2026-11-23; undefined for no such day */
export function readDay(typed: string): string | undefined {
  const numbers = typed.trim().match(/^(\d{1,4})\D{1,3}(\d{1,2})\D{1,3}(\d{1,4})\D?$/);
  if (!numbers) return undefined;
  const given = numbers.slice(1, 4);
  const order = given[0]?.length === 4 ? (['year', 'month', 'day'] as const) : dayParts();
  const of = (part: 'day' | 'month' | 'year') => given[order.indexOf(part)] ?? '';
  const year = of('year').length === 2 ? `20${of('year')}` : of('year');
  if (year.length !== 4) return undefined;
  const day = `${year}-${of('month').padStart(2, '0')}-${of('day').padStart(2, '0')}`;
  const read = new Date(`${day}T00:00:00Z`);
  return Number.isNaN(read.getTime()) || read.toISOString().slice(0, 10) !== day ? undefined : day;
}

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
