import { z } from 'zod';
import { named } from './forms';

const address = (about: string) =>
  z
    .string()
    .trim()
    .max(300)
    .default('')
    .refine((text) => text === '' || (URL.canParse(text) && /^https?:\/\/\S+\/$/.test(text)), {
      message: 'An address starts with https:// and ends with a slash, such as https://shop.example/',
    })
    .meta({ description: about });

/** How the shop's own pages are visited. */
export const shopVisitsSchema = z.strictObject({
  on: named(z.boolean().default(false), 'visit the shop’s pages'),
  perMinute: named(
    z
      .number()
      .int()
      .min(1)
      .max(600)
      .default(30)
      .meta({ description: 'a shop that asks for longer pauses gets them' }),
    'Maximum pages a minute',
    { signs: 5 },
  ),
  everyDays: named(
    z
      .number()
      .int()
      .min(1)
      .max(90)
      .default(7)
      .meta({ description: 'sooner where the item has changed since; days' }),
    'Days between visits',
    { signs: 5 },
  ),
  pages: named(
    address('where the addresses of items begin, if they are to be visited elsewhere'),
    'Addresses starting with',
    {
      signs: 30,
    },
  ),
  at: named(address('a copy of the shop that answers for those addresses'), 'are visited at', { signs: 40 }),
});
export type ShopVisits = z.infer<typeof shopVisitsSchema>;
