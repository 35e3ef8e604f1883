import { setDayZone, today } from './calendarDay';

afterAll(() => setDayZone('UTC'));

/** Days by the IANA database; the instants of the clock changes of 2026 in Berlin and Los Angeles are from memory. */
test.each([
  ['UTC', '2026-12-01T23:59:59Z', '2026-12-01'],
  ['Europe/Berlin', '2026-12-01T22:59:59Z', '2026-12-01'],
  ['Europe/Berlin', '2026-12-01T23:00:00Z', '2026-12-02'],
  ['Europe/Berlin', '2026-07-01T21:59:59Z', '2026-07-01'],
  ['Europe/Berlin', '2026-07-01T22:00:00Z', '2026-07-02'],
  ['Europe/Berlin', '2026-03-28T23:00:00Z', '2026-03-29'],
  ['Europe/Berlin', '2026-10-24T22:00:00Z', '2026-10-25'],
  ['America/Los_Angeles', '2026-12-02T07:59:59Z', '2026-12-01'],
  ['America/Los_Angeles', '2026-12-02T08:00:00Z', '2026-12-02'],
  ['Pacific/Auckland', '2026-12-01T11:00:00Z', '2026-12-02'],
])('in %s the day at %s is %s', (zone, at, day) => {
  setDayZone(zone);
  expect(today(new Date(at))).toBe(day);
});
