import { axesCode, neverShared } from '../catalog/item';
import { type AttributeIndex, asList, asText, listSeparator, type Row } from '../catalog/value';
import type { Steps } from '../listing/steps';
import { fold } from '../text/folding';

/**
 * Values that items lack, worked out of the rest of the catalog: from the members of the same family, from what a part of the
 * SKU means everywhere else, from words in the name, from what all other items of the category have. Each way is tried on items
 * that do have the value first, and what it says counts as sure only where it was right there.
 */

/** What a value was worked out from. */
export type Ground =
  | { readonly from: 'siblings'; readonly count: number }
  | { readonly from: 'sku'; readonly part: string; readonly count: number }
  | { readonly from: 'name'; readonly word: string }
  | { readonly from: 'category'; readonly category: string; readonly count: number }
  /** An address with what may not stand in one written as it must (RFC 3986). */
  | { readonly from: 'escaping' }
  /** A part of an address, put to the site that all others are on. */
  | { readonly from: 'site'; readonly site: string; readonly count: number };

/** How a way did on items that have the value: said and right. */
export interface Trial {
  readonly right: number;
  readonly of: number;
}

export interface InferredValue {
  readonly value: string;
  readonly ground: Ground;
  readonly trial: Trial;
  /** Whether its way is right nearly always, and no other such way says something else. */
  readonly sure: boolean;
}

/** The catalog as far as values are worked out of it. */
export interface Known {
  readonly skus: readonly string[];
  readonly rows: readonly Row[];
  readonly index: AttributeIndex;
}

type Observation = { value: string; ground: Ground } | undefined;
/** Says a value for the item at a place, without having looked at the one it has. */
type Way = (at: number) => Observation;

/** A way is sure where it was tried on so many and was right in this share. */
const MIN_TRIED = 5;
const rightFrom = 0.98;
/** What was wrong more often than this is not put forward at all. */
const worthFrom = 0.8;
/** Items that a way is tried on at most. */
const MAX_TRIED = 4000;
/** So many others of a category must have the one value before it is taken for all of them. */
const MIN_ALIKE = 5;
/**
 * What changes from day to day is for a person or a source to say: it is put forward, and never taken unseen.
 */
const dayToDay: ReadonlySet<string> = new Set([
  'price',
  'listPrice',
  'salePrice',
  'cost',
  'availability',
  'availabilityStarts',
  'condition',
  'sowBy',
]);
/** What the law asks about is the same for the variants of one thing, not for all things of a kind. */
const ofTheThing: ReadonlySet<string> = new Set([
  'countryOfOrigin',
  'customsCode',
  'energyClass',
  'dangerousGoods',
  'ageRange',
  'warning',
]);
/** Members of a family that a part of a SKU is held against. */
const MAX_SIBLINGS = 40;
/** Words shorter than this say nothing in a name. */
const MIN_WORD = 3;
/** Words an attribute may have; above it is no list of words but a text. */
const MAX_WORDS = 2000;

/** How often each value stands beside a key; of keys with more than two, only that there are many. */
class Counts {
  private readonly byKey = new Map<string, Map<string, number> | undefined>();
  add(key: string, value: string): void {
    if (!this.byKey.has(key)) this.byKey.set(key, new Map());
    const known = this.byKey.get(key);
    if (!known) return;
    known.set(value, (known.get(value) ?? 0) + 1);
    if (known.size > 2) this.byKey.set(key, undefined);
  }
  /** The one value beside a key and how often, not counting once what the asker has itself; undefined where there are several. */
  only(key: string, own: string | undefined): { value: string; count: number } | undefined {
    let found: { value: string; count: number } | undefined;
    for (const [value, count] of this.byKey.get(key) ?? []) {
      const others = value === own ? count - 1 : count;
      if (others <= 0) continue;
      if (found) return undefined;
      found = { value, count: others };
    }
    return found;
  }
}

/** The parts of a SKU, with the place of each and how many there are: "3/1 OVA". */
const partsOfSku = (sku: string): { key: string; part: string }[] => {
  const parts = sku.split(/[-_./ ]+/).filter((part) => part !== '');
  return parts.map((part, at) => ({ key: `${parts.length}/${at} ${part}`, part }));
};

/** What was learned of an attribute: says what can be said of the value of the item at a place. */
export type ValueInference = (at: number) => InferredValue | undefined;

