import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { nextDue, readSchedule, type Schedule, scheduleSchema, scheduleWords } from './schedule';

const schedule = (given: Partial<Schedule> & Pick<Schedule, 'every'>): Schedule =>
  scheduleSchema.parse(given);
const at = (text: string) => new Date(text);
const next = (given: Schedule, zone: string, after: string, since?: string) =>
  nextDue(given, zone, at(after), { since: since === undefined ? undefined : at(since) }).toISOString();

const berlin = 'Europe/Berlin';
const newYork = 'America/New_York';
const sydney = 'Australia/Sydney';

// Clock changes of 2026 by the tz database: Berlin 29 March and 25 October, New York 8 March and 1 November, Sydney 5 April and
// 4 October.
describe('across clock changes, by hand', () => {
  test.each([
    [
      'a day at a time that is left out',
      { every: 'day', at: '02:30' },
      berlin,
      '2026-03-28T12:00Z',
      '2026-03-29T01:30:00.000Z',
    ],
    [
      'a day at a time that comes twice: the first',
      { every: 'day', at: '02:30' },
      berlin,
      '2026-10-24T12:00Z',
      '2026-10-25T00:30:00.000Z',
    ],
    [
      'and not a second time',
      { every: 'day', at: '02:30' },
      berlin,
      '2026-10-25T00:30Z',
      '2026-10-26T01:30:00.000Z',
    ],
    [
      'the same wall time before and after',
      { every: 'day', at: '04:00' },
      berlin,
      '2026-03-28T12:00Z',
      '2026-03-29T02:00:00.000Z',
    ],
    [
      'New York in spring',
      { every: 'day', at: '02:15' },
      newYork,
      '2026-03-07T12:00Z',
      '2026-03-08T07:15:00.000Z',
    ],
    [
      'New York in autumn',
      { every: 'day', at: '01:15' },
      newYork,
      '2026-10-31T12:00Z',
      '2026-11-01T05:15:00.000Z',
    ],
    [
      'Sydney, where autumn is in April',
      { every: 'week', weekday: '7', at: '02:00' },
      sydney,
      '2026-03-31T00:00Z',
      '2026-04-04T15:00:00.000Z',
    ],
    [
      'the 31st of a month of 30 days',
      { every: 'month', monthday: 31, at: '06:00' },
      berlin,
      '2026-04-01T00:00Z',
      '2026-04-30T04:00:00.000Z',
    ],
    [
      'and of February',
      { every: 'month', monthday: 31, at: '06:00' },
      berlin,
      '2026-02-01T00:00Z',
      '2026-02-28T05:00:00.000Z',
    ],
    [
      'every six hours over the night it is set forward',
      { every: 'hours', count: 6, at: '02:00' },
      berlin,
      '2026-03-28T20:00Z',
      '2026-03-29T01:00:00.000Z',
    ],
    [
      'busy hours put it off',
      { every: 'hours', count: 4, at: '00:00', busyFrom: '09:00', busyTo: '18:30' },
      berlin,
      '2026-06-01T07:30Z',
      '2026-06-01T16:30:00.000Z',
    ],
    [
      'busy hours past midnight',
      { every: 'day', at: '23:00', busyFrom: '22:00', busyTo: '05:00' },
      berlin,
      '2026-06-01T12:00Z',
      '2026-06-02T03:00:00.000Z',
    ],
  ] as const)('%s', (_name, given, zone, after, due) => {
    expect(next(schedule(given), zone, after)).toBe(due);
  });

  test('every so many days is counted from the day it began', () => {
    const given = schedule({ every: 'days', count: 10, at: '03:00' });
    expect(next(given, berlin, '2026-06-01T12:00Z', '2026-06-01T00:00Z')).toBe('2026-06-11T01:00:00.000Z');
    expect(next(given, berlin, '2026-06-11T01:00Z', '2026-06-01T00:00Z')).toBe('2026-06-21T01:00:00.000Z');
  });

  test('feeds are spread by minutes', () => {
    const given = schedule({ every: 'day', at: '04:00' });
    expect(nextDue(given, 'UTC', at('2026-06-01T04:02Z'), { spread: 3 }).toISOString()).toBe(
      '2026-06-01T04:03:00.000Z',
    );
    expect(nextDue(given, 'UTC', at('2026-06-01T04:03Z'), { spread: 3 }).toISOString()).toBe(
      '2026-06-02T04:03:00.000Z',
    );
  });
});

/**
 * Outside source: Python's zoneinfo, which reads the tz database itself, and its calendar. It walks wall-clock days one after
 * another and takes the first moment after; written apart from the code it checks.
 */
