import { z } from 'zod';
import { named } from './forms';

const days = (usual: number, about: string) =>
  z
    .number('That is no number of days.')
    .int('Days are whole.')
    .min(1, 'A day is the least.')
    .max(3650, 'Ten years, 3650 days, are the most.')
    .default(usual)
    .meta({ description: `${about}; days` });

/** How long things are kept that pile up, in days. Who did what, and what came of each submission in numbers, stays for good. */
export const retentionSchema = z.strictObject({
  files: named(days(90, 'files as they were sent'), 'Files that were sent', { signs: 7 }),
  entries: named(
    days(400, 'what each listing was sent with and what was answered'),
    'Listings of submissions',
    {
      signs: 7,
    },
  ),
  uploads: named(days(60, 'files that were brought in'), 'Files that were brought in', { signs: 7 }),
  notices: named(days(120, 'notices'), 'Notifications', { signs: 7 }),
  calls: named(days(30, 'calls of addresses'), 'Calls of addresses', { signs: 7 }),
});
export type Retention = z.infer<typeof retentionSchema>;
