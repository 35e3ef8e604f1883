import { and, eq, gt } from 'drizzle-orm';
import {
  type Attribute,
  amountsInCurrencies,
  attributeSchema,
  textsInLanguages,
} from '../../core/catalog/attributes';
import { axesCode, type Family, familyNameCode, type Item, rowCodes, rowOf } from '../../core/catalog/item';
import { itemName } from '../../core/catalog/itemName';
import { shownText } from '../../core/catalog/reading';
import {
  type AttributeIndex,
  asList,
  asText,
  attributeIndex,
  currencyInCode,
  type Row,
} from '../../core/catalog/value';
import type { KeywordLists } from '../../core/keywords/keyword';
import { db, outsideTransaction } from '../db/connection';
import { attribute, family, feed, item, workspace } from '../db/schema';
import { withProgress } from '../rpc/progress';
import { setDayZone } from '../runtime/calendarDay';
import { settings } from '../runtime/settings';
import { StoredFacts } from './externalFacts';
import { keywordLists } from './keywords';
import { readWorkspace } from './workspace';

/** The whole catalog in memory, as of one revision; items in the order they came in. */
export interface Snapshot {
  readonly revision: number;
  readonly attributes: readonly Attribute[];
  readonly index: AttributeIndex;
  readonly items: readonly Item[];
  readonly skus: readonly string[];
  readonly rows: readonly Row[];
  readonly families: ReadonlyMap<string, Family>;
  /** What was found by looking. It follows what is found: the items it is about have changed by then. */
  readonly seen: StoredFacts;
  /** Whose shop it is. */
  readonly merchant: string;
  /** What shoppers type; the same object as long as it is the same. */
  readonly keywords: KeywordLists;
  positionOf(sku: string): number | undefined;
}

/** A catalog that the next one goes on from. */
interface Loaded extends Snapshot {
  /** Where each item stands, also of those that came in later. */
  readonly places: Map<string, number>;
}

const shared = globalThis as typeof globalThis & { livelySnapshot?: Promise<Loaded> };

/** The current catalog, as it is for everybody; only items changed since the last call are read again. */
export function currentSnapshot(): Promise<Snapshot> {
  if (settings.evaluators.length > 0) throw new Error('This process has no catalog. Ask the evaluator.');
  return outsideTransaction(readSnapshot);
}

async function readSnapshot(): Promise<Snapshot> {
  for (;;) {
    const last = shared.livelySnapshot;
    const known = await last?.catch(() => undefined);
    const [state] = await db
      .select({
        revision: workspace.catalogRevision,
        reload: workspace.reloadRevision,
        keywords: workspace.keywordsRevision,
        merchant: workspace.name,
        zone: workspace.zone,
      })
      .from(workspace)
      .where(eq(workspace.id, 1));
    setDayZone(state?.zone ?? 'UTC');
    const revision = state?.revision ?? 0;
    if (known && known.revision === revision) return known;
    // Somebody else has begun to read meanwhile: what one reads is there for all, and nobody goes on from the same one twice.
    if (shared.livelySnapshot !== last) continue;
    const from = known && known.revision >= (state?.reload ?? 0) ? known : undefined;
    const loading = load(from, revision, state?.keywords ?? 0, state?.merchant ?? '');
    shared.livelySnapshot = loading;
    return from ? loading : withProgress(() => ({ what: 'reading', feed: '', done: 0, of: 0 }), loading);
  }
}

/**
 * The attribute definitions in their order; amounts of money have one more for each further currency that a feed sells in.
 */
export async function loadAttributes(): Promise<Attribute[]> {
  const [rows, currency, markets] = await Promise.all([
    db.select().from(attribute).orderBy(attribute.position, attribute.code),
    catalogCurrency(),
    db.selectDistinct({ currency: feed.currency }).from(feed),
  ]);
  const defined = rows.map((row) =>
    attributeSchema.parse({
      ...row,
      unit: row.unit ?? undefined,
      terms: row.terms ?? undefined,
      list: row.list || undefined,
      family: row.family ?? undefined,
      languages: row.languages?.length ? row.languages : undefined,
    }),
  );
  const amounts = amountsInCurrencies(
    defined,
    markets.map((one) => one.currency),
    currency,
  );
  return defined.flatMap((one) => [
    one,
    ...amounts.filter(({ code }) => currencyInCode(code)?.of === one.code),
    ...textsInLanguages([one]),
  ]);
}

/** The currency of amounts that name none; undefined where nobody has said. */
export const catalogCurrency = async (): Promise<string | undefined> => (await readWorkspace()).currency;

