import { Decimal } from 'decimal.js';
import { axisCodes } from '../catalog/attributes';
import type { Values } from '../catalog/item';
import { asText } from '../catalog/value';
import { InputError } from '../errors/inputError';
import { readIdentifier } from '../identifiers/gtin';
import { bestAssignment } from '../import/mapping/assignment';
import { minorUnits } from '../measures/currencies';
import { convert, type Measure, readMeasure, unitOf } from '../measures/units';
import { fold } from '../text/folding';
import { type ReadChoice, readAlike, readChoice } from '../values/lexicon';
import { readSize, type Size, sizesMeet } from '../values/sizes';
import { partsOf, sameMeaning, stem, stopWords } from '../words/lexicon';
import { stemOf } from '../words/stems';

/**
 * Which of a partner's variants is which of the merchant's items. Both sides name goods in their own words and units; each pair is
 * worth what speaks for it less what speaks against it, and all are paired at once, so that no two items claim one variant.
 */

/** An item, or a partner's variant. */
export interface CatalogProduct {
  /** The SKU, or the partner's own code. */
  readonly code: string;
  /** By attribute; an item's with its family's. */
  readonly values: Values;
}

/** What speaks for and against two being one. */
export interface Similarity {
  readonly worth: number;
  readonly supports: readonly string[];
  readonly objects: readonly string[];
  /** Whether something shows that they are not one, whatever else agrees. */
  readonly contradicts: boolean;
  /** Where it is open whether their colours are one: in how many families they must go together to be taken for it; 0 else. */
  readonly open: number;
  /** Whether a number says that they are one. */
  readonly numbered: boolean;
}

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

/** What a ware says, read once. */
interface Read {
  readonly ware: CatalogProduct;
  /** What its family has in common. */
  readonly group: string;
  readonly name: string;
  readonly words: readonly string[];
  /** Those that say neither its colour nor its brand nor a size. */
  readonly named: readonly string[];
  readonly measures: readonly Measure[];
  readonly size: Size | undefined;
  readonly sizeText: string;
  readonly colour: string;
  readonly colourRead: ReadChoice | undefined;
  /** Values on further axes, folded, by attribute. */
  readonly others: ReadonlyMap<string, string>;
  readonly gtin: string | undefined;
  readonly brand: string;
  readonly mpn: string;
}

