import { fold } from '../text/folding';
import { isWord, withoutWords } from '../text/withoutWords';
import { neverShared, type Values } from './item';
import { asText, type Value } from './value';

/** How rows tell which of them are variants of one product. */
export const groupingWays = ['sharedCode', 'parentCode', 'nesting', 'sameName', 'names'] as const;
export type GroupingWay = (typeof groupingWays)[number];

export interface GroupRow {
  readonly sku: string;
  readonly values: Values;
  /** The group's code, where the source gives one or its nesting implies one. */
  readonly group?: string | undefined;
  /** The code of the row this one is a variant of. */
  readonly parent?: string | undefined;
}

export type Misfit =
  /** no other row shares its group */
  | 'alone'
  /** another row of the group has the same value on every axis; it stays in the family only where the source itself puts it there */
  | 'sameAxes'
  /** names a parent code, and no sibling does; the parent is not in the file either */
  | 'noParent'
  /** has no name to compare */
  | 'noName';

export interface FoundFamily {
  readonly code: string;
  readonly name: string;
  readonly skus: readonly string[];
  /** Attributes that differ between its items, in the order of `axisCodes`. */
  readonly axes: readonly string[];
  /** Whether a row of its own stands for the family; that row is no item. */
  readonly parent: boolean;
  /** Values of the parent row, or those that stand once for the whole group. */
  readonly shared: Values | undefined;
}

export interface Grouping {
  readonly families: readonly FoundFamily[];
  readonly loose: readonly { sku: string; why: Misfit }[];
}

/** The parent a row names; a row that names itself has none. */
const parentOf = ({ sku, parent }: GroupRow): string | undefined =>
  parent && parent !== sku ? parent : undefined;

const nameOf = (row: GroupRow): string => asText(row.values.name);

/** A name without its axis words: the values the row has on its axes, and sizes such as "14 cm", "XL" or "500 ml". */
function stemOf(row: GroupRow, axisCodes: readonly string[]): string {
  let name = ` ${fold(nameOf(row))} `;
  for (const axis of axisCodes) {
    const value = fold(asText(row.values[axis]));
    if (value !== '') name = name.replace(` ${value} `, ' ');
  }
  return name
    .replace(/ \d+([ ]?\d+)?( ?(mm|cm|m|in|ml|cl|l|g|kg|w|v|pcs|pack))? /g, ' ')
    .replace(/ (xxs|xs|s|m|l|xl|xxl|xxxl|small|medium|large) /g, ' ')
    .trim();
}

/**
 * Groups rows into families, without changing anything: shows the families it would make, their axes, and what does not fit.
 * @param axisCodes attributes that may tell variants apart
 */
export function groupRows(
  rows: readonly GroupRow[],
  route: GroupingWay,
  axisCodes: readonly string[],
): Grouping {
  const loose: { sku: string; why: Misfit }[] = [];
  const groups = new Map<string, GroupRow[]>();
  const bySku = new Map(rows.map((row) => [row.sku, row]));
  const parents =
    route === 'parentCode' ? new Set(rows.flatMap((row) => parentOf(row) ?? [])) : new Set<string>();
  for (const row of rows) {
    if (parents.has(row.sku)) continue;
    const key = groupKeyOf(row, route, axisCodes);
    if (key === undefined)
      loose.push({ sku: row.sku, why: route === 'sameName' || route === 'names' ? 'noName' : 'alone' });
    else {
      const known = groups.get(key);
      if (known) known.push(row);
      else groups.set(key, [row]);
    }
  }
  const families: FoundFamily[] = [];
  for (const [key, members] of groups) {
    const parent = route === 'parentCode' ? bySku.get(key) : undefined;
    if (members.length < 2 && !parent) {
      for (const { sku } of members) loose.push({ sku, why: route === 'parentCode' ? 'noParent' : 'alone' });
      continue;
    }
    const axes = axisCodes.filter(
      (axis) => new Set(members.map((row) => fold(asText(row.values[axis])))).size > 1,
    );
    // A source that says itself what belongs together is believed; a likeness of names is not.
    const stated = route !== 'sameName' && route !== 'names';
    const taken = new Set<string>();
    const fitting = members.filter((row) => {
      const place = JSON.stringify(axes.map((axis) => fold(asText(row.values[axis]))));
      if (members.length > 1 && taken.has(place)) {
        loose.push({ sku: row.sku, why: 'sameAxes' });
        return stated;
      }
      taken.add(place);
      return true;
    });
    if (fitting.length < 2 && !parent) {
      for (const { sku } of fitting) loose.push({ sku, why: 'alone' });
      continue;
    }
    const [first] = fitting;
    const code = route === 'sameName' || route === 'names' ? (first?.sku ?? key) : key;
    families.push({
      code,
      name: parent ? nameOf(parent) : commonName(fitting, axes) || (first ? nameOf(first) : key),
      skus: fitting.map(({ sku }) => sku),
      axes,
      parent: parent !== undefined,
      shared: parent?.values ?? (stated ? valuesStatedOnce(fitting, axisCodes) : undefined),
    });
  }
  return { families, loose };
}

