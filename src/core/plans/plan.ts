import { z } from 'zod';
import { ownEntry } from '../catalog/value';
import { checkSettingsOn, checkSettingsSchema } from '../checks/severityOverrides';
import { compositionSchema } from '../compose/composition';
import { valueTableSchema } from '../compose/steps';
import { type Condition, conditionSchema, factsIn } from '../conditions/conditions';
import { InputError } from '../errors/inputError';
import { familyChoiceSchema } from '../families/shape';
import { searchWordsSchema } from '../keywords/settings';
import { ruleSchema } from '../rules/rule';
import { handTitleSchema, titlePatternSchema } from '../titles/pattern';

/** Where a merchant category (or one item) goes in the channel's tree. */
export const categoryMappingSchema = z
  .union([
    z.strictObject({ category: z.string().min(1) }),
    z.strictObject({ leaveOut: z.string().min(1).meta({ description: 'the reason' }) }),
  ])
  .meta({ id: 'Placement' });
export type CategoryMapping = z.infer<typeof categoryMappingSchema>;

/** How a field is filled for some of the merchant's categories; a category's branch inherits. */
export const categoryVariantSchema = z
  .strictObject({ categories: z.array(z.string().min(1)).min(1), composition: compositionSchema })
  .meta({ id: 'CategoryVariant' });
export type CategoryVariant = z.infer<typeof categoryVariantSchema>;

/** What shows that something the channel wants is there: a number or the name of a file, and the last day on which it holds. */
export const proofSchema = z
  .strictObject({
    says: z.string().max(200),
    until: z.iso.date().optional().meta({ description: 'the last day on which it holds, 2027-03-31' }),
  })
  .meta({ id: 'Proof' });
export type Proof = z.infer<typeof proofSchema>;

/** An entry that the channel has already. */
export const joinedSchema = z.strictObject({
  entry: z.string().min(1).max(100).meta({ description: 'the number by which the channel knows it' }),
  name: z.string().max(500).meta({ description: 'what it was called when it was found' }),
});
export type Joined = z.infer<typeof joinedSchema>;

/** All of a feed's settings as one JSON document. */
export const planSchema = z.strictObject({
  format: z.literal('lively-cart/plan@2'),
  channel: z.string().meta({ description: "the requirement sheet's code" }),
  feed: z.string().optional().meta({
    description:
      'the feed it belongs to: items may be held for it, and conditions ask for the state of its listings',
  }),
  market: z.strictObject({
    country: z.string().length(2),
    language: z.string(),
    currency: z.string().length(3),
  }),
  scope: conditionSchema.optional().meta({ description: 'the scope of the feed; all items by default' }),
  fields: z.record(z.string(), compositionSchema).meta({ description: 'by field code' }),
  tables: z.record(z.string(), valueTableSchema).default({}).meta({ description: 'value mappings by name' }),
  placements: z
    .record(z.string(), categoryMappingSchema)
    .default({})
    .meta({ description: 'by merchant category, its branch inherits' }),
  exceptions: z.record(z.string(), categoryMappingSchema).default({}).meta({ description: 'by SKU' }),
  perCategory: z.record(z.string(), z.array(categoryVariantSchema)).default({}).meta({
    description: 'by field code: other compositions in some merchant categories, the first that fits counts',
  }),
  met: z
    .array(z.string())
    .default([])
    .meta({ description: "what the merchant has met of the channel's conditions, by code or document" }),
  proofs: z
    .record(z.string(), proofSchema)
    .optional()
    .meta({ description: 'by what is met: the number or file that shows it, and until when it holds' }),
  untranslated: z.enum(['main', 'nothing']).optional().meta({
    description:
      "what fills a text without a translation into the market's language; the main language by default",
  }),
  families: familyChoiceSchema.optional(),
  checks: checkSettingsSchema.optional(),
  title: titlePatternSchema.optional(),
  titlesIn: z
    .record(z.string(), titlePatternSchema)
    .optional()
    .meta({ description: "by branch of the channel's tree: another pattern for items mapped there" }),
  searchWords: searchWordsSchema.optional(),
  titlesByHand: z
    .record(z.string(), handTitleSchema)
    .optional()
    .meta({ description: 'by SKU: titles that override the pattern' }),
  joined: z
    .record(z.string(), joinedSchema)
    .optional()
    .meta({ description: 'by SKU: the entry of the channel that an item joins instead of making one' }),
  rules: z.array(ruleSchema).default([]),
});
export type Plan = z.infer<typeof planSchema>;

/** All conditions that a merchant has put into a plan. */
export const conditionsOf = ({ rules, scope, checks }: Plan): Condition[] => [
  ...rules.map(({ when }) => when),
  ...(scope ? [scope] : []),
  ...Object.values(checks?.own ?? {}).map(({ when }) => when),
];

/** Whether a plan asks how listings stand at the channel. */
export const asksChannelStatus = (plan: Plan): boolean =>
  conditionsOf(plan).some((condition) => factsIn(condition).includes('standing'));

