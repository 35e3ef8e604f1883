import { and, asc, eq, sql } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { readValue } from '../../core/catalog/reading';
import { asText } from '../../core/catalog/value';
import { codeFrom } from '../../core/channels/drafting';
import { InputError } from '../../core/errors/inputError';
import { suggestColumns } from '../../core/import/columns/columns';
import type { CatalogProduct, Similarity } from '../../core/matching/comparing';
import { pairKey } from '../../core/matching/familyMatching';
import { matchProducts, priceForProfit, similarityOf } from '../../core/matching/matching';
import {
  type RangeMapping,
  type RefusedVariant,
  readRangeTable,
  variantsOf,
} from '../../core/matching/supplierRange';
import { amountText, readAmount } from '../../core/measures/money';
import { currentUser, recordActivity } from '../auth/authorize';
import { saveAttribute } from '../catalog/attributes';
import type { EditDone } from '../catalog/editing';
import { editCells } from '../catalog/itemEdits';
import { currentSnapshot, loadAttributes } from '../catalog/snapshot';
import { readWorkspace } from '../catalog/workspace';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { item, supplierMatch, supplierRange, supplierVariant } from '../db/schema';
import { type CandidateMatchView, type ProductView, productOf, viewOf } from '../items/products';
import { procedure } from '../rpc/rpc';
import { memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';

/** A maker's or fulfilment partner's range: its variants, and which of the merchant's items each is. */

export interface SupplierLine {
  readonly code: string;
  readonly name: string;
  readonly importedAt: Date;
  readonly variants: number;
  readonly pairs: number;
}

/** Every range, the latest first. */
export async function listSuppliers(): Promise<SupplierLine[]> {
  const rows = await db
    .select({
      code: supplierRange.code,
      name: supplierRange.name,
      importedAt: supplierRange.importedAt,
      variants: sql<number>`(select count(*) from supplier_variant v where v.range_code = supplier_range.code)`,
      pairs: sql<number>`(select count(*) from supplier_match p where p.range_code = supplier_range.code and p.same)`,
    })
    .from(supplierRange)
    .orderBy(sql`${supplierRange.importedAt} desc`);
  return rows.map((row) => ({ ...row, variants: Number(row.variants), pairs: Number(row.pairs) }));
}

export interface RangeColumn {
  readonly column: string;
  readonly samples: readonly string[];
  /** What it may be; undefined where nothing is known. */
  readonly attribute: string | undefined;
}

export interface RangePreview {
  readonly columns: readonly RangeColumn[];
  readonly rows: number;
  readonly attributes: readonly { readonly code: string; readonly label: string }[];
}

/** What a range holds and which attribute each column may be, before it is brought in. */
export async function previewRange(text: string): Promise<RangePreview> {
  const table = readRangeTable(text);
  const attributes = await loadAttributes();
  const sample = table.rows.slice(0, 200).map(({ cells }) => cells);
  const { language } = await readWorkspace();
  const found = new Map(
    suggestColumns(table.columns, sample, attributes, language).map(({ column, attribute }) => [
      column,
      attribute,
    ]),
  );
  return {
    rows: table.rows.length,
    columns: table.columns.map((column) => ({
      column,
      samples: [...new Set(sample.map((cells) => cells[column] ?? ''))].filter(Boolean).slice(0, 3),
      attribute: found.get(column),
    })),
    attributes: [
      { code: 'sku', label: 'The supplier’s code' },
      ...attributes.filter(({ code }) => code !== 'sku').map(({ code, label }) => ({ code, label })),
    ],
  };
}

export interface ImportedRange {
  readonly code: string;
  readonly variants: number;
  readonly sure: number;
  readonly refused: readonly RefusedVariant[];
}

/**
 * Brings a range in, or a newer one of the same name: pairs that stand stay where both are still there, and the sure ones among
 * the others are taken.
 */
export async function importRange(name: string, text: string, mapping: RangeMapping): Promise<ImportedRange> {
  const code = codeFrom(name, '-').slice(0, 60);
  const { variants, refused } = variantsOf(readRangeTable(text), mapping);
  // What is refused is refused before anything is stored.
  const sure = await surePairs(code, variants);
  await db.transaction(async (tx) => {
    const now = { name: name.trim(), mapping, importedAt: new Date() };
    await tx
      .insert(supplierRange)
      .values({ code, ...now })
      .onDuplicateKeyUpdate({ set: now });
    await tx.delete(supplierVariant).where(eq(supplierVariant.range, code));
    for (let at = 0; at < variants.length; at += 500)
      await insertRows(
        tx,
        supplierVariant,
        variants.slice(at, at + 500).map((one, n) => ({ range: code, ...one, position: at + n })),
      );
    // What is no longer there cannot be a pair.
    await tx.execute(
      sql`delete p from supplier_match p left join supplier_variant v on v.range_code = p.range_code and v.code = p.variant where p.range_code = ${code} and v.code is null`,
    );
    await insertRows(
      tx,
      supplierMatch,
      sure.map(({ sku, variant }) => ({ range: code, sku, variant, same: true, byHand: false })),
      'ignore',
    );
  });
  await recordActivity(await currentUser(), 'imported a supplier’s range', name);
  return { code, variants: variants.length, sure: sure.length, refused };
}

/** The catalog's items, and what was settled of them with variants of a range. */
async function settledWith(code: string, variants: readonly CatalogProduct[]) {
  const [snapshot, all] = await Promise.all([
    currentSnapshot(),
    db.select().from(supplierMatch).where(eq(supplierMatch.range, code)),
  ]);
  const there = new Set(variants.map((one) => one.code));
  const pairs = all.filter(({ variant }) => there.has(variant));
  const items = snapshot.items.map((item) => productOf(item, snapshot.families));
  const settled = {
    same: new Map(pairs.filter((one) => one.same).map(({ sku, variant }) => [sku, variant])),
    not: new Set(pairs.filter((one) => !one.same).map(({ sku, variant }) => pairKey(sku, variant))),
  };
  return { snapshot, items, pairs, settled };
}

const surePairs = procedure('sureMatches', async (code: string, variants: readonly CatalogProduct[]) => {
  const { items, settled } = await settledWith(code, variants);
  const { sure } = await inSlices(matchProducts(items, variants, settled));
  return sure.map(({ sku, variant }) => ({ sku, variant }));
});

export interface PairView extends Pick<Similarity, 'supports' | 'objects'> {
  readonly item: ProductView;
  readonly variant: ProductView;
  readonly byHand: boolean;
}

export interface MatchingView {
  readonly code: string;
  readonly name: string;
  readonly pairs: readonly PairView[];
  /** What somebody said is not one: to be looked at again, if wished. */
  readonly refused: readonly PairView[];
  readonly doubts: readonly CandidateMatchView[];
  /** Items that nothing of the range is like, of how many. */
  readonly items: readonly ProductView[];
  readonly itemCount: number;
  readonly variants: readonly ProductView[];
  /** Attributes of the range that pairs can give their items. */
  readonly gives: readonly ('cost' | 'inventoryLevel')[];
}

const MAX_SHOWN = 400;

/** A range with its pairs, what is in doubt with what speaks for and against, and what is left on both sides. */
export const matchingView = procedure('matching', async (code: string): Promise<MatchingView | undefined> => {
  const [range] = await db.select().from(supplierRange).where(eq(supplierRange.code, code));
  if (!range) return undefined;
  const variants = await db
    .select({ code: supplierVariant.code, values: supplierVariant.values })
    .from(supplierVariant)
    .where(eq(supplierVariant.range, code))
    .orderBy(asc(supplierVariant.position));
  const { snapshot, items, pairs, settled } = await settledWith(code, variants);
  const [itemOf, variantOf] = [
    new Map(items.map((one) => [one.code, one])),
    new Map(variants.map((one) => [one.code, one])),
  ];
  const known = JSON.stringify([code, range.importedAt, pairs]);
  const found = await memoFor(
    snapshot,
    'matches',
    () => inSlices(matchProducts(items, variants, settled)),
    known,
  );
  const ours = (sku: string) => viewOf(itemOf.get(sku) ?? { code: sku, values: {} }, 'price');
  const theirs = (variant: string) => viewOf(variantOf.get(variant) ?? { code: variant, values: {} }, 'cost');
  const attributes = new Set(Object.values(range.mapping));
  const pairsThat = (are: boolean) =>
    pairs.flatMap(({ sku, variant, same, byHand }): PairView[] => {
      const [item, other] = [itemOf.get(sku), variantOf.get(variant)];
      if (same !== are || !item || !other) return [];
      const { supports, objects } = similarityOf(item, other);
      return [{ item: ours(sku), variant: theirs(variant), byHand, supports, objects }];
    });
  return {
    code,
    name: range.name,
    pairs: pairsThat(true),
    refused: pairsThat(false),
    // What is sure by now, since others were settled, is still for a person to take.
    doubts: [...found.sure.map((pair) => ({ sku: pair.sku, candidates: [pair] })), ...found.doubts]
      .slice(0, MAX_SHOWN)
      .map(({ sku, candidates }) => ({
        item: ours(sku),
        candidates: candidates.map(({ variant, supports, objects }) => ({
          variant: theirs(variant),
          supports,
          objects,
        })),
      })),
    items: found.items.slice(0, MAX_SHOWN).map(ours),
    itemCount: found.items.length,
    variants: found.variants.slice(0, MAX_SHOWN).map(theirs),
    gives: (['cost', 'inventoryLevel'] as const).filter((one) => attributes.has(one)),
  };
});

/**
 * Settles whether an item is a variant. @param same undefined takes what was settled back
 * @throws InputError where either is a pair already
 */
export async function decideMatch(
  code: string,
  sku: string,
  variant: string,
  same: boolean | undefined,
): Promise<void> {
  const this_ = and(
    eq(supplierMatch.range, code),
    eq(supplierMatch.sku, sku),
    eq(supplierMatch.variant, variant),
  );
  await db.transaction(async (tx) => {
    if (same === undefined) {
      await tx.delete(supplierMatch).where(this_);
      return;
    }
    if (same) {
      const status = await tx
        .select()
        .from(supplierMatch)
        .where(and(eq(supplierMatch.range, code), eq(supplierMatch.same, true)))
        .for('update');
      const taken = status.find((one) => (one.sku === sku) !== (one.variant === variant));
      if (taken) throw new InputError('pairTaken', { sku: taken.sku, variant: taken.variant });
    }
    const row = { range: code, sku, variant, same, byHand: true };
    await tx.insert(supplierMatch).values(row).onDuplicateKeyUpdate({ set: row });
  });
}

/** What a pair gives its item. */
export interface Given {
  readonly stock: boolean;
  /** Share of the price, in per cent, that is left when the cost is paid; where given, prices follow it. */
  readonly profit?: number | undefined;
}

/** The attribute that holds the code under which a partner knows an item. */
const partnerCode = 'partnerCode';

/** What a cell of a partner says of an attribute, as people write it; undefined where it cannot be read. */
function readCell(definition: Attribute | undefined, text: string): string | undefined {
  if (definition === undefined || text.trim() === '') return undefined;
  try {
    return asText(readValue(definition, text));
  } catch (error) {
    if (error instanceof InputError) return undefined;
    throw error;
  }
}

/**
 * Gives every paired item its partner's code and cost, and the stock and a price by profit where asked for. A cost keeps the
 * currency it names; a price follows it only where that is the catalog's own. What cannot be read is left out and told.
 */
export async function applyToItems(code: string, given: Given): Promise<EditDone> {
  const known = await loadAttributes();
  if (!known.some((one) => one.code === partnerCode))
    await saveAttribute(
      { code: partnerCode, label: 'Supplier’s code', kind: 'text', synonyms: [], list: undefined },
      true,
    );
  const definitionOf = (attribute: string) => known.find((one) => one.code === attribute);
  const [rows, { currency }] = await Promise.all([
    db
      .select({ sku: supplierMatch.sku, variant: supplierMatch.variant, values: supplierVariant.values })
      .from(supplierMatch)
      .innerJoin(
        supplierVariant,
        and(eq(supplierVariant.range, supplierMatch.range), eq(supplierVariant.code, supplierMatch.variant)),
      )
      // An item that is gone since keeps its pair, for when it comes back.
      .innerJoin(item, and(eq(item.sku, supplierMatch.sku), eq(item.archived, false)))
      .where(and(eq(supplierMatch.range, code), eq(supplierMatch.same, true))),
    readWorkspace(),
  ]);
  const unread: string[] = [];
  const cells = rows.flatMap(({ sku, variant, values }) => {
    const read = (attribute: 'cost' | 'inventoryLevel') => {
      const text = asText(values[attribute]);
      const found = readCell(definitionOf(attribute), text);
      if (found === undefined && text.trim() !== '') unread.push(`${variant} “${text.slice(0, 20)}”`);
      return found;
    };
    const cost = read('cost');
    const stock = given.stock ? read('inventoryLevel') : undefined;
    const amount = cost === undefined ? undefined : readAmount(cost);
    const own = amount?.currency === undefined || amount.currency === currency;
    const price =
      given.profit === undefined || amount === undefined || !own
        ? undefined
        : priceForProfit(amount.amount, given.profit, currency);
    return [
      { sku, attribute: partnerCode, text: variant },
      ...(cost === undefined ? [] : [{ sku, attribute: 'cost', text: cost }]),
      ...(stock === undefined ? [] : [{ sku, attribute: 'inventoryLevel', text: stock }]),
      ...(price === undefined
        ? []
        : [{ sku, attribute: 'price', text: amountText({ amount: price, currency }) }]),
    ];
  });
  if (cells.length === 0) throw new InputError('noPairs');
  const done = await editCells(cells);
  return unread.length === 0
    ? done
    : {
        ...done,
        words: `${done.words}; ${unread.length} not read: ${unread.slice(0, 3).join(', ')}${unread.length > 3 ? ' …' : ''}`,
      };
}

/** Takes a range away; what its pairs gave to items stays. */
export async function removeSupplier(code: string): Promise<void> {
  await db.transaction(async (tx) => {
    for (const table of [supplierMatch, supplierVariant]) await tx.delete(table).where(eq(table.range, code));
    await tx.delete(supplierRange).where(eq(supplierRange.code, code));
  });
  await recordActivity(await currentUser(), 'deleted a supplier’s range', code);
}
