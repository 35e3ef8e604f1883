import { medianOf } from './attributeQuality';

export interface PriceOutlier {
  /** What is usual for its likes: their median. */
  readonly usual: number;
  /** How many those are, without itself. */
  readonly alike: number;
}

/** Variants of one family are most alike; so few others of it are enough, and of a category so many. */
const MIN_FAMILY = 2;
const MIN_CATEGORY = 4;
/** Groups of more items are measured once for all of them. */
const large = 60;
/** As far as this from the median, in powers of ten, is nothing: five times as much. */
const near = Math.log10(5);
/** Moved by one of these, the price would be like the others. */
const slips = [1, -1, 2, -2] as const;

/** The logarithms of some prices. */
type Logs = readonly number[];

const measured = (logs: Logs) => {
  const middle = medianOf(logs);
  return { middle, spread: 1.4826 * medianOf(logs.map((log) => Math.abs(log - middle))) };
};

function without(logs: Logs, own: number): Logs {
  const at = logs.indexOf(own);
  return logs.filter((_log, i) => i !== at);
}

/**
 * The prices of items of one category, in one currency; of each nothing but the number is held, so that a category may be large.
 * Finds those that are most likely a slip of the decimal point: far from the median of their likes by more than those are spread
 * (median absolute deviation, in logarithms), and like them when moved by one or two places. Held against the family, where
 * it is large enough, and else against the category.
 */
export class LikePrices {
  private readonly all: number[] = [];
  private readonly families = new Map<string, number[]>();
  /** In a large group one more says nothing of the middle: it is measured once, with all of them. */
  private readonly whole = new Map<Logs, ReturnType<typeof measured>>();

  /** @param price above zero @param family the code of the item's family, where it is in one */
  add(price: number, family: string | undefined): void {
    const log = Math.log10(price);
    this.all.push(log);
    if (family === undefined) return;
    const known = this.families.get(family);
    if (known) known.push(log);
    else this.families.set(family, [log]);
  }

  /** What is said of a price that was added; asked once all of them were. */
  outlier(price: number, family: string | undefined): PriceOutlier | undefined {
    const siblings = (family === undefined ? undefined : this.families.get(family)) ?? [];
    const similar = siblings.length > MIN_FAMILY ? siblings : this.all;
    if (similar === this.all && similar.length <= MIN_CATEGORY) return undefined;
    const own = Math.log10(price);
    const { middle, spread } = this.around(similar, own);
    const far = Math.abs(own - middle) > Math.max(near, 4 * spread + Math.log10(2));
    const slipped = slips.some((by) => Math.abs(own + by - middle) <= Math.max(Math.log10(2.5), 2 * spread));
    return far && slipped ? { usual: 10 ** middle, alike: similar.length - 1 } : undefined;
  }

  private around(similar: Logs, own: number) {
    if (similar.length <= large) return measured(without(similar, own));
    const known = this.whole.get(similar) ?? measured(similar);
    this.whole.set(similar, known);
    return known;
  }
}
