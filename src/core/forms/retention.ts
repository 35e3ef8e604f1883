import { z } from 'zod';
import { named } from './forms';

const days = (usual: number, about: string) =>
  z
    .number('Enter a number of days.')
    .int('Enter whole days.')
    .min(1, 'The minimum is 1 day.')
    .max(3650, 'The maximum is 3650 days (ten years).')
    .default(usual)
    .meta({ description: `${about}; days` });

/** How long things are kept that pile up, in days. Who did what, and what came of each submission in numbers, stays for good. */
export const retentionSchema = z.strictObject({
  files: named(days(90, 'files as they were sent'), 'Sent files', { signs: 7 }),
  entries: named(
    days(400, 'what each listing was sent with and what was answered'),
    'Listings of submissions',
    {
      signs: 7,
    },
  ),
  uploads: named(days(60, 'imported files'), 'Imported files', { signs: 7 }),
  notices: named(days(120, 'notices'), 'Notifications', { signs: 7 }),
  calls: named(days(30, 'calls of addresses'), 'Webhook calls', { signs: 7 }),
});
export type Retention = z.infer<typeof retentionSchema>;