const python = `
import sys, json, calendar
from datetime import datetime, timedelta, timezone
from zoneinfo import ZoneInfo
def due(s, zone, after, since):
    tz = ZoneInfo(zone); moment = datetime.fromisoformat(after)
    began = datetime.fromisoformat(since).astimezone(tz).date()
    day = (moment.astimezone(tz) - timedelta(days=3)).date()
    def wall(d, minute):
        local = datetime(d.year, d.month, d.day, minute // 60, minute % 60, tzinfo=tz)
        return local.astimezone(timezone.utc)
    def minutes(t): return int(t[:2]) * 60 + int(t[3:])
    for n in range(140):
        d = day + timedelta(days=n); start = minutes(s['at']); found = []
        if s['every'] == 'day': found = [start]
        elif s['every'] == 'week': found = [start] if d.isoweekday() == int(s['weekday']) else []
        elif s['every'] == 'month': found = [start] if d.day == min(s['monthday'], calendar.monthrange(d.year, d.month)[1]) else []
        elif s['every'] == 'days': found = [start] if d >= began and (d - began).days % s['count'] == 0 else []
        else: found = list(range(start % (s['count'] * 60), 1440, s['count'] * 60))
        for minute in found:
            moment_due = wall(d, minute)
            here = moment_due.astimezone(tz)
            if s.get('busyFrom') and s.get('busyTo') and s['busyFrom'] != s['busyTo']:
                a, b = minutes(s['busyFrom']), minutes(s['busyTo']); m = here.hour * 60 + here.minute
                busy = a <= m < b if a < b else m >= a or m < b
                if busy:
                    day_of = here.date() if m < b else here.date() + timedelta(days=1)
                    moment_due = wall(day_of, b)
            if moment_due > moment: return moment_due.strftime('%Y-%m-%dT%H:%M:%S.000Z')
cases = json.load(sys.stdin)
print(json.dumps([due(*c) for c in cases]))
`;

test('the same as Python’s zoneinfo on 1,500 schedules around clock changes in six zones', () => {
  const zones = [berlin, newYork, sydney, 'UTC', 'Asia/Kolkata', 'Australia/Lord_Howe'];
  const clock = fc
    .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
    .map(([hour, minute]) => `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`);
  // Nights of clock changes stand out among the times of day and the days.
  const night = fc.constantFrom('01:15', '01:59', '02:00', '02:15', '02:30', '03:00');
  const change = fc.constantFrom(
    '2026-03-28',
    '2026-10-24',
    '2026-03-07',
    '2026-10-31',
    '2026-04-04',
    '2026-10-03',
    '2027-02-27',
  );
  const cases = fc.sample(
    fc.record({
      zone: fc.constantFrom(...zones),
      every: fc.constantFrom('hours', 'day', 'week', 'month', 'days'),
      count: fc.integer({ min: 1, max: 12 }),
      at: fc.oneof(clock, night),
      weekday: fc.constantFrom('1', '2', '3', '4', '5', '6', '7'),
      monthday: fc.integer({ min: 1, max: 31 }),
      busy: fc.option(fc.tuple(clock, clock), { nil: undefined }),
      day: change,
      minute: fc.integer({ min: 0, max: 4000 }),
    }),
    { numRuns: 1500, seed: 14 },
  );
  const given = cases.map(({ zone, busy, day, minute, ...rest }) => {
    const after = new Date(Date.parse(`${day}T00:00:00Z`) + minute * 60_000).toISOString();
    const one = scheduleSchema.parse({ ...rest, ...(busy && { busyFrom: busy[0], busyTo: busy[1] }) });
    return [one, zone, after, '2026-01-01T12:00:00+00:00'] as const;
  });
  const theirs: string[] = JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', python], {
      input: JSON.stringify(
        given.map(([one, zone, after, since]) => [one, zone, after.replace('Z', '+00:00'), since]),
      ),
      encoding: 'utf8',
    }),
  );
  const wrong = given.flatMap(([one, zone, after, since], i) => {
    const ours = next(one, zone, after, since);
    return ours === theirs[i] ? [] : [{ one, zone, after, ours, theirs: theirs[i] }];
  });
  expect(wrong.slice(0, 5)).toEqual([]);
});

test('a schedule is said in words', () => {
  expect(scheduleWords(schedule({ every: 'hours', count: 6, at: '02:00' }))).toBe(
    'every 6 hours, from 02:00',
  );
  expect(
    scheduleWords(schedule({ every: 'week', weekday: '3', at: '04:00', busyFrom: '08:00', busyTo: '20:00' })),
  ).toBe('every Wednesday at 04:00, not from 08:00 to 20:00');
});

test('what sources kept before is read as it was meant', () => {
  const zone = 'Europe/Berlin';
  expect(readSchedule({ every: 'hour', at: '04:30', zone })).toEqual(
    schedule({ every: 'hours', count: 1, at: '04:30' }),
  );
  expect(readSchedule({ every: 'week', at: '04:30', zone })).toEqual(
    schedule({ every: 'week', weekday: '1', at: '04:30' }),
  );
  const today = schedule({ every: 'month', monthday: 31 });
  expect(readSchedule(today)).toEqual(today);
  expect(() => readSchedule({ every: 'never' })).toThrow();
  // Berlin goes from +02:00 to +01:00 on 2026-10-25 at 03:00.
  const daily = readSchedule({ every: 'day', at: '04:30', zone });
  expect(next(daily, zone, '2026-10-24T12:00Z')).toBe('2026-10-25T03:30:00.000Z');
  expect(next(daily, zone, '2026-10-23T12:00Z')).toBe('2026-10-24T02:30:00.000Z');
  expect(next(readSchedule({ every: 'hour', at: '04:30', zone }), zone, '2026-11-23T12:00Z')).toBe(
    '2026-11-23T12:30:00.000Z',
  );
});
