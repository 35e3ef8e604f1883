import { z } from 'zod';
import { asText, type Value } from '../catalog/value';
import { named } from '../forms/forms';
import type { ValueChange } from './ledger';

/** From where on a submission is held back until a person has looked at it. Shares are in per cent. */
export const limitsSchema = z.strictObject({
  vanish: named(
    z
      .number()
      .min(0)
      .max(100)
      .default(20)
      .meta({ description: '% of the listings at the channel that would be withdrawn' }),
    'Withdrawn, %',
  ),
  price: named(
    z.number().min(0).default(50).meta({ description: '% by which a price may change' }),
    'Price changes by, %',
  ),
  prices: named(
    z.number().int().min(0).default(0).meta({ description: 'so many prices may change by more' }),
    'Prices beyond the limit',
  ),
  moved: named(
    z
      .number()
      .min(0)
      .max(100)
      .default(20)
      .meta({ description: '% of the listings that change their category' }),
    'Categories, %',
  ),
  titles: named(
    z.number().min(0).max(100).default(40).meta({ description: '% of the listings whose title changes' }),
    'Titles, %',
  ),
  hold: z.enum(['listings', 'all']).default('listings').meta({
    description:
      'what is held for review where a price or identifier of single listings is unusual: these alone, or the complete submission',
  }),
  refused: named(
    z
      .number()
      .min(0)
      .max(100)
      .default(10)
      .meta({ description: '% rejected from which on a notification is sent; the submission continues' }),
    'Notify when more than this share is rejected, %',
  ),
});
export type Limits = z.infer<typeof limitsSchema>;

/** A limit that is a number. */
export type LimitName = Exclude<keyof Limits, 'hold'>;
export const limitNames = Object.keys(limitsSchema.shape).filter((name) => name !== 'hold') as LimitName[];

/** A listing that the channel has and that would change. */
export interface ChangedListing {
  readonly sku: string;
  readonly changes: readonly ValueChange[];
}

export interface ReviewFields {
  readonly price: string | undefined;
  readonly title: string | undefined;
  readonly category: string | undefined;
  /** Those by which the channel knows a listing, which must not change once it has it. */
  readonly fixed?: readonly string[];
}

/** Why a submission is held back, as facts; words are made of them where they are shown. */
export type Alarm =
  | {
      readonly alarm: 'vanish' | 'moved' | 'titles';
      readonly count: number;
      readonly of: number;
      readonly limit: number;
    }
  | { readonly alarm: 'prices'; readonly count: number; readonly limit: number }
  | { readonly alarm: 'fixed'; readonly count: number; readonly limit: 0; readonly example: string };

/** The amount in a value such as "12.50 EUR" or "12.50"; undefined where there is none. */
function amountIn(value: Value | undefined): number | undefined {
  const found = /^-?\d+(?:\.\d+)?/.exec(asText(value).trim());
  return found ? Number(found[0]) : undefined;
}

/** By how many per cent a price changes; undefined where one of the two is no amount, or nothing. */
export function priceChange({ before, after }: ValueChange): number | undefined {
  const [from, to] = [amountIn(before), amountIn(after)];
  return from === undefined || to === undefined || from === 0 ? undefined : ((to - from) / from) * 100;
}

/** Why a single listing is held for review. */
export type Doubt = 'prices' | 'fixed';

const priceBeyond = ({ changes }: ChangedListing, { price }: ReviewFields, limits: Limits): boolean =>
  changes.some((one) => one.field === price && Math.abs(priceChange(one) ?? 0) > limits.price);
const fixedChanges = ({ changes }: ChangedListing, { fixed }: ReviewFields): boolean =>
  changes.some(({ field, before }) => before !== undefined && fixed?.includes(field));

/**
 * The listings that are held for review by themselves while the rest is sent; none where the feed holds all of a submission.
 * What is wrong with too many at once (categories, titles, withdrawals) is no doubt about single ones.
 */
export function doubtsOf(
  changed: readonly ChangedListing[],
  fields: ReviewFields,
  limits: Limits,
): ReadonlyMap<string, Doubt> {
  const doubts = new Map<string, Doubt>();
  if (limits.hold === 'all') return doubts;
  const prices = changed.filter((one) => priceBeyond(one, fields, limits));
  if (prices.length > limits.prices) for (const { sku } of prices) doubts.set(sku, 'prices');
  for (const one of changed) if (fixedChanges(one, fields)) doubts.set(one.sku, 'fixed');
  return doubts;
}

/**
 * What looks wrong about a submission before it leaves.
 * @param has how many listings the channel has now
 * @param withdrawn how many would be taken back
 */
export function alarmsOf(
  changed: readonly ChangedListing[],
  { has, withdrawn }: { has: number; withdrawn: number },
  fields: ReviewFields,
  limits: Limits,
): Alarm[] {
  const changing = (field: string | undefined) =>
    field === undefined
      ? 0
      : changed.filter(({ changes }) =>
          changes.some((one) => one.field === field && one.before !== undefined),
        ).length;
  const share = (count: number) => (has === 0 ? 0 : (count / has) * 100);
  const prices = changed.filter((one) => priceBeyond(one, fields, limits)).length;
  const known = changed.filter((one) => fixedChanges(one, fields));
  const [moved, titles] = [changing(fields.category), changing(fields.title)];
  return [
    ...(known[0]
      ? [{ alarm: 'fixed' as const, count: known.length, limit: 0 as const, example: known[0].sku }]
      : []),
    ...(share(withdrawn) > limits.vanish
      ? [{ alarm: 'vanish' as const, count: withdrawn, of: has, limit: limits.vanish }]
      : []),
    ...(prices > limits.prices ? [{ alarm: 'prices' as const, count: prices, limit: limits.price }] : []),
    ...(share(moved) > limits.moved
      ? [{ alarm: 'moved' as const, count: moved, of: has, limit: limits.moved }]
      : []),
    ...(share(titles) > limits.titles
      ? [{ alarm: 'titles' as const, count: titles, of: has, limit: limits.titles }]
      : []),
  ];
}
