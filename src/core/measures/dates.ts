/** How a date is written, by the order of its parts. */
export const dateForms = ['iso', 'dmyDots', 'dmySlashes', 'mdySlashes'] as const;
export type DateForm = (typeof dateForms)[number];

/** A calendar date, or a date and time, by RFC 3339; 30 February is none. */
export function isDate(text: string): boolean {
  const parts = /^(\d{4})-(\d\d)-(\d\d)(?:T\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:\d\d))?$/.exec(text);
  if (!parts) return false;
  const [year, month, day] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day && !Number.isNaN(Date.parse(text));
}

/**
 * A date as an RFC 3339 full date: read from that form, with or without a time, or from numbers with dots, slashes or
 * hyphens between them.
 * @param monthFirst whether 3/4/2027 is the 4th of March; where one number is above 12 it is the day anyway
 * @returns undefined where it is no calendar date
 */
export function readDate(text: string, monthFirst = false): string | undefined {
  const trimmed = text.trim();
  if (isDate(trimmed)) return trimmed.slice(0, 10);
  const parts = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(trimmed);
  if (!parts) return undefined;
  const [first, second, year] = [Number(parts[1]), Number(parts[2]), parts[3] ?? ''];
  const swap = second > 12 || (monthFirst && first <= 12);
  const [day, month] = swap ? [second, first] : [first, second];
  const two = (number: number) => String(number).padStart(2, '0');
  const found = `${year.length === 2 ? `20${year}` : year}-${two(month)}-${two(day)}`;
  return isDate(found) ? found : undefined;
}

/** Writes an RFC 3339 full date in another form. */
export function writeDate(date: string, form: DateForm): string {
  const [year = '', month = '', day = ''] = date.split('-');
  switch (form) {
    case 'iso':
      return date;
    case 'dmyDots':
      return `${day}.${month}.${year}`;
    case 'dmySlashes':
      return `${day}/${month}/${year}`;
    case 'mdySlashes':
      return `${month}/${day}/${year}`;
  }
}
