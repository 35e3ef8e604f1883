import { z } from 'zod';
import { conditionSchema } from '../conditions/conditions';

/** A check of the merchant's own: what is wrong where a condition holds, and the field it is said of. */
export const ownCheckSchema = z
  .strictObject({
    words: z.string().min(1).max(300),
    field: z.string().min(1),
    severity: z.enum(['blocker', 'risk', 'tip']),
    when: conditionSchema,
  })
  .meta({ id: 'OwnCheck' });
export type OwnCheck = z.infer<typeof ownCheckSchema>;
