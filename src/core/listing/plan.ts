import { z } from 'zod';
import { conditionSchema } from '../channels/conditions';
import { compositionSchema } from '../compose/composition';
import { valueTableSchema } from '../compose/steps';
import { ruleSchema } from '../rules/rule';
import { titlePatternSchema } from '../titles/pattern';

/** Where a merchant category (or one item) goes in the channel's tree. */
export const placementSchema = z
  .union([
    z.strictObject({ category: z.string().min(1) }),
    z.strictObject({ leaveOut: z.string().min(1).meta({ description: 'the reason' }) }),
  ])
  .meta({ id: 'Placement' });
export type Placement = z.infer<typeof placementSchema>;

/** All of a feed's settings as one JSON document. */
export const planSchema = z.strictObject({
  format: z.literal('lively-cart/plan@1'),
  channel: z.string().meta({ description: "the requirement sheet's code" }),
  market: z.strictObject({
    country: z.string().length(2),
    language: z.string(),
    currency: z.string().length(3),
  }),
  scope: conditionSchema.optional().meta({ description: 'which items the feed takes; all where left out' }),
  fields: z.record(z.string(), compositionSchema).meta({ description: 'by field code' }),
  tables: z.record(z.string(), valueTableSchema).default({}).meta({ description: 'value tables by name' }),
  placements: z
    .record(z.string(), placementSchema)
    .default({})
    .meta({ description: 'by merchant category, its branch inherits' }),
  exceptions: z.record(z.string(), placementSchema).default({}).meta({ description: 'by SKU' }),
  title: titlePatternSchema.optional(),
  rules: z.array(ruleSchema).default([]),
});
export type Plan = z.infer<typeof planSchema>;

/** A plan in which nothing is set yet. */
export const emptyPlan = (channel: string, market: Plan['market']): Plan => ({
  format: 'lively-cart/plan@1',
  channel,
  market,
  fields: {},
  tables: {},
  placements: {},
  exceptions: {},
  rules: [],
});

/** How merchant categories are nested in one text: "Growing > Pots". */
const levels = /\s*[>›/]\s*/;

/** The placement that counts for a merchant category: its own, else that of the nearest branch above it. */
export function placementFor(
  placements: Plan['placements'],
  category: string,
): { placement: Placement; from: string } | undefined {
  const own = placements[category];
  if (own) return { placement: own, from: category };
  const parts = category.split(levels);
  for (let depth = parts.length - 1; depth > 0; depth--) {
    const branch = parts.slice(0, depth).join(' > ');
    const placement = placements[branch];
    if (placement) return { placement, from: branch };
  }
  return undefined;
}