/** Rows that are learned from between two steps. */
const BATCH_ROWS = 1000;

/**
 * Learns what can be said of the values of an attribute, step by step.
 * @param attribute its code; nothing is worked out of lists, of what no item has, nor of what each item has for itself
 */
export function* inferring(attribute: string, known: Known): Steps<ValueInference> {
  const { rows, skus, index } = known;
  const slot = index.slotOf(attribute);
  if (slot === undefined || neverShared.has(attribute)) return () => undefined;
  const own = (at: number): string | undefined => {
    const value = rows[at]?.[slot];
    return typeof value === 'string' && value !== '' ? value : undefined;
  };
  const at = (code: string) => {
    const place = index.slotOf(code);
    return (item: number) => (place === undefined ? '' : asText(rows[item]?.[place]));
  };
  const [familyOf, nameOf, categoryOf] = [at('family'), at('name'), at('category')];
  const axesAt = index.slotOf(axesCode);
  const isAxis = (item: number) => axesAt !== undefined && asList(rows[item]?.[axesAt]).includes(attribute);

  const families = new Map<string, number[]>();
  const [bySku, byCategory, byFamily] = [new Counts(), new Counts(), new Counts()];
  const words = new Map<string, string | undefined>();
  const holders: number[] = [];
  for (let item = 0; item < rows.length; item++) {
    if (item % BATCH_ROWS === 0) yield;
    const value = own(item);
    if (value === undefined) continue;
    holders.push(item);
    const family = familyOf(item);
    if (family !== '') {
      byFamily.add(family, value);
      const members = families.get(family) ?? [];
      families.set(family, members);
      if (members.length < MAX_SIBLINGS) members.push(item);
    }
    byCategory.add(categoryOf(item), value);
    for (const { key } of partsOfSku(skus[item] ?? '')) bySku.add(key, value);
    if (words.size <= MAX_WORDS) {
      const word = fold(value);
      // Two values that read alike say nothing of each other.
      words.set(word, words.has(word) && words.get(word) !== value ? undefined : value);
    }
  }
  const longestWord = Math.max(0, ...[...words.keys()].map((word) => word.split(' ').length));
  /** Some members of the item's family that have the value. */
  const siblingsOf = (item: number) => (families.get(familyOf(item)) ?? []).filter((other) => other !== item);

  const ways: readonly Way[] = [
    (item) => {
      const family = familyOf(item);
      const meant = family === '' || isAxis(item) ? undefined : byFamily.only(family, own(item));
      return meant && { value: meant.value, ground: { from: 'siblings', count: meant.count } };
    },
    (item) => {
      const siblings = siblingsOf(item);
      if (siblings.length === 0) return undefined;
      const stated = new Map<string, { part: string; count: number }>();
      partsOfSku(skus[item] ?? '').forEach(({ key, part }, place) => {
        const meant = bySku.only(key, own(item));
        if (!meant || meant.count < 2) return;
        // The part at this place must tell the value of every sibling, and not be the same in all of the family.
        const parts = siblings.map((other) => partsOfSku(skus[other] ?? '')[place]);
        const tells = siblings.every((other, n) => {
          const theirs = parts[n];
          return theirs !== undefined && bySku.only(theirs.key, undefined)?.value === own(other);
        });
        const differs = parts.some((theirs) => theirs?.key !== key);
        if (tells && differs) stated.set(meant.value, { part, count: meant.count });
      });
      const [first] = stated;
      return stated.size === 1 && first
        ? { value: first[0], ground: { from: 'sku', ...first[1] } }
        : undefined;
    },
    (item) => {
      if (words.size > MAX_WORDS) return undefined;
      const name = fold(nameOf(item)).split(' ');
      const stated = new Set<string>();
      for (let from = 0; from < name.length; from++)
        for (let length = 1; length <= Math.min(longestWord, name.length - from); length++) {
          const word = name.slice(from, from + length).join(' ');
          const value = word.length < MIN_WORD ? undefined : words.get(word);
          if (value !== undefined) stated.add(value);
        }
      const [value] = stated;
      return stated.size === 1 && value !== undefined
        ? { value, ground: { from: 'name', word: value } }
        : undefined;
    },
    (item) => {
      const category = categoryOf(item);
      const meant = category === '' || isAxis(item) ? undefined : byCategory.only(category, own(item));
      return meant && meant.count >= MIN_ALIKE
        ? { value: meant.value, ground: { from: 'category', category, count: meant.count } }
        : undefined;
    },
  ];

  const every = Math.ceil(holders.length / MAX_TRIED);
  const trials = ways.map(() => ({ right: 0, of: 0 }));
  for (let n = 0; n < holders.length; n += every) {
    if ((n / every) % (BATCH_ROWS / 10) === 0) yield;
    const item = holders[n] as number;
    ways.forEach((route, at) => {
      const stated = route(item);
      const trial = trials[at];
      if (!stated || !trial) return;
      trial.of++;
      if (stated.value === own(item)) trial.right++;
    });
  }
  const [bare = attribute] = attribute.split('@');
  const sureOf = ({ right, of }: Trial, { from }: Ground) =>
    of >= MIN_TRIED &&
    right >= rightFrom * of &&
    !dayToDay.has(bare) &&
    !(from === 'category' && ofTheThing.has(bare));
  return (item) => {
    const stated = ways.flatMap((route, at) => {
      const trial = trials[at] as Trial;
      const one = trial.right < worthFrom * trial.of ? undefined : route(item);
      return one ? [{ ...one, trial, sure: sureOf(trial, one.ground) }] : [];
    });
    const best = stated.find(({ sure }) => sure) ?? stated[0];
    return (
      best && { ...best, sure: best.sure && stated.every(({ sure, value }) => !sure || value === best.value) }
    );
  };
}