/** Which attribute stands in which slot of a row: what few items have, amounts and texts for others' markets, comes last. */
export function indexOfAttributes(
  attributes: readonly Attribute[],
  currency: string | undefined,
): AttributeIndex {
  const codes = attributes.map(({ code }) => code);
  const forOthers = (code: string) => code.includes('@');
  return attributeIndex(
    [...rowCodes, ...codes.filter((code) => !forOthers(code)), ...codes.filter(forOthers)],
    currency,
  );
}

async function load(
  known: Loaded | undefined,
  revision: number,
  keywordsAt: number,
  merchant: string,
): Promise<Loaded> {
  const since = known?.revision ?? -1;
  const [attributes, currency, seen, keywords, familyRows, itemRows] = await Promise.all([
    loadAttributes(),
    catalogCurrency(),
    (known?.seen ?? new StoredFacts()).readSince(since),
    keywordLists(keywordsAt),
    db.select().from(family).where(gt(family.revision, since)),
    db
      .select({
        id: item.id,
        sku: item.sku,
        family: item.family,
        values: item.values,
        changedOn: item.changedOn,
      })
      .from(item)
      .where(and(gt(item.revision, since), eq(item.archived, false)))
      .orderBy(item.id),
  ]);
  const families = new Map(known?.families);
  for (const row of familyRows)
    families.set(row.code, { code: row.code, variesBy: row.variesBy, values: row.values });
  const items = [...(known?.items ?? [])];
  // Items are added and replaced, never moved: the places are one list for all that go on from each other.
  const places = known?.places ?? new Map<string, number>();
  const changed: number[] = [];
  for (const row of itemRows) {
    const read: Item = {
      sku: row.sku,
      values: row.values,
      ...(row.family ? { family: row.family } : {}),
      ...(row.changedOn ? { changedOn: row.changedOn } : {}),
    };
    const at = places.get(row.sku) ?? items.length;
    places.set(row.sku, at);
    items[at] = read;
    changed.push(at);
  }
  const anew = indexOfAttributes(attributes, currency);
  // The same slots stay the same index, so that what was compiled for it and the rows in it can be used again.
  const index =
    known && known.index.currency === currency && known.index.codes.join() === anew.codes.join()
      ? known.index
      : anew;
  const changedFamilies = new Set(familyRows.map(({ code }) => code));
  const readRow = (one: Item) => rowOf(one, one.family ? families.get(one.family) : undefined, index);
  let rows: Row[];
  if (index === known?.index && changedFamilies.size === 0) {
    rows = [...known.rows];
    for (const at of changed) rows[at] = readRow(items[at] as Item);
  } else
    rows = items.map((one, at) => {
      const before = known?.rows[at];
      const stays =
        index === known?.index && known.items[at] === one && !(one.family && changedFamilies.has(one.family));
      return before && stays ? before : readRow(one);
    });
  const count = items.length;
  return {
    revision,
    attributes,
    index,
    items,
    rows,
    families,
    skus: known?.skus.length === count ? known.skus : items.map(({ sku }) => sku),
    places,
    merchant,
    keywords,
    seen,
    positionOf: (sku) => {
      const at = places.get(sku);
      // Others may have gone on from this one, and added to it.
      return at !== undefined && at < count ? at : undefined;
    },
  };
}

/** The name of an item as lists show it, with its values on its family's axes. @returns by a position of the snapshot */
export function itemNameIn({ index, rows, attributes }: Snapshot): (position: number) => string {
  const [axesSlot, nameSlot] = [index.slotOf(axesCode), index.slotOf('name')];
  const attributeOf = new Map(attributes.map((one) => [one.code, one]));
  return (position) => {
    const row = rows[position];
    if (!row) return '';
    const axes = axesSlot === undefined ? [] : asList(row[axesSlot]);
    return itemName(
      asText(row[nameSlot ?? -1]),
      axes.map((axis) =>
        shownText(attributeOf.get(axis) ?? { code: axis, kind: 'text' }, row[index.slotOf(axis) ?? -1]),
      ),
    );
  };
}

/**
 * What tells each item apart from its siblings: its values on the axes of its family, but those that the family's own name says.
 */
export function variantWordsIn({ index, rows, positionOf }: Snapshot): (sku: string) => readonly string[] {
  const [axesSlot, nameSlot] = [index.slotOf(axesCode), index.slotOf(familyNameCode)];
  return (sku) => {
    const row = rows[positionOf(sku) ?? -1];
    if (!row || axesSlot === undefined) return [];
    const name = nameSlot === undefined ? '' : asText(row[nameSlot]).toLowerCase();
    return asList(row[axesSlot]).flatMap((axis) => {
      const value = asText(row[index.slotOf(axis) ?? -1]);
      return value === '' || name.includes(value.toLowerCase()) ? [] : [value];
    });
  };
}
