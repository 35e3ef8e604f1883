import { monthOf } from './monthNames';

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

const MAX_DATE = 60;
const two = (number: number): string => String(number).padStart(2, '0');
const asDate = (year: number, month: number, day: number): string | undefined => {
  const found = `${year}-${two(month)}-${two(day)}`;
  return isDate(found) ? found : undefined;
};
/** A time of day behind a date, which is left out; a zone may follow. */
const timeBehind =
  /(?:T|,? +(?:at |um |à |kl\.? )?)\d{1,2}[:.]\d\d(?:[:.]\d\d(?:[.,]\d+)?)?(?: ?[AP]\.?M\.?)?(?: ?(?:Z|UTC|GMT|[+-]\d\d:?\d\d))?$/i;
/** A weekday before a date: a word with a comma or a full stop. */
const weekdayBefore = /^\p{L}{2,12}(?:, ?|\. )(?=\d|\p{L}+ \d)/u;

/**
 * A date as an RFC 3339 full date: read from that form, from numbers with dots, slashes, hyphens or blanks between them, the year first
 * or last, from eight digits with the year first, or with the month's name in one of the languages read. A time behind it is left out.
 * @param monthFirst whether 3/4/2027 is the 4th of March; where one number is above 12 it is the day anyway
 * @returns undefined where it is no calendar date
 */
export function readDate(text: string, monthFirst = false): string | undefined {
  if (text.length > MAX_DATE) return undefined;
  const trimmed = text.trim();
  if (isDate(trimmed)) return trimmed.slice(0, 10);
  const written = trimmed.replace(timeBehind, '').replace(weekdayBefore, '').trim();
  const yearFirst = /^(\d{4})(?:([./-])(\d{1,2})\2(\d{1,2})|\. (\d{1,2})\. (\d{1,2}))\.?$/.exec(written);
  if (yearFirst)
    return asDate(
      Number(yearFirst[1]),
      Number(yearFirst[3] ?? yearFirst[5]),
      Number(yearFirst[4] ?? yearFirst[6]),
    );
  const together = /^((?:19|20)\d\d)(\d\d)(\d\d)$/.exec(written);
  if (together) return asDate(Number(together[1]), Number(together[2]), Number(together[3]));
  return inNumbers(written, monthFirst) ?? withMonthName(written);
}

function inNumbers(written: string, monthFirst: boolean): string | undefined {
  const parts = /^(\d{1,2})(?:[./-]|\. )(\d{1,2})(?:[./-]|\. )(\d{4}|\d{2})\.?$/.exec(written);
  if (!parts) return undefined;
  const [first, second, year] = [Number(parts[1]), Number(parts[2]), parts[3] ?? ''];
  const swap = second > 12 || (monthFirst && first <= 12);
  const [day, month] = swap ? [second, first] : [first, second];
  return asDate(Number(year.length === 2 ? `20${year}` : year), month, day);
}

/** “3 March 2027”, “March 3rd, 2027”, “3. mars 2027”, “2027. március 3.”, “3-Mar-27”, “3 de marzo de 2027”, “1er mars 2027”. */
function withMonthName(written: string): string | undefined {
  const words = written
    .split(/[\s.,/-]+/)
    .filter((word) => word !== '' && !joiningWords.has(word.toLowerCase()));
  if (words.length !== 3) return undefined;
  const named = words.findIndex((word) => /\p{L}{2}/u.test(word) && !/\d/.test(word));
  const month = monthOf(words[named] ?? '');
  if (month === undefined) return undefined;
  const [a = '', b = ''] = words.filter((_, at) => at !== named);
  const [year, day] = /^\d{4}$/.test(a) ? [a, b] : [b, a];
  const ofMonth = /^(\d{1,2})(?:st|nd|rd|th|er|re|º|ª|°)?$/i.exec(day)?.[1];
  if (ofMonth === undefined || !/^(?:\d{4}|\d{2})$/.test(year)) return undefined;
  return asDate(Number(year.length === 2 ? `20${year}` : year), month, Number(ofMonth));
}
/** What stands between the parts of a date in words. */
const joiningWords: ReadonlySet<string> = new Set(['de', 'del', 'of', 'the', 'den', 'd', 'r']);

/** Whether a date in numbers could name the month first as well as the day: 3/4/2027, and not 3/3/2027 or 13/4/2027. */
export function isAmbiguousDate(text: string): boolean {
  const [, first, second] = /^\s*(\d{1,2})[./-](\d{1,2})[./-](?:\d{4}|\d{2})\b/.exec(text) ?? [];
  return (
    first !== undefined && Number(first) <= 12 && Number(second) <= 12 && Number(first) !== Number(second)
  );
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
