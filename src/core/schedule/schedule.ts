import { DateTime } from 'luxon';
import { z } from 'zod';
import { counted, formatClock } from '../formatting/formatting';
import { named } from '../forms/forms';

const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'is a time like 04:30');

/** When something is done by itself: times by the clock of the merchant's zone. */
export const scheduleSchema = z.strictObject({
  every: named(z.enum(['hours', 'day', 'week', 'month', 'days']), 'Every', {
    options: { hours: 'so many hours', day: 'day', week: 'week', month: 'month', days: 'so many days' },
  }),
  count: named(
    z.number().int().min(1).max(60).default(6).meta({
      description: 'how many hours or days, where that is asked; hours are counted from the time of day',
    }),
    'How many',
    { signs: 6 },
  ),
  at: named(clockTime.default('04:00').meta({ description: 'time of day, in the merchant’s zone' }), 'At', {
    signs: 7,
  }),
  weekday: named(z.enum(['1', '2', '3', '4', '5', '6', '7']).default('1'), 'On', {
    options: {
      1: 'Monday',
      2: 'Tuesday',
      3: 'Wednesday',
      4: 'Thursday',
      5: 'Friday',
      6: 'Saturday',
      7: 'Sunday',
    },
  }),
  monthday: named(
    z
      .number()
      .int()
      .min(1)
      .max(31)
      .default(1)
      .meta({ description: 'the last day, in months that are shorter' }),
    'Day of the month',
    { signs: 6 },
  ),
  busyFrom: named(
    clockTime.optional().meta({ description: 'what falls into these hours waits until they are over' }),
    'Not between',
    {
      none: 'any',
      signs: 7,
    },
  ),
  busyTo: named(clockTime.optional(), 'to', { none: 'any', signs: 7 }),
});
export type Schedule = z.infer<typeof scheduleSchema>;

/** How sources kept it before: by the hour, day or Monday, with a zone of their own. */
const earlierSchema = z
  .strictObject({ every: z.enum(['hour', 'day', 'week']), at: clockTime, zone: z.string() })
  .transform(
    ({ every, at }): Schedule =>
      scheduleSchema.parse(every === 'hour' ? { every: 'hours', count: 1, at } : { every, at }),
  );

/** A schedule as it is kept, perhaps since an earlier version. */
export const readSchedule = (stored: unknown): Schedule => earlierSchema.or(scheduleSchema).parse(stored);

/** What is wrong with a schedule as a whole, in words; undefined where nothing is. */
export function scheduleTrouble(schedule: Schedule): string | undefined {
  const { busyFrom, busyTo, every, at } = schedule;
  if ((busyFrom === undefined) !== (busyTo === undefined))
    return `Enter both ends of the quiet hours: ${busyFrom === undefined ? 'from when' : 'until when'}?`;
  if (every !== 'hours' && isBusy(schedule, minuteOf(at)))
    return `${at} is in the quiet hours, ${busyFrom} to ${busyTo}: choose another time.`;
  return undefined;
}

/** What a schedule asks for, besides what every one has. */
export const timesAskedIn = (every: Schedule['every']): readonly (keyof Schedule)[] => [
  'every',
  ...({ hours: ['count'], days: ['count'], week: ['weekday'], month: ['monthday'], day: [] } as const)[every],
  'at',
  'busyFrom',
  'busyTo',
];

const parts = (time: string): { hour: number; minute: number } => {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return { hour, minute };
};

/**
 * A wall clock's time on a day. A time that a clock change leaves out is as much later as the clock was set forward; of one
 * that comes twice it is the first.
 */
function onDay(day: DateTime, time: string): DateTime {
  const { hour, minute } = parts(time);
  const found = DateTime.fromObject(
    { year: day.year, month: day.month, day: day.day, hour, minute },
    { zone: day.zone },
  );
  // Clocks are set back by an hour at most, but for one island, by half of one.
  for (const minutes of [60, 30]) {
    const earlier = found.minus({ minutes });
    if (earlier.hour === hour && earlier.minute === minute) return earlier;
  }
  return found;
}

