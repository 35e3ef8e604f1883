import {
  counted,
  dayOrder,
  daysBetween,
  formatClock,
  formatDate,
  formatDateTime,
  formatDay,
  formatNumber,
  formatTime,
  plural,
  readDay,
  setFormatting,
} from './formatting';

// Expected forms are those of Unicode CLDR for each locale.
const at = new Date('2026-11-23T15:05:00Z');
afterEach(() => setFormatting({ locale: 'en-GB', zone: 'UTC' }));

test.each([
  ['en-US', 'America/New_York', '1,234,567.5', '11/23/2026', '10:05 AM'],
  ['en-GB', 'Europe/London', '1,234,567.5', '23/11/2026', '15:05'],
  ['de-DE', 'Europe/Berlin', '1.234.567,5', '23.11.2026', '16:05'],
  ['es-ES', 'Europe/Madrid', '1.234.567,5', '23/11/2026', '16:05'],
  ['fr-FR', 'Asia/Tokyo', '1 234 567,5', '24/11/2026', '00:05'],
  ['pl-PL', 'Europe/Warsaw', '1 234 567,5', '23.11.2026', '16:05'],
])('%s in %s', (locale, zone, number, date, time) => {
  setFormatting({ locale, zone });
  expect([formatNumber(1234567.5), formatDate(at), formatTime(at)]).toEqual([number, date, time]);
  expect(formatDateTime(at)).toBe(`${date} ${time}`);
  expect(formatClock('16:05')).toBe(locale === 'en-US' ? '04:05 PM' : '16:05');
});

test('a zone that is given counts instead of the shop’s', () => {
  setFormatting({ locale: 'de-DE', zone: 'Europe/Berlin' });
  expect(formatDateTime(at, 'Asia/Tokyo')).toBe('24.11.2026 00:05');
});

test('a day has no zone, and what is no day stays', () => {
  setFormatting({ locale: 'de-DE', zone: 'Pacific/Auckland' });
  expect(formatDay('2026-11-23')).toBe('23.11.2026');
  expect(formatDay('soon')).toBe('soon');
});

test('Spanish writes four digits without a separator', () => {
  setFormatting({ locale: 'es-ES', zone: 'UTC' });
  expect([formatNumber(1234), formatNumber(12345)]).toEqual(['1234', '12.345']);
});

test('words agree with their counts', () => {
  expect([0, 1, 2, 1200].map((count) => counted(count, 'item'))).toEqual([
    '0 items',
    '1 item',
    '2 items',
    '1,200 items',
  ]);
  expect(plural(1, 'family', 'families')).toBe('family');
  expect(plural(1.5, 'family', 'families')).toBe('families');
});

test('days between count midnights of the zone, also over a change of the clock', () => {
  const before = new Date('2026-10-24T22:30:00Z');
  const after = new Date('2026-10-25T22:30:00Z');
  expect(daysBetween(before, after, 'Europe/Berlin')).toBe(0);
  expect(daysBetween(before, after, 'UTC')).toBe(1);
});

test.each([
  ['de-DE', 'DD.MM.YYYY', '3.4.2027', '2027-04-03'],
  ['de-DE', 'DD.MM.YYYY', '03.04.27', '2027-04-03'],
  ['en-US', 'MM/DD/YYYY', '4/3/2027', '2027-04-03'],
  ['en-GB', 'DD/MM/YYYY', '3 4 2027', '2027-04-03'],
  ['en-US', 'MM/DD/YYYY', '2027-04-03', '2027-04-03'],
  ['de-DE', 'DD.MM.YYYY', '31.02.2027', undefined],
  ['de-DE', 'DD.MM.YYYY', '12/31', undefined],
  ['en-US', 'MM/DD/YYYY', '13/01/2027', undefined],
])('in %s a day is typed as %s: %s is %s', (locale, order, typed, day) => {
  setFormatting({ locale, zone: 'UTC' });
  expect([dayOrder(), readDay(typed)]).toEqual([order, day]);
});
