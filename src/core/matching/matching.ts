import { Decimal } from 'decimal.js';
import { InputError } from '../errors/inputError';
import { counted } from '../formatting/formatting';
import { bestAssignment } from '../import/columns/assignment';
import { minorUnits } from '../measures/currencies';
import { fold } from '../text/folding';
import {
  type CatalogProduct,
  compare,
  type Read,
  read,
  type Similarity,
  saysAsMuch,
  weights,
} from './comparing';
import { coloursTogether, leads, matchFamilies, pairKey, tellingWords, tellTheSame } from './familyMatching';
import { kinOf } from './kin';

export interface Pair extends Similarity {
  readonly sku: string;
  readonly variant: string;
}

export interface CandidateMatch {
  readonly sku: string;
  /** The likeliest first. */
  readonly candidates: readonly Pair[];
}

export interface Matching {
  readonly sure: readonly Pair[];
  readonly doubts: readonly CandidateMatch[];
  /** Items that nothing of the partner's is like. */
  readonly items: readonly string[];
  /** The partner's variants that are no pair, nor stand in a doubt. */
  readonly variants: readonly string[];
}

/** Below this two have too little in common to be shown. */
const MIN_WORTH = 40;
/** From here on a pair is taken by itself, where it is so much ahead of every other of its item and of its variant. */
const sureWorth = 58;
const sureLead = 14;
/** So far ahead of the next a family must be before its colour words are learned from. */
const familyLead = 10;
const MAX_CANDIDATES = 4;

/** What a person has settled: pairs that are one, and pairs that are not. */
export interface Settled {
  readonly same: ReadonlyMap<string, string>;
  readonly not: ReadonlySet<string>;
}

const noneSettled: Settled = { same: new Map(), not: new Set() };
/** Two that have no word in common. */
const unlike: Similarity = {
  worth: 0,
  supports: [],
  objects: [],
  contradicts: true,
  open: 0,
  numbered: false,
};

/** Pairs that are looked at, and steps of the assignment, beyond which a range is to be brought in in parts: some seconds. */
const MAX_COMPARED = 1_500_000;
const MAX_ASSIGNED = 600_000_000;
/** After so many pairs others may go first. */
const BATCH_PAIRS = 500;

/**
 * Which columns each row may go with at all: those whose name has a word of its own, or that have its number. Where either has
 * no name, all.
 */
function sharing(left: readonly Read[], right: readonly Read[]): ReadonlySet<number>[] {
  const holders = new Map<string, number[]>();
  const nameless: number[] = [];
  const put = (key: string, column: number) => {
    const known = holders.get(key);
    if (known) known.push(column);
    else holders.set(key, [column]);
  };
  const numbersOf = ({ gtin, mpn }: Read) => [
    ...(gtin ? [`gtin ${gtin}`] : []),
    ...(mpn === '' ? [] : [`mpn ${mpn}`]),
  ];
  for (const [column, one] of right.entries()) {
    if (one.named.length === 0) nameless.push(column);
    for (const key of [...new Set(one.named.flatMap((word) => [...kinOf(word)])), ...numbersOf(one)])
      put(key, column);
  }
  return left.map((one) => {
    if (one.named.length === 0) return new Set(right.keys());
    const found = new Set(nameless);
    for (const key of [...one.named.flatMap((word) => [...kinOf(word)]), ...numbersOf(one)])
      for (const column of holders.get(key) ?? []) found.add(column);
    return found;
  });
}

/**
 * Pairs items with a partner's variants, all at once (the assignment problem), step by step.
 * @param settled pairs that a person has taken, which stand, and such as they have refused
 * @throws InputError where there are too many to compare
 */
