import { axisCodes } from '../catalog/attributes';
import type { Values } from '../catalog/item';
import { asText } from '../catalog/value';
import { readIdentifier } from '../identifiers/gtin';
import { convert, type Measure, readMeasure, unitOf } from '../measures/units';
import { fold } from '../text/folding';
import { type ReadChoice, readAlike, readChoice } from '../values/lexicon';
import { readSize, type Size, sizesMeet } from '../values/sizes';
import { stem, stopWords } from '../words/lexicon';
import { areKin } from './kin';

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

/** What a ware says, read once. */
export interface Read {
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

export function read(ware: CatalogProduct): Read {
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
export function weights(wares: readonly Read[]): (word: string) => number {
  const counts = new Map<string, number>();
  for (const { words } of wares)
    for (const word of new Set(words)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return (word) => Math.log(1 + wares.length / (counts.get(word) ?? 1));
}

/** Share of what two names say that both say, 0 to 1, words of the same meaning counted a little less than the same word. */
export function nameSimilarity(a: Read, b: Read, weight: (word: string) => number): number {
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
export function compare(a: Read, b: Read, weight: (word: string) => number): Similarity {
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
  if (named >= 0.5) supports.push('the names mean the same');
  else if (named < 0.25) objects.push('the names have little in common');

  if (a.gtin && b.gtin) {
    numbered = a.gtin === b.gtin;
    if (numbered) support(60, 'the same GTIN');
    else object(12, 'a different GTIN');
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
    else if (alike === undefined) objects.push(`whether ${a.colour} is ${b.colour} is unknown`);
    else if (alike >= 0.6) support(18 * alike, `${a.colour} may be called ${b.colour}`);
    // Plain words for colours exclude each other; what a shop calls its shades need not be what they are elsewhere.
    else if (alike < 0.3 && isPlain(a.colourRead) && isPlain(b.colourRead))
      object(60, `${a.colour} is not ${b.colour}`, true);
    else object(10, `${a.colour} is probably not ${b.colour}`);
  }
  if ((a.colour === '') !== (b.colour === ''))
    objects.push(
      a.colour === ''
        ? `only the supplier names a colour: ${b.colour}`
        : `only you name a colour: ${a.colour}`,
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
export const saysAsMuch = (a: Read, b: Read): boolean =>
  (a.colour === '') === (b.colour === '') &&
  (a.sizeText === '' || b.sizeText !== '' || b.measures.length > 0) &&
  a.measures.length > 0 === b.measures.length > 0;

const isPlain = (colour: ReadChoice | undefined): boolean => (colour?.sure ?? 0) >= 0.95;
