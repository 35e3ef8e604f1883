import type { Damage } from './damage';
import type { ReadItem } from './mapping';

/** Damage of one kind on one attribute, over all rows of a file: accepted or refused as a group. */
export interface Repair {
  readonly damage: Damage;
  readonly attribute: string;
  readonly count: number;
  /** How many of them can be repaired; the others lost too much. */
  readonly repairable: number;
  readonly examples: readonly { sku: string; from: string; to: string | null; reason: string }[];
}

const MAX_EXAMPLES = 5;

/** Adds what was found on some items to what was found before. */
export function tallyRepairs(
  before: readonly Repair[],
  items: readonly Pick<ReadItem, 'sku' | 'proposals'>[],
): Repair[] {
  const tally = new Map(before.map((one) => [`${one.damage}:${one.attribute}`, one]));
  for (const { sku, proposals } of items)
    for (const { attribute, proposal } of proposals) {
      const { damage, from, to, reason } = proposal;
      const key = `${damage}:${attribute}`;
      const known = tally.get(key);
      const examples = known?.examples ?? [];
      tally.set(key, {
        damage,
        attribute,
        count: (known?.count ?? 0) + 1,
        repairable: (known?.repairable ?? 0) + Number(to !== undefined),
        examples:
          examples.length < MAX_EXAMPLES ? [...examples, { sku, from, to: to ?? null, reason }] : examples,
      });
    }
  return [...tally.values()];
}

/** Each kind of damage in words. */
export const damageWords: Readonly<Record<Damage, string>> = {
  scientific: 'written in scientific notation',
  leadingZeros: 'lost leading zeros',
  date: 'turned into a date',
  encoding: 'text in the wrong encoding',
  invisible: 'blanks or invisible characters',
  decimalSign: 'with swapped decimal separators',
  formula: 'wrapped in a formula',
  apostrophe: 'with a leading apostrophe',
  decimalZero: 'kept as a number with decimals',
  checkDigit: 'with a wrong check digit',
  sheetError: 'left empty by a spreadsheet’s error',
  cut: 'cut at a limit',
  stockWord: 'a stock in words',
  lostLetters: 'letters lost in another encoding',
};
