import { z } from 'zod';
import { conditionSchema } from '../conditions/conditions';
import { type CheckContext, type ListingCheck, readsOf } from './check';

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

/** The checks of the merchant's own, each at the field it is about. */
export const ownChecks = ({ own = [], predicate }: CheckContext): ListingCheck[] =>
  own.map(({ words, field, severity, when }) => {
    const holds = predicate(when);
    return {
      field,
      ...readsOf(when),
      run(row, values, report) {
        if (holds(row, values)) report('own', severity, field, { words });
      },
    };
  });
