import type { AttributeIndex, Row, Value } from './value';

export type Values = Readonly<Record<string, Value>>;

/** The sellable unit. Values are by attribute code (schema.org `Product` and `Offer` where it has a word). */
export interface Item {
  readonly sku: string;
  readonly family?: string;
  readonly values: Values;
  /** The day on which anything of it was changed last, 2027-03-31. */
  readonly changedOn?: string;
}

/** schema.org `ProductGroup`: shared values and the axes its items vary by, in order. Not sellable itself. */
export interface Family {
  readonly code: string;
  readonly variesBy: readonly string[];
  readonly values: Values;
}

/** Under which a row holds the axes of its item's family, and that family's name: no attribute can have such a code. */
export const axesCode = '#axes';
export const familyNameCode = '#familyName';
/** Under which a row holds the day on which its item was changed last. */
export const changedCode = '#changed';
/** What a row holds besides values of attributes. */
export const rowCodes = ['sku', 'family', axesCode, familyNameCode, changedCode] as const;

/**
 * An item's values by slot, its own first, then its family's; and what it is told of its family. A row ends with the last of its
 * values: a catalog knows many more codes than one item has values for, and rows are held by the hundred thousand.
 */
export function rowOf(item: Item, family: Family | undefined, index: AttributeIndex): Row {
  const row: (Value | undefined)[] = new Array(index.codes.length).fill(undefined);
  let length = 0;
  const put = (code: string, value: Value | undefined) => {
    const slot = index.slotOf(code);
    if (slot === undefined) return;
    row[slot] = value;
    if (value !== undefined && slot >= length) length = slot + 1;
  };
  if (family) for (const code in family.values) put(code, family.values[code]);
  for (const code in item.values) put(code, item.values[code]);
  put('sku', item.sku);
  put('family', item.family);
  put(axesCode, family && family.variesBy.length > 0 ? family.variesBy : undefined);
  put(familyNameCode, family?.values.name);
  put(changedCode, item.changedOn);
  return row.slice(0, length);
}

/** Every attribute code that occurs in a catalog, `sku` first. */
export function codesIn(items: Iterable<Item>, families: Iterable<Family>): Set<string> {
  const codes = new Set<string>(['sku']);
  for (const holder of [families, items])
    for (const { values } of holder) for (const code of Object.keys(values)) codes.add(code);
  return codes;
}

/** The attribute that names the source that first brought an item. */
export const sourceCode = 'source';
/** The attribute that names the feeds that an item does not join yet. */
export const waitsForCode = 'waitsFor';
/** Attributes about the import of an item; no channel asks for them. */
export const aboutImport: ReadonlySet<string> = new Set([sourceCode, waitsForCode]);

/** Attributes that name one item and so are never a family's. */
export const neverShared: ReadonlySet<string> = new Set([
  'sku',
  'gtin',
  'mpn',
  'inventoryLevel',
  'url',
  ...aboutImport,
]);

/**
 * Builds families from items that name the same family code: what all of them share moves up to the family,
 * and attributes that differ and can tell variants apart become its axes.
 * @param axisCodes attributes that may become axes, in order of preference
 */
export function gatherFamilies(
  items: readonly Item[],
  axisCodes: readonly string[],
): { items: Item[]; families: Family[] } {
  const members = new Map<string, Item[]>();
  for (const item of items)
    if (item.family) {
      const known = members.get(item.family);
      if (known) known.push(item);
      else members.set(item.family, [item]);
    }
  const families = new Map<string, Family>();
  for (const [code, group] of members) {
    const shared: Record<string, Value> = {};
    const [first, ...others] = group;
    for (const [attribute, value] of Object.entries(first?.values ?? {})) {
      if (neverShared.has(attribute)) continue;
      const text = JSON.stringify(value);
      if (others.every((other) => JSON.stringify(other.values[attribute]) === text))
        shared[attribute] = value;
    }
    const variesBy = axisCodes.filter(
      (axis) => new Set(group.map((item) => JSON.stringify(item.values[axis] ?? ''))).size > 1,
    );
    families.set(code, { code, variesBy, values: shared });
  }
  return {
    families: [...families.values()],
    items: items.map((item) => {
      const family = item.family ? families.get(item.family) : undefined;
      if (!family) return item;
      const own = Object.entries(item.values).filter(([attribute]) => !(attribute in family.values));
      return { ...item, values: Object.fromEntries(own) };
    }),
  };
}

/**
 * The values of a row as they are kept. Rows come by the hundred thousand, so this looks at each value and makes nothing new.
 * @throws Error where one is neither a text nor a list of texts
 */
export function readValues(stored: unknown): Values {
  if (typeof stored !== 'object' || stored === null || Array.isArray(stored))
    throw new Error('The values of a row are kept as an object.');
  for (const [code, value] of Object.entries(stored)) {
    const isValue =
      typeof value === 'string' || (Array.isArray(value) && value.every((one) => typeof one === 'string'));
    if (!isValue) throw new Error(`The value of “${code}” is neither a text nor a list of texts.`);
  }
  return stored as Values;
}
