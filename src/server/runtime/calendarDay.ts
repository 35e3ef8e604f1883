import { DateTime } from 'luxon';

/** The workspace's zone as this process read it last; whoever reads the workspace or the catalog sets it. */
let zone = 'UTC';

/** Says in which zone the workspace counts its days. @param given IANA zone */
export function setDayZone(given: string): void {
  zone = given;
}

/** The day in the workspace's zone by which waivers end and conditions say today, 2027-03-31. */
export const today = (now = new Date()): string =>
  DateTime.fromJSDate(now, { zone }).toISODate() ?? now.toISOString().slice(0, 10);