/**
 * What the names of a family's items have in common: their beginning and their end, without the words that tell them apart.
 * @returns '' where that is no name
 */
export function commonName(rows: readonly GroupRow[], axes: readonly string[]): string {
  const names = rows.map(nameOf).filter((name) => name !== '');
  const [first] = names;
  if (first === undefined) return '';
  // What all are called the family is called, colours in it included: "Moss pot" comes in chalk as well.
  if (names.every((other) => other === first)) return first;
  let [begins, ends] = [first.length, first.length];
  for (const other of names) {
    let at = 0;
    while (at < begins && other[at] === first[at]) at++;
    begins = at;
    at = 0;
    while (at < ends && other[other.length - 1 - at] === first[first.length - 1 - at]) at++;
    ends = at;
  }
  // Only whole words, and nothing twice.
  while (begins > 0 && names.some((one) => isWord(one[begins - 1]) && isWord(one[begins]))) begins--;
  const least = Math.min(...names.map(({ length }) => length));
  ends = Math.min(ends, least - begins);
  while (
    ends > 0 &&
    names.some((one) => isWord(one[one.length - ends]) && isWord(one[one.length - ends - 1]))
  )
    ends--;
  const end = ends > 0 ? first.slice(-ends) : '';
  // A unit goes with its number.
  const ofNumbers = names.every((one) => /\d\s*$/.test(one.slice(0, one.length - ends)));
  const common = `${first.slice(0, begins)} ${ofNumbers ? end.replace(/^\s*(?:\p{L}{1,3}|["″'′])(?![\p{L}\p{N}])/u, '') : end}`;
  // All variants of this import may share a value by chance: it still belongs to them, not to the family.
  const name = withoutWords(
    common,
    axes.flatMap((axis) => rows.map((row) => asText(row.values[axis]))),
  );
  return /\p{L}{2}/u.test(name) ? name : '';
}

/**
 * Values that a table says once a group, in its first row, and leaves out below. Only where the rows below have no name of
 * their own: a value that a named item lacks is missing, and its sibling's is not its own.
 */
function valuesStatedOnce(rows: readonly GroupRow[], axisCodes: readonly string[]): Values | undefined {
  const [first, ...others] = rows;
  if (!first || nameOf(first) === '' || others.length === 0 || others.some((row) => nameOf(row) !== ''))
    return undefined;
  const shared: Record<string, Value> = {};
  for (const [code, value] of Object.entries(first.values))
    if (
      !neverShared.has(code) &&
      !axisCodes.includes(code) &&
      others.every((row) => row.values[code] === undefined)
    )
      shared[code] = value;
  return shared;
}

/** What the rows of one family have in common; undefined where a row has nothing to be grouped by. */
export function groupKeyOf(
  row: GroupRow,
  route: GroupingWay,
  axisCodes: readonly string[],
): string | undefined {
  switch (route) {
    case 'sharedCode':
    case 'nesting':
      return row.group || undefined;
    case 'parentCode':
      return parentOf(row);
    case 'sameName':
      return fold(nameOf(row)) || undefined;
    case 'names':
      return stemOf(row, axisCodes) || undefined;
  }
}