/** Minutes of the day. */
const minuteOf = (time: string): number => parts(time).hour * 60 + parts(time).minute;

/** Whether a time of day lies in busy hours, which may go past midnight. */
function isBusy({ busyFrom, busyTo }: Schedule, minute: number): boolean {
  if (busyFrom === undefined || busyTo === undefined || busyFrom === busyTo) return false;
  const [from, to] = [minuteOf(busyFrom), minuteOf(busyTo)];
  return from < to ? minute >= from && minute < to : minute >= from || minute < to;
}

/** The same time, or the end of the busy hours it lies in. */
function afterBusy(schedule: Schedule, due: DateTime): DateTime {
  const minute = due.hour * 60 + due.minute;
  if (!isBusy(schedule, minute)) return due;
  const to = schedule.busyTo ?? '00:00';
  const sameDay = minute < minuteOf(to);
  return onDay(sameDay ? due : due.plus({ days: 1 }), to);
}

/** The times of a day on which a schedule is due, the earliest first; none where it is not due on it. */
function timesOn(schedule: Schedule, day: DateTime, anchor: DateTime): DateTime[] {
  const { every, count, at, weekday, monthday } = schedule;
  switch (every) {
    case 'day':
      return [onDay(day, at)];
    case 'week':
      return day.weekday === Number(weekday) ? [onDay(day, at)] : [];
    case 'month':
      return day.day === Math.min(monthday, day.daysInMonth ?? 31) ? [onDay(day, at)] : [];
    case 'days': {
      const passed = Math.round(day.startOf('day').diff(anchor.startOf('day'), 'days').days);
      return passed >= 0 && passed % count === 0 ? [onDay(day, at)] : [];
    }
    case 'hours': {
      const first = minuteOf(at) % (count * 60);
      const times: DateTime[] = [];
      for (let minute = first; minute < 24 * 60; minute += count * 60)
        times.push(
          onDay(
            day,
            `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`,
          ),
        );
      return times;
    }
  }
}

/**
 * When a schedule is due next after a moment, right across clock changes.
 * @param zone IANA time zone
 * @param since the day from which "every so many days" is counted; that of `after` where left out
 * @param spread minutes by which it is put off, so that not all feeds are sent at once
 */
export function nextDue(
  schedule: Schedule,
  zone: string,
  after: Date,
  { since, spread = 0 }: { readonly since?: Date | undefined; readonly spread?: number } = {},
): Date {
  const start = DateTime.fromJSDate(after, { zone });
  const anchor = DateTime.fromJSDate(since ?? after, { zone });
  let day = start.startOf('day').minus({ days: 2 });
  // A month has 31 days at most, and busy hours put off by a day at most.
  for (let tried = 0; tried < 130; tried++, day = day.plus({ days: 1 }).startOf('day'))
    for (const time of timesOn(schedule, day, anchor)) {
      const due = afterBusy(schedule, time).plus({ minutes: spread });
      if (due.toMillis() > after.getTime()) return due.toJSDate();
    }
  throw new Error('A schedule is never due.');
}

/** A schedule in words. */
export function scheduleWords({ every, count, at, weekday, monthday, busyFrom, busyTo }: Schedule): string {
  const days = ['', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
  const clock = formatClock(at);
  const when = {
    hours:
      count > 1 ? `every ${counted(count, 'hour')}, from ${clock}` : `every hour, at minute ${at.slice(3)}`,
    day: `every day at ${clock}`,
    days: `every ${counted(count, 'day')} at ${clock}`,
    week: `every ${days[Number(weekday)]} at ${clock}`,
    month: `on day ${monthday} of the month at ${clock}`,
  }[every];
  return busyFrom && busyTo ? `${when}, not from ${formatClock(busyFrom)} to ${formatClock(busyTo)}` : when;
}