export function* matchProducts(
  items: readonly CatalogProduct[],
  variants: readonly CatalogProduct[],
  { same, not }: Settled = noneSettled,
): Generator<undefined, Matching> {
  const codes = new Set(variants.map(({ code }) => code));
  const taken = new Set([...same.values()]);
  const right = variants.filter(({ code }) => !taken.has(code)).map(read);
  const open = items.filter(({ code }) => !codes.has(same.get(code) ?? '')).map(read);
  const weight = weights([...open, ...right]);
  const may = sharing(open, right);
  const left = open.filter((_, at) => (may[at] as ReadonlySet<number>).size > 0);
  const columnsOf = may.filter(({ size }) => size > 0);
  const [rows, columns] = [left.length, right.length];
  const few = Math.min(rows, columns);
  const compared = columnsOf.reduce((sum, { size }) => sum + size, 0);
  if (compared > MAX_COMPARED || few * few * Math.max(rows, columns) > MAX_ASSIGNED)
    throw new InputError('rangeTooMuch', { items: items.length, variants: variants.length });
  const likeness: Similarity[][] = left.map(() => new Array<Similarity>(columns).fill(unlike));
  let done = 0;
  for (const [row, a] of left.entries())
    for (const column of columnsOf[row] as ReadonlySet<number>) {
      if (done++ % BATCH_PAIRS === 0) yield;
      const b = right[column] as Read;
      const found = compare(a, b, weight);
      (likeness[row] as Similarity[])[column] = not.has(pairKey(a.ware.code, b.ware.code))
        ? { ...found, worth: 0, contradicts: true }
        : found;
    }
  const at = (row: number, column: number) => (likeness[row] as Similarity[])[column] as Similarity;
  const worth = (row: number, column: number) => {
    const one = at(row, column);
    return one.contradicts || one.worth < MIN_WORTH ? 0 : one.worth;
  };
  // What families tell of each other helps where single pairs leave open which it is.
  const unexcluded = (row: number, column: number) =>
    at(row, column).contradicts ? 0 : Math.max(1, at(row, column).worth);
  const matches = matchFamilies(left, right, unexcluded, weight);
  const [oursTell, theirsTell] = [tellingWords(left), tellingWords(right)];
  const sameName = (a: Read, b: Read) => tellTheSame(a, b, oursTell(a), theirsTell(b));
  const together = coloursTogether(
    // Only families whose names say the same tell what colours are called.
    matches.filter(
      ({ lead, left: ours, right: theirs }) =>
        lead >= familyLead && sameName(left[ours[0] as number] as Read, right[theirs[0] as number] as Read),
    ),
    left,
    right,
  );
  for (const match of matches) {
    const points = Math.min(15, match.lead);
    if (points <= 0) continue;
    const [own, other] = [new Set(match.left), new Set(match.right)];
    for (const [row, a] of left.entries())
      for (const [column, b] of right.entries()) {
        const [ours, theirs] = [own.has(row), other.has(column)];
        if (!ours && !theirs) continue;
        const one = at(row, column);
        if (one === unlike) continue;
        if (ours !== theirs) {
          (likeness[row] as Similarity[])[column] = { ...one, worth: one.worth - points };
          continue;
        }
        const families = together.get(pairKey(fold(a.colour), fold(b.colour))) ?? 0;
        (likeness[row] as Similarity[])[column] = {
          ...one,
          open: families >= one.open ? 0 : one.open,
          worth: Math.round(10 * (one.worth + points + (families > 0 ? 24 : 0))) / 10,
          supports: [
            ...one.supports,
            'the families match',
            ...(families > 0
              ? [`${a.colour} matches ${b.colour} in ${counted(families, 'family', 'families')}`]
              : []),
          ],
        };
      }
  }
  const assigned = bestAssignment(left.length, right.length, worth);
  const leadOf = leads(assigned, right.length, worth);

  const sure: Pair[] = [];
  const unsure: number[] = [];
  const gone = new Set<number>();
  const pair = (row: number, column: number): Pair => ({
    sku: (left[row] as Read).ware.code,
    variant: (right[column] as Read).ware.code,
    ...at(row, column),
  });
  for (const [row, column] of assigned.entries()) {
    // What only one of the two says may be another colour or size.
    const [a, b] = [left[row] as Read, right[column]];
    const reported =
      b !== undefined &&
      saysAsMuch(a, b) &&
      at(row, column).open === 0 &&
      (at(row, column).numbered || sameName(a, b)) &&
      worth(row, column) >= sureWorth;
    if (reported && leadOf(row) >= sureLead) {
      sure.push(pair(row, column));
      gone.add(column);
    } else unsure.push(row);
  }
  const doubts: CandidateMatch[] = [];
  const without = open.flatMap(({ ware }, at) =>
    (may[at] as ReadonlySet<number>).size > 0 ? [] : [ware.code],
  );
  const inDoubt = new Set<number>();
  for (const row of unsure) {
    const candidates = right
      .map((_, column) => column)
      .filter((column) => !gone.has(column) && worth(row, column) > 0)
      .sort(
        (x, y) => Number(assigned[row] === y) - Number(assigned[row] === x) || worth(row, y) - worth(row, x),
      )
      .slice(0, MAX_CANDIDATES);
    if (candidates.length === 0) without.push((left[row] as Read).ware.code);
    else {
      doubts.push({
        sku: (left[row] as Read).ware.code,
        candidates: candidates.map((column) => pair(row, column)),
      });
      for (const column of candidates) inDoubt.add(column);
    }
  }
  return {
    sure,
    doubts: doubts.sort((a, b) => (b.candidates[0]?.worth ?? 0) - (a.candidates[0]?.worth ?? 0)),
    items: without,
    variants: right.flatMap(({ ware }, column) =>
      gone.has(column) || inDoubt.has(column) ? [] : [ware.code],
    ),
  };
}

/** Compares one item with one variant, for showing. */
export function similarityOf(item: CatalogProduct, variant: CatalogProduct): Similarity {
  const [a, b] = [read(item), read(variant)];
  return compare(a, b, weights([a, b]));
}

/**
 * A price from a cost by the profit wanted, rounded half up to the currency's minor unit (ISO 4217); hundredths where no currency
 * is known.
 * @param cost a decimal amount @param profit share of the price, in per cent
 * @returns a decimal amount; undefined where there is none
 */
export function priceForProfit(cost: string, profit: number, currency?: string): string | undefined {
  const paid = new Decimal(cost);
  if (!paid.isPositive() || paid.isZero() || profit >= 100 || profit < 0) return undefined;
  const digits = (currency === undefined ? undefined : minorUnits(currency)) ?? 2;
  return paid.times(100).dividedBy(new Decimal(100).minus(profit)).toFixed(digits, Decimal.ROUND_HALF_UP);
}
