import { z } from 'zod';

/** The query of the items grid as it stands in an address. */
export const itemQuerySchema = z
  .object({
    columns: z.string().transform((text) => text.split(',').slice(0, 60)),
    q: z.string().max(500).default(''),
    sort: z.string().default(''),
    descending: z.enum(['1', '0']).default('0'),
    filters: z
      .string()
      .max(20_000)
      .default('{}')
      .transform((text, context): Record<string, string> => {
        try {
          return z.record(z.string(), z.string().max(500)).parse(JSON.parse(text));
        } catch {
          context.addIssue({ code: 'custom', message: 'is not a list of filters' });
          return z.NEVER;
        }
      }),
    only: z
      .string()
      .default('')
      .transform((text) => text.split(',').filter((sku) => sku !== '')),
  })
  .transform(({ q, descending, ...query }) => ({ ...query, search: q, descending: descending === '1' }));

export const windowSchema = z.object({
  from: z.coerce.number().int().min(0).default(0),
  count: z.coerce.number().int().min(1).max(500).default(100),
});
