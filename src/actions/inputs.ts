import { z } from 'zod';
import { itemQuerySchema } from '@/server/items/itemQuery';

/** What several actions take. */
export const code = z.string().trim().min(1).max(190);
export const text = z.string().max(50_000, 'That is longer than the 50,000 characters a value may have.');
export const longText = z
  .string()
  .max(4_000_000, 'That is more than four million characters. Send a shorter file.');
export const revision = z.number().int();
export const id = z.number().int().positive();

/** Some items, or all that a query of the grid matches. */
export const selection = z.union([
  z.strictObject({ skus: z.array(code).max(20_000) }),
  z.strictObject({ query: z.record(z.string(), z.string()) }),
]);
export type ItemSelection = z.input<typeof selection>;
export const parseItemQuery = (query: Record<string, string>) => itemQuerySchema.parse(query);
