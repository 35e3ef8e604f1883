import { medianOf } from './quality';

/** An item with its price, among its likes. */
export interface Priced {
  readonly sku: string;
  readonly family: string | undefined;
  /** Above zero. */
  readonly price: number;
}

export interface PriceOutlier {
  /** What is usual for its likes: their median. */
  readonly usual: number;
  /** How many those are, without itself. */
  readonly alike: number;
}

/** Variants of one family are most alike; so few others of it are enough, and of a category so many. */
const fewestOfFamily = 2;
const fewestOfCategory = 4;
/** Groups of more items are measured once for all of them. */
const large = 60;
/** As far as this from the median, in powers of ten, is nothing: five times as much. */
const near = Math.log10(5);
/** Moved by one of these, the price would be like the others. */
const slips = [1, -1, 2, -2] as const;

/**
 * Prices that are most likely a slip of the decimal point: far from the median of their likes by more than those are spread
 * (median absolute deviation, in logarithms), and like them when moved by one or two places. Held against the family, where
 * it is large enough, and else against the category.
 * @param items those of one category
 */
export function priceOutliers(items: readonly Priced[]): Map<string, PriceOutlier> {
  const families = new Map<string, Priced[]>();
  for (const one of items) {
    if (one.family === undefined) continue;
    const known = families.get(one.family);
    if (known) known.push(one);
    else families.set(one.family, [one]);
  }
  const found = new Map<string, PriceOutlier>();
  const logOf = ({ price }: Priced) => Math.log10(price);
  const measured = (prices: readonly number[]) => {
    const middle = medianOf(prices);
    return { middle, spread: 1.4826 * medianOf(prices.map((price) => Math.abs(price - middle))) };
  };
  // In a large group one more says nothing of the middle: it is measured once, with all of them.
  const whole = new Map<readonly Priced[], ReturnType<typeof measured>>();
  const around = (group: readonly Priced[], at: Priced) => {
    if (group.length <= large) return measured(group.filter((one) => one !== at).map(logOf));
    const known = whole.get(group) ?? measured(group.map(logOf));
    whole.set(group, known);
    return known;
  };
  const look = (group: readonly Priced[], at: Priced) => {
    const { middle, spread } = around(group, at);
    const own = logOf(at);
    const far = Math.abs(own - middle) > Math.max(near, 4 * spread + Math.log10(2));
    const slipped = slips.some((by) => Math.abs(own + by - middle) <= Math.max(Math.log10(2.5), 2 * spread));
    if (far && slipped) found.set(at.sku, { usual: 10 ** middle, alike: group.length - 1 });
  };
  for (const one of items) {
    const family = (one.family === undefined ? undefined : families.get(one.family)) ?? [];
    if (family.length > fewestOfFamily) look(family, one);
    else if (items.length > fewestOfCategory) look(items, one);
  }
  return found;
}
