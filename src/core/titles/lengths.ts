/** Titles of the lengths `from` to `to`, both included. */
export interface LengthStep {
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

/** No chart shows more steps; the last holds all that are longer. */
const MAX_STEPS = 60;

/**
 * Counts lengths in even steps, from the shortest to the longest or the limit, which ends a step.
 * @param most the channel's limit, in the measure of the lengths
 */
export function lengthSteps(lengths: readonly number[], most: number): LengthStep[] {
  if (lengths.length === 0) return [];
  let [shortest, longest] = [Number.POSITIVE_INFINITY, most];
  for (const length of lengths) {
    if (length < shortest) shortest = length;
    if (length > longest) longest = length;
  }
  const width = most > 400 ? 50 : 10;
  // Steps hold their upper end, so the lowest length must stand above the first step's lower one.
  const low = Math.floor((shortest - 1) / width) * width;
  const counts = new Array<number>(Math.min(MAX_STEPS, Math.max(1, Math.ceil((longest - low) / width)))).fill(
    0,
  );
  for (const length of lengths) {
    const step = Math.min(counts.length - 1, Math.ceil((length - low) / width) - 1);
    counts[step] = (counts[step] ?? 0) + 1;
  }
  return counts.map((count, i) => ({
    from: low + i * width + 1,
    to: i === counts.length - 1 ? Math.max(longest, low + (i + 1) * width) : low + (i + 1) * width,
    count,
  }));
}

/** Listings that share a title, letter case and accents aside. */
export interface DuplicateTitles {
  readonly title: string;
  /** The first of them. */
  readonly skus: readonly string[];
  readonly count: number;
}

const MAX_GROUPS = 100;
const MAX_SKUS = 20;

/**
 * Titles that stand on several listings, those on most first.
 * @param keyOf what makes two titles the same
 */
export function duplicateTitles<T extends { readonly sku: string; readonly title: string }>(
  rows: readonly T[],
  keyOf: (row: T) => string,
): { groups: DuplicateTitles[]; total: number } {
  const found = new Map<string, { title: string; skus: string[]; count: number }>();
  for (const row of rows) {
    const { sku, title } = row;
    const key = keyOf(row);
    const group = found.get(key);
    if (!group) found.set(key, { title, skus: [sku], count: 1 });
    else {
      group.count++;
      if (group.skus.length < MAX_SKUS) group.skus.push(sku);
    }
  }
  const groups = [...found.values()].filter(({ count }) => count > 1).sort((a, b) => b.count - a.count);
  return { groups: groups.slice(0, MAX_GROUPS), total: groups.length };
}