/** A plan as that of a feed: by it a plan knows which items wait, and how its listings stand at the channel. */
export const planOfFeed = (plan: Plan, feed: string): Plan => (plan.feed === feed ? plan : { ...plan, feed });

/** What makes a plan of one format a plan of the next: the first takes format 1 to 2, and so on. */
export type PlanUpgrade = (plan: Readonly<Record<string, unknown>>) => Record<string, unknown>;
const planUpgrades: readonly PlanUpgrade[] = [
  // What only the brand was kept from, every part is: the name says it already.
  (plan) => {
    const { brandOnce, ...title } = (plan.title ?? {}) as Record<string, unknown>;
    return brandOnce === undefined ? { ...plan } : { ...plan, title: { ...title, sayOnce: brandOnce } };
  },
];

/**
 * A plan as it was stored or handed over, of any format there ever was, as one of today.
 * @param upgrades for the test of this
 * @throws InputError where it is of a later format, or not valid, naming the place
 */
export function readPlan(stored: unknown, upgrades: readonly PlanUpgrade[] = planUpgrades): Plan {
  const newest = upgrades.length + 1;
  let plan = (stored ?? {}) as Record<string, unknown>;
  const format = Number(/^lively-cart\/plan@(\d+)$/.exec(String(plan.format))?.[1]);
  if (format > newest) throw new InputError('planOfLater', { format, newest });
  for (const upgrade of upgrades.slice(Math.max(0, format - 1))) plan = upgrade(plan);
  const read = planSchema.safeParse({ ...plan, ...(format < newest && { format: 'lively-cart/plan@2' }) });
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new InputError('planUnreadable', { place: issue?.path.join('.') || 'its root', why: issue?.message });
}

/**
 * A plan as it stands in the database. One that is not valid any more, such as with a pattern that is no longer taken, is
 * given as it is: its feed says so when it is computed, and can still be undone or brought back; all others work.
 */
export function storedPlan(stored: unknown): Plan {
  try {
    return readPlan(stored);
  } catch (error) {
    if (!(error instanceof InputError) || error.code !== 'planUnreadable') throw error;
    const plan = (stored ?? {}) as Plan;
    return { ...emptyPlan(plan.channel, plan.market), ...plan };
  }
}

/**
 * A plan as it counts on a day: waivers that have ended are gone, and what was met by a document that holds no more; what is
 * compared with today is compared with the day.
 * The same plan where nothing in it depends on the day. @param day 2027-03-31
 */
export function planOn(given: Plan, day: string): Plan {
  const ended = Object.entries(given.proofs ?? {}).flatMap(([what, { until }]) =>
    until !== undefined && until < day ? [what] : [],
  );
  const plan = ended.length > 0 ? { ...given, met: given.met.filter((one) => !ended.includes(one)) } : given;
  const text = JSON.stringify([plan.scope, plan.rules, plan.checks?.own]);
  const dated = text.includes('"today"')
    ? { ...plan, ...asDay({ scope: plan.scope, rules: plan.rules, checks: plan.checks }, day) }
    : plan;
  const waivers = Object.values(plan.checks?.waived ?? {});
  return dated.checks && waivers.some(({ until }) => until !== undefined)
    ? { ...dated, checks: checkSettingsOn(dated.checks, day) }
    : dated;
}

/** Conditions with the day where they say today. @param day 2027-03-31 */
export const asDay = <T>(part: T, day: string): T =>
  JSON.parse(
    JSON.stringify(part, (_key, value) =>
      value?.value === 'today' && (value.is === 'before' || value.is === 'after')
        ? { ...value, value: day }
        : value,
    ),
  );

/** A plan in which nothing is set yet. */
export const emptyPlan = (channel: string, market: Plan['market']): Plan => ({
  format: 'lively-cart/plan@2',
  channel,
  market,
  fields: {},
  tables: {},
  placements: {},
  exceptions: {},
  perCategory: {},
  met: [],
  rules: [],
});

/** How merchant categories are nested in one text: "Growing > Pots". */
const levels = /[>›/]/;
/** No merchant nests deeper; what stands behind counts as one name. */
const MAX_LEVELS = 12;

/** A merchant category and the branches above it, nearest first. */
export function branchesOf(category: string): string[] {
  const parts = category.split(levels, MAX_LEVELS).map((name) => name.trim());
  return [category, ...parts.map((_, at) => parts.slice(0, parts.length - 1 - at).join(' > ')).slice(0, -1)];
}

/** The placement that counts for a merchant category: its own, else that of the nearest branch above it. */
export function categoryMappingFor(
  placements: Plan['placements'],
  category: string,
): { placement: CategoryMapping; from: string } | undefined {
  for (const from of branchesOf(category)) {
    const placement = ownEntry(placements, from);
    if (placement) return { placement, from };
  }
  return undefined;
}
