import { Decimal } from 'decimal.js';
import { eq } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { isComputedColumn, itemColumn } from '../../core/catalog/itemColumns';
import { shownText } from '../../core/catalog/reading';
import { asList, asText, type Row, type Value } from '../../core/catalog/value';
import { readAmount } from '../../core/measures/money';
import { readNumber } from '../../core/measures/numbers';
import { convert, readMeasure } from '../../core/measures/units';
import { fold } from '../../core/text/folding';
import { csvPieces, sheetPieces } from '../../files/workbooks/sheets';
import { currentSnapshot, type Snapshot } from '../catalog/snapshot';
import { db } from '../db/connection';
import { family, item, type Origin } from '../db/schema';
import { pictureFile } from '../pictures/pictures';
import { procedure } from '../rpc/rpc';
import { Memo, WeakMemo } from '../runtime/memo';
import { createTempDownload, type TempDownload } from '../storage/files';
import { computedCells } from './computedColumns';

export interface ItemRow {
  readonly sku: string;
  readonly picture: string | undefined;
  readonly cells: Readonly<Record<string, string>>;
}

export interface ItemQuery {
  readonly columns: readonly string[];
  readonly search: string;
  readonly filters: Readonly<Record<string, string>>;
  readonly sort: string;
  readonly descending: boolean;
  /** Only these items, whatever else is asked. */
  readonly only?: readonly string[] | undefined;
  readonly from: number;
  readonly count: number;
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

const folded = new WeakMemo<Row, { readonly slots: string; readonly text: string }>('searched items');
const searched = new Memo<readonly string[], readonly [Snapshot]>({
  owner: 'searched columns',
  maxEntries: 1,
});

/**
 * What stands in some cells of every row, as it is searched; kept for the columns that were searched last, and of rows that
 * stay as they are from one revision to the next.
 */
function foldedTexts(snapshot: Snapshot, slots: readonly number[]): readonly string[] {
  const key = slots.join();
  const before = searched.withDependencies(key);
  if (before?.dependencies[0] === snapshot) return before.value;
  const texts = snapshot.rows.map((row) => {
    const known = folded.get(row);
    if (known?.slots === key) return known.text;
    const text = fold(slots.map((slot) => asText(row[slot])).join(' '));
    folded.set(row, { slots: key, text });
    return text;
  });
  searched.set(key, texts, snapshot);
  return texts;
}

/** A text with its punctuation, without capitals and accents. */
const written = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** The positions of a snapshot that a query matches, in its order. */
function matching(
  snapshot: Snapshot,
  { search, filters, sort, descending, columns, only: asked }: Omit<ItemQuery, 'from' | 'count'>,
): number[] {
  const slots = columns.map((code) => snapshot.index.slotOf(code)).filter((slot) => slot !== undefined);
  const words = fold(search)
    .split(' ')
    .filter((word) => word !== '');
  const kindOf = attributeFinder(snapshot);
  const wanted = Object.entries(filters).flatMap(([code, text]) => {
    const slot = snapshot.index.slotOf(code);
    return slot === undefined || text === '' ? [] : [{ slot, kind: kindOf(code), text: text.toLowerCase() }];
  });
  // Words are looked for without punctuation; where some stands in a word as typed it is part of it: "AU-" is no "saucers".
  const typed = written(search)
    .split(/\s+/u)
    .map((word) => word.replace(/[,;]+$/u, ''))
    .filter((word) => /[^\p{L}\p{N}]/u.test(word));
  const hasTyped = (row: Row, at: number): boolean => {
    const cells = [snapshot.skus[at] ?? '', ...slots.map((slot) => asText(row[slot]))].map(written);
    return typed.every((word) => cells.some((cell) => cell.includes(word)));
  };
  const only = asked && asked.length > 0 ? new Set(asked) : undefined;
  const found: number[] = [];
  const texts = words.length > 0 ? foldedTexts(snapshot, slots) : [];
  snapshot.rows.forEach((row, at) => {
    // A dash asks for empty cells, an equals sign for the whole cell; everything else is looked for inside the cell.
    for (const { slot, kind, text } of wanted) {
      const cell = shownText(kind, row[slot]).toLowerCase();
      if (text === '-' ? cell !== '' : text.startsWith('=') ? cell !== text.slice(1) : !cell.includes(text))
        return;
    }
    if (only && !only.has(snapshot.skus[at] ?? '')) return;
    if (!words.every((word) => texts[at]?.includes(word))) return;
    if (typed.length > 0 && !hasTyped(row, at)) return;
    found.push(at);
  });
  const slot = snapshot.index.slotOf(sort);
  if (slot !== undefined) {
    const cells = new Map(found.map((at) => [at, asText(snapshot.rows[at]?.[slot])]));
    const sizes = sizesOf(kindOf(sort).kind, cells);
    const sign = descending ? -1 : 1;
    found.sort((a, b) => {
      const [left, right] = [cells.get(a) ?? '', cells.get(b) ?? ''];
      // Empty cells stand last whichever way the rest is sorted.
      if (left === '' || right === '') return Number(left === '') - Number(right === '') || a - b;
      const [one, other] = [sizes?.get(a), sizes?.get(b)];
      // What cannot be read as a number stands behind what can.
      if (sizes && (one === undefined || other === undefined) && one !== other)
        return Number(one === undefined) - Number(other === undefined) || a - b;
      const order =
        one !== undefined && other !== undefined ? one.comparedTo(other) : collator.compare(left, right);
      return sign * order || a - b;
    });
  }
  return found;
}

/** Decimals by which numbers, measures and amounts are sorted, by position; undefined for kinds that are sorted as text. */
function sizesOf(
  kind: Attribute['kind'],
  cells: ReadonlyMap<number, string>,
): ReadonlyMap<number, Decimal> | undefined {
  const read: Partial<Record<Attribute['kind'], (text: string) => string | undefined>> = {
    number: (text) => readNumber(text),
    money: (text) => readAmount(text)?.amount,
    measure: (text) => {
      const measure = readMeasure(text);
      // Weights against weights and lengths against lengths, whatever unit each is written in.
      return (
        measure && (baseUnits.map((unit) => convert(measure, unit)).find((one) => one) ?? measure.amount)
      );
    },
  };
  const of = read[kind];
  if (!of) return undefined;
  const sizes = new Map<number, Decimal>();
  for (const [at, text] of cells) {
    const amount = text === '' ? undefined : of(text);
    if (amount !== undefined) sizes.set(at, new Decimal(amount));
  }
  return sizes;
}

/** One unit of each dimension. */
const baseUnits = ['g', 'mm', 'ml', 'W', 'V'];

/** Finds how an attribute is kept; codes that no attribute defines are texts. */
function attributeFinder({
  attributes,
}: Snapshot): (code: string) => Pick<Attribute, 'code' | 'kind' | 'terms' | 'list'> {
  const known = new Map(attributes.map((one) => [one.code, one]));
  return (code) => known.get(code) ?? { code, kind: 'text' };
}

/** A window of the catalog, sorted and filtered; `total` counts all that match. */
export const queryItems = procedure('items', itemsOf);
async function itemsOf(query: ItemQuery): Promise<{ total: number; all: number; rows: ItemRow[] }> {
  const snapshot = await currentSnapshot();
  const found = matching(snapshot, query);
  const image = snapshot.index.slotOf('image') ?? -1;
  const kindOf = attributeFinder(snapshot);
  const shown = found.slice(query.from, query.from + query.count);
  const computed = await computedCells(
    query.columns,
    shown.map((at) => snapshot.skus[at] ?? ''),
  );
  return {
    total: found.length,
    all: snapshot.items.length,
    rows: shown.map((at) => {
      const row = snapshot.rows[at] ?? [];
      const [first] = asList(row[image]);
      return {
        sku: snapshot.skus[at] ?? '',
        picture: first ? pictureFile(first) : undefined,
        cells: Object.fromEntries(
          query.columns.map((code) => [
            code,
            isComputedColumn(code)
              ? computed(code, snapshot.skus[at] ?? '')
              : shownText(kindOf(code), row[snapshot.index.slotOf(code) ?? -1]).slice(0, 200),
          ]),
        ),
      };
    }),
  };
}

export interface ItemDetail {
  readonly sku: string;
  readonly family: { code: string; members: readonly string[] } | undefined;
  readonly own: Readonly<Record<string, Value>>;
  readonly shared: Readonly<Record<string, Value>>;
  readonly origins: Readonly<Record<string, Origin>>;
  readonly archived: boolean;
}

export async function findItem(sku: string): Promise<ItemDetail | undefined> {
  const [found] = await db.select().from(item).where(eq(item.sku, sku));
  if (!found) return undefined;
  const members = found.family
    ? await db.select({ sku: item.sku }).from(item).where(eq(item.family, found.family)).orderBy(item.id)
    : [];
  const [group] = found.family ? await db.select().from(family).where(eq(family.code, found.family)) : [];
  return {
    sku,
    family: found.family ? { code: found.family, members: members.map((member) => member.sku) } : undefined,
    own: found.values,
    shared: group?.values ?? {},
    origins: found.origins,
    archived: found.archived,
  };
}

/** SKUs that a query matches, all of them, in its order. */
export const matchingSkus = procedure(
  'matchingSkus',
  async (query: Omit<ItemQuery, 'from' | 'count'>): Promise<string[]> => {
    const snapshot = await currentSnapshot();
    return matching(snapshot, query).map((at) => snapshot.skus[at] ?? '');
  },
);

/** The rows that a query matches with the columns it shows, for an export: each is made when it is asked for. */
export async function itemTable(
  given: Omit<ItemQuery, 'from' | 'count'>,
): Promise<{ headings: string[]; rows: Iterable<string[]> }> {
  // The key stands in front and among the attributes: each column comes once.
  const query = { ...given, columns: [...new Set(given.columns)] };
  const snapshot = await currentSnapshot();
  const slots = query.columns.map((code) => snapshot.index.slotOf(code) ?? -1);
  const labels = new Map(snapshot.attributes.map(({ code, label }) => [code, label]));
  const kindOf = attributeFinder(snapshot);
  const found = matching(snapshot, query);
  const computed = await computedCells(
    query.columns,
    found.map((at) => snapshot.skus[at] ?? ''),
  );
  const cell = (at: number, i: number): string => {
    const code = query.columns[i] ?? '';
    return isComputedColumn(code)
      ? computed(code, snapshot.skus[at] ?? '')
      : shownText(kindOf(code), snapshot.rows[at]?.[slots[i] ?? -1]);
  };
  return {
    headings: query.columns.map((code) => itemColumn(code)?.label ?? labels.get(code) ?? code),
    rows: (function* () {
      for (const at of found) yield slots.map((_slot, i) => cell(at, i));
    })(),
  };
}

/** What a query matches as a file that is made to be fetched, where the catalog is. */
export const exportItems = procedure(
  'exportItems',
  async (query: Omit<ItemQuery, 'from' | 'count'>, format: 'csv' | 'xlsx'): Promise<TempDownload> => {
    const { headings, rows } = await itemTable(query);
    return createTempDownload(
      format === 'xlsx' ? sheetPieces('Items', headings, rows) : csvPieces(headings, rows),
    );
  },
);