const parsed = (address: string, site?: string): URL | undefined =>
  URL.canParse(address, site) ? new URL(address, site) : undefined;

/** The site of an address: scheme and host; undefined where it is no whole web address. */
function siteOf(address: string): string | undefined {
  const url = parsed(address);
  return url && /^https?:$/.test(url.protocol) ? url.origin : undefined;
}

/** What may not stand in an address as it is. */
const unescaped = /[\s<>"{}|\\^`]/;

/** The sites that an attribute's addresses lead to, and how many do; where there are several, not all of them. */
export function sitesIn(
  attribute: string,
  { rows, index }: Pick<Known, 'rows' | 'index'>,
): ReadonlyMap<string, number> {
  const sites = new Map<string, number>();
  const slot = index.slotOf(attribute);
  if (slot === undefined) return sites;
  // The same beginning is of the same site: it is read once.
  const read = new Map<string, string | undefined>();
  for (const row of rows) {
    for (const address of asList(row[slot])) {
      const [beginning] = /^https?:\/\/[^/?#\s\\]+(?=[/?#]|$)/i.exec(address) ?? [address];
      if (!read.has(beginning)) read.set(beginning, siteOf(beginning));
      const site = read.get(beginning);
      if (site !== undefined) sites.set(site, (sites.get(site) ?? 0) + 1);
    }
    // Parts of addresses could be of any of them.
    if (sites.size > 1) break;
  }
  return sites;
}

/**
 * Addresses as they were meant: with characters escaped that may not stand in one, and parts of addresses put to the site that
 * all whole ones are on. Nothing is said of one that this does not make an address.
 * @param wanting places of the items whose addresses are refused
 * @param sites those of {@link sitesIn}, where they are known already
 * @returns by place; lists with {@link listSeparator} between their entries
 */
export function mendLinks(
  attribute: string,
  wanting: readonly number[],
  known: Known,
  sites: ReadonlyMap<string, number> = sitesIn(attribute, known),
): Map<number, InferredValue> {
  const result = new Map<number, InferredValue>();
  const slot = known.index.slotOf(attribute);
  if (slot === undefined) return result;
  const [only] = sites;
  for (const at of wanting) {
    let ground: Ground | undefined;
    const mended = asList(known.rows[at]?.[slot]).map((address) => {
      const trimmed = address.trim();
      if (siteOf(trimmed) !== undefined) {
        if (!unescaped.test(trimmed)) return trimmed;
        ground ??= { from: 'escaping' };
        return parsed(trimmed)?.href;
      }
      if (sites.size !== 1 || !only || !/^[/.]|^[\w-]+(?:[/.]|$)/.test(trimmed)) return undefined;
      ground = { from: 'site', site: only[0], count: only[1] };
      return parsed(trimmed, `${only[0]}/`)?.href;
    });
    if (!ground || mended.some((address) => address === undefined)) continue;
    result.set(at, { value: mended.join(listSeparator), ground, trial: { right: 0, of: 0 }, sure: true });
  }
  return result;
}