const colourAxes: readonly string[] = ['color', 'glaze', 'colour'];
const measured =
  /(\d+(?:[.,/]\d+)?)\s*(?:[-\s]?)(cm|mm|m|in|inch|inches|"|″|ft|l|litre|liter|ml|cl|g|kg|oz|lb|lbs|w|watt|fl oz)(?![\p{L}])/giu;
const lengthUnits = new Set(['mm', 'cm', 'dm', 'm', 'in', 'ft', 'yd']);

/** The measures a text names: "14 cm", `5 1/2"`, "30 x 40 cm". */
function measuresIn(text: string): Measure[] {
  const complete = readMeasure(text);
  if (complete) return [complete];
  const plain = text
    .replace(/(\d+)[\s-]+(\d)\/(\d)/g, (_, n, a, b) => String(Number(n) + Number(a) / Number(b)))
    .replace(/(\d+)\s*½/g, '$1.5')
    .replace(/(\d+)\s*¼/g, '$1.25')
    .replace(/(\d+)\s*¾/g, '$1.75')
    // "30 x 40 cm" is two lengths.
    .replace(/(\d+(?:[.,]\d+)?)\s*[x×]\s*(?=\d+(?:[.,]\d+)?\s*(cm|mm|in|"|″|m)\b)/gi, '$1 $2 ');
  return [...plain.matchAll(measured)].flatMap(([, amount = '', unit = '']) => {
    const known = unitOf(unit === '″' ? 'in' : unit);
    return known === undefined ? [] : [{ amount: amount.replace(',', '.'), unit: known }];
  });
}

/** Words of a name that say what it is: no measures, no joining words; each in its plain form. */
function nameWords(text: string): string[] {
  return fold(text.replace(measured, ' '))
    .split(' ')
    .filter((word) => word.length > 1 && !/^\d+$/.test(word) && !stopWords.has(word))
    .map(stem);
}

function read(ware: CatalogProduct): Read {
  const { values } = ware;
  const text = (code: string) => asText(values[code]).trim();
  const name = text('name');
  const axes = axisCodes.map((code) => [code, text(code)] as const).filter(([, value]) => value !== '');
  const own = axes.filter(([code]) => !colourAxes.includes(code)).flatMap(([, value]) => measuresIn(value));
  const measures = own.length > 0 ? own : measuresIn(name);
  const sizeText = text('size');
  const inName =
    /(?:^|[\s,(/-])((?:\d?X{0,3}[SL])|M|small|medium|large|x-large)(?=$|[\s,)/-])/u.exec(name)?.[1] ?? '';
  const colourSaid = colourAxes.map(text).find((value) => value !== '') ?? '';
  const named = colourSaid === '' ? colourIn(name) : colourSaid;
  const others = new Map(
    axes
      .filter(
        ([code, value]) => !colourAxes.includes(code) && code !== 'size' && measuresIn(value).length === 0,
      )
      .map(([code, value]) => [code, fold(value)]),
  );
  const gtin = readIdentifier(text('gtin'));
  const words = nameWords(name);
  const stated = new Set([...nameWords(named), ...nameWords(text('brand'))]);
  return {
    ware,
    group: fold(text('family')) || nameWords(name.replace(named === '' ? /$^/ : named, ' ')).join(' '),
    name,
    words,
    named: [...new Set(words)].filter((word) => !stated.has(word) && !readSize(word)),
    measures,
    size: readSize(sizeText === '' ? inName : sizeText),
    sizeText: fold(sizeText === '' ? inName : sizeText),
    colour: named,
    colourRead: named === '' ? undefined : readChoice(named),
    others,
    gtin: gtin.verdict === 'valid' || gtin.verdict === 'restricted' ? gtin.normal : undefined,
    brand: fold(text('brand')),
    mpn: fold(text('mpn')),
  };
}

/** The last words of a name that name a colour: "Planter, moss green" and "Apron slate/M". */
function colourIn(name: string): string {
  const parts = name.split(/[,/|()–-]/).map((part) => part.trim());
  for (const part of parts.toReversed()) {
    const words = part.split(' ');
    for (const tail of [part, words.slice(-2).join(' '), words.at(-1) ?? '']) {
      const found =
        tail === '' || tail === name || measuresIn(tail).length > 0 || readSize(tail)
          ? undefined
          : readChoice(tail);
      if (found && found.sure >= 0.8) return tail;
    }
  }
  return '';
}

/** How much each word of names tells: rare ones more. */
function weights(wares: readonly Read[]): (word: string) => number {
  const counts = new Map<string, number>();
  for (const { words } of wares)
    for (const word of new Set(words)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return (word) => Math.log(1 + wares.length / (counts.get(word) ?? 1));
}

const kin = new Map<string, ReadonlySet<string>>();
/** A word, what means the same in any language, and what it is put together of. */
function kinOf(word: string): ReadonlySet<string> {
  const known = kin.get(word);
  if (known) return known;
  const parts = partsOf(word);
  const found = new Set([
    word,
    stemOf(word, 'en'),
    ...sameMeaning(word),
    ...parts,
    ...parts.flatMap(sameMeaning),
  ]);
  if (kin.size > 5000) kin.clear();
  kin.set(word, found);
  return found;
}

/** Whether two words are one, or mean the same. */
function areKin(word: string, other: string): boolean {
  if (word === other) return true;
  const theirs = kinOf(other);
  for (const one of kinOf(word)) if (theirs.has(one)) return true;
  return false;
}

/** Share of what two names say that both say, 0 to 1, words of the same meaning counted a little less than the same word. */
function nameSimilarity(a: Read, b: Read, weight: (word: string) => number): number {
  const [left, right] = [a.named, b.named];
  if (left.length === 0 || right.length === 0) return 0;
  const taken = new Set<string>();
  let shared = 0;
  for (const word of left) {
    const same = right.includes(word) && !taken.has(word) ? word : undefined;
    const alike = same ?? right.find((other) => !taken.has(other) && areKin(word, other));
    if (alike === undefined) continue;
    taken.add(alike);
    shared += (same ? 1 : 0.85) * (weight(word) + weight(alike));
  }
  const all = [...left, ...right].reduce((sum, word) => sum + weight(word), 0);
  return shared / all;
}

/** How far two lengths may lie apart and still be the same: what rounding to whole or half inches does. */
const sameMeasure = (one: number, other: number, isLength: boolean): boolean =>
  Math.abs(one - other) <= Math.max(0.035 * Math.max(one, other), isLength ? 0.0033 : 0);

const shown = ({ amount, unit }: Measure) => `${amount} ${unit}`;

/** Measures of one dimension of both sides, each pair once. */
function compareMeasures(a: Read, b: Read): { same: string[]; differ: string[] } {
  const [same, differ]: [string[], string[]] = [[], []];
  const left = [...b.measures];
  for (const one of a.measures) {
    const isLength = lengthUnits.has(one.unit);
    const base = isLength ? 'm' : one.unit;
    const alike = left
      .map((other, at) => ({ other, at, amount: Number(convert(other, base) ?? Number.NaN) }))
      .filter(({ amount }) => !Number.isNaN(amount));
    if (alike.length === 0) continue;
    const wanted = Number(convert(one, base) ?? one.amount);
    alike.sort((x, y) => Math.abs(x.amount - wanted) - Math.abs(y.amount - wanted));
    const [nearest] = alike;
    if (!nearest) continue;
    left.splice(nearest.at, 1);
    if (sameMeasure(wanted, nearest.amount, isLength))
      same.push(one.unit === nearest.other.unit ? shown(one) : `${shown(one)} is ${shown(nearest.other)}`);
    else differ.push(`${shown(one)} is not ${shown(nearest.other)}`);
  }
  return { same, differ };
}

/** What speaks for and against an item and a variant being one. */
function compare(a: Read, b: Read, weight: (word: string) => number): Similarity {
  const supports: string[] = [];
  const objects: string[] = [];
  let worth = 0;
  let contradicts = false;
  let open = 0;
  let numbered = false;
  const support = (points: number, words: string) => {
    worth += points;
    supports.push(words);
  };
  const object = (points: number, words: string, excludes = false) => {
    worth -= points;
    objects.push(words);
    contradicts ||= excludes;
  };

  const named = nameSimilarity(a, b, weight);
  worth += 55 * named;
  if (named >= 0.5) supports.push('the names say the same');
  else if (named < 0.25) objects.push('the names have little in common');

  if (a.gtin && b.gtin) {
    numbered = a.gtin === b.gtin;
    if (numbered) support(60, 'the same GTIN');
    else object(12, 'another GTIN');
  }
  if (a.mpn !== '' && a.mpn === b.mpn) {
    numbered = true;
    support(40, 'the same part number');
  }
  if (a.brand !== '' && b.brand !== '') {
    if (a.brand === b.brand) support(4, 'the same brand');
    else object(40, `the brand is ${asText(b.ware.values.brand)}`);
  }

  const measures = compareMeasures(a, b);
  if (measures.differ.length > 0) object(60, measures.differ[0] as string, true);
  else if (measures.same.length > 0) support(22, measures.same.join(', '));
  else if (a.measures.length + b.measures.length > 0) worth -= 4;

  if (a.sizeText !== '' && b.sizeText !== '') {
    const meet = a.size && b.size ? sizesMeet(a.size, b.size) : undefined;
    if (a.sizeText === b.sizeText) support(22, `size ${a.sizeText.toUpperCase()}`);
    else if (meet) support(20, `${a.sizeText} and ${b.sizeText} are the same size`);
    else if (a.size && b.size) object(60, `size ${a.sizeText} is not ${b.sizeText}`, true);
  }

  if (a.colour !== '' && b.colour !== '') {
    const [one, other] = [fold(a.colour), fold(b.colour)];
    const within = one === other || ` ${other} `.includes(` ${one} `) || ` ${one} `.includes(` ${other} `);
    const alike = a.colourRead && b.colourRead ? readAlike(a.colourRead, b.colourRead) : undefined;
    open = within || (alike ?? 0) >= 0.6 ? 0 : alike === undefined ? 2 : 4;
    if (within) support(26, one === other ? `both ${a.colour}` : `${a.colour} is ${b.colour}`);
    else if (alike === undefined) objects.push(`whether ${a.colour} is ${b.colour} is not known`);
    else if (alike >= 0.6) support(18 * alike, `${a.colour} may be called ${b.colour}`);
    // Plain words for colours exclude each other; what a shop calls its shades need not be what they are elsewhere.
    else if (alike < 0.3 && isPlain(a.colourRead) && isPlain(b.colourRead))
      object(60, `${a.colour} is not ${b.colour}`, true);
    else object(10, `${a.colour} is hardly ${b.colour}`);
  }
  if ((a.colour === '') !== (b.colour === ''))
    objects.push(
      a.colour === '' ? `only theirs says a colour: ${b.colour}` : `only yours says a colour: ${a.colour}`,
    );
  for (const [code, value] of a.others) {
    const other = b.others.get(code);
    if (other === undefined) continue;
    if (value === other) support(12, value);
    else object(40, `${value} is not ${other}`, true);
  }
  return { worth: Math.round(worth * 10) / 10, supports, objects, contradicts, open, numbered };
}

/** Whether both name a colour, a size and a measure, or neither does. */
const saysAsMuch = (a: Read, b: Read): boolean =>
  (a.colour === '') === (b.colour === '') &&
  (a.sizeText === '' || b.sizeText !== '' || b.measures.length > 0) &&
  a.measures.length > 0 === b.measures.length > 0;

const isPlain = (colour: ReadChoice | undefined): boolean => (colour?.sure ?? 0) >= 0.95;

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
function leads(
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
function tellingWords(wares: readonly Read[]): (one: Read) => readonly string[] {
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
function tellTheSame(a: Read, b: Read, ours: readonly string[], theirs: readonly string[]): boolean {
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
interface Match {
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
function matchFamilies(
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
function coloursTogether(
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

/** What a person has settled: pairs that are one, and pairs that are not. */
export interface Settled {
  readonly same: ReadonlyMap<string, string>;
  readonly not: ReadonlySet<string>;
}

const noneSettled: Settled = { same: new Map(), not: new Set() };

/** Under which two that are not one are remembered. */
export const pairKey = (sku: string, variant: string): string => `${sku}\0${variant}`;

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
            'their families go together',
            ...(families > 0
              ? [`${a.colour} goes with ${b.colour} in ${families} ${families === 1 ? 'family' : 'families'}`]
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
