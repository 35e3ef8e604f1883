import { bestAssignment } from '../import/columns/assignment';
import { fold } from '../text/folding';
import { nameSimilarity, type Read } from './comparing';
import { areKin } from './kin';

/** Positions of wares by what their families have in common. */
function groupsOf(wares: readonly Read[]): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  for (const [at, { group }] of wares.entries()) {
    const known = groups.get(group);
    if (known) known.push(at);
    else groups.set(group, [at]);
  }
  return groups;
}

/**
 * How far ahead each assigned pair is: what would be lost at least if it were given up for another free partner, or two pairs
 * changed partners.
 */
export function leads(
  assigned: readonly number[],
  columns: number,
  worth: (row: number, column: number) => number,
): (row: number) => number {
  const rowOf = new Array<number>(columns).fill(-1);
  for (const [row, column] of assigned.entries()) if (column >= 0) rowOf[column] = row;
  return (row) => {
    const column = assigned[row] as number;
    if (column < 0) return 0;
    const own = worth(row, column);
    let lead = own;
    for (let other = 0; other < columns; other++) {
      if (other === column) continue;
      const holder = rowOf[other] as number;
      const changed = worth(row, other);
      if (changed <= 0) continue;
      lead = Math.min(
        lead,
        holder < 0 ? own - changed : own + worth(holder, other) - changed - worth(holder, column),
      );
    }
    for (const [other, taken] of assigned.entries())
      if (taken < 0) lead = Math.min(lead, own - worth(other, column));
    return lead;
  };
}

/** The words of a name that tell it from the other families of its side: those that the fewest of them have. */
export function tellingWords(wares: readonly Read[]): (one: Read) => readonly string[] {
  const counts = new Map<string, number>();
  for (const rows of groupsOf(wares).values())
    for (const word of new Set((wares[rows[0] as number] as Read).words))
      counts.set(word, (counts.get(word) ?? 0) + 1);
  return ({ words }) => {
    const least = Math.min(...words.map((word) => counts.get(word) ?? 1));
    return [...new Set(words)].filter((word) => (counts.get(word) ?? 1) === least);
  };
}

/**
 * Whether two names say the same of what tells them from others: at least half of it on either side, and not something else on
 * both, as "long spout" and "short spout" do.
 */
export function tellTheSame(a: Read, b: Read, ours: readonly string[], theirs: readonly string[]): boolean {
  const unmet = (words: readonly string[], other: Read) =>
    words.filter((word) => !other.words.some((one) => areKin(word, one))).length;
  const [left, right] = [unmet(ours, b), unmet(theirs, a)];
  return (
    ours.length > 0 &&
    theirs.length > 0 &&
    2 * left <= ours.length &&
    2 * right <= theirs.length &&
    (left === 0 || right === 0)
  );
}

/** Two families that are likely one, and how far ahead of the next they are. */
export interface Match {
  readonly left: readonly number[];
  readonly right: readonly number[];
  readonly lead: number;
}

/** Names with less in common are of other goods, however well sizes and colours go together. */
const MIN_NAMED = 0.08;

/** Families that score less, on average of the variants they could share and with ten points for a full match, are not matched at all. */
const MIN_FAMILY = 38;

/**
 * Which of the partner's families is which of the merchant's: by their names, and by how many of the variants find one that
 * nothing speaks against. It tells "Ridged planter" from "Heath planter", which comes in other sizes.
 */
export function matchFamilies(
  left: readonly Read[],
  right: readonly Read[],
  worth: (row: number, column: number) => number,
  weight: (word: string) => number,
): Match[] {
  const [ours, theirs] = [[...groupsOf(left).values()], [...groupsOf(right).values()]];
  const scores = ours.map((rows) =>
    theirs.map((columns) => {
      const [first, other] = [left[rows[0] as number] as Read, right[columns[0] as number] as Read];
      const named = nameSimilarity(first, other, weight);
      if (named < MIN_NAMED) return 0;
      const found = bestAssignment(rows.length, columns.length, (row, column) =>
        worth(rows[row] as number, columns[column] as number),
      );
      const paired = found.flatMap((column, row) =>
        column < 0 ? [] : [worth(rows[row] as number, columns[column] as number)],
      );
      // Either may have variants that the other has not: a partner ships a few of many colours, and makes sizes nobody sells.
      const most = Math.min(rows.length, columns.length);
      const complete = paired.length / rows.length + paired.length / columns.length;
      return paired.reduce((sum, one) => sum + one, 0) / most + 5 * complete;
    }),
  );
  const score = (row: number, column: number) => (scores[row] as number[])[column] as number;
  const enough = (row: number, column: number) => Math.max(0, score(row, column) - MIN_FAMILY);
  const assigned = bestAssignment(ours.length, theirs.length, enough);
  const leadOf = leads(assigned, theirs.length, enough);
  return assigned.flatMap((column, row): Match[] =>
    column < 0 ? [] : [{ left: ours[row] as number[], right: theirs[column] as number[], lead: leadOf(row) }],
  );
}

/**
 * Colour words that go together: in families that are likely one, a word of ours and a word of theirs that always come together,
 * and with no other. @returns how many families say so, by both words
 */
export function coloursTogether(
  matches: readonly Match[],
  left: readonly Read[],
  right: readonly Read[],
): ReadonlyMap<string, number> {
  const together = new Map<string, number>();
  const [ours, theirs] = [new Map<string, number>(), new Map<string, number>()];
  const more = (counts: Map<string, number>, key: string) => counts.set(key, (counts.get(key) ?? 0) + 1);
  for (const match of matches) {
    const own = new Set(match.left.map((at) => fold((left[at] as Read).colour)));
    const other = new Set(match.right.map((at) => fold((right[at] as Read).colour)));
    // What is called the same is settled; the others are told by what is left.
    const meets = (a: string, b: string) => ` ${b} `.includes(` ${a} `) || ` ${a} `.includes(` ${b} `);
    const freeOwn = [...own].filter((a) => a !== '' && ![...other].some((b) => b !== '' && meets(a, b)));
    const freeOther = [...other].filter((b) => b !== '' && ![...own].some((a) => a !== '' && meets(a, b)));
    // Where one side is settled, nothing is left to go together.
    if (freeOwn.length === 0 || freeOther.length === 0) continue;
    for (const a of freeOwn) more(ours, a);
    for (const b of freeOther) more(theirs, b);
    for (const a of freeOwn) for (const b of freeOther) more(together, pairKey(a, b));
  }
  const found = new Map<string, number>();
  for (const [key, count] of together) {
    const [a = '', b = ''] = key.split('\0');
    const rivals = [...together].filter(
      ([other, times]) =>
        other !== key && times >= count && (other.startsWith(`${a}\0`) || other.endsWith(`\0${b}`)),
    );
    if (count === ours.get(a) && count === theirs.get(b) && rivals.length === 0) found.set(key, count);
  }
  return found;
}

/** Under which two that are not one are remembered. */
export const pairKey = (sku: string, variant: string): string => `${sku}\0${variant}`;
