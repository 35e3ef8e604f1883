import { and, asc, between, eq, isNull, or, sql } from 'drizzle-orm';
import { storedItemName } from '../../core/catalog/itemName';
import {
  freePositions,
  type GtinBlock,
  numberAt,
  positionIn,
  rangesOf,
  readBlock,
} from '../../core/catalog/register';
import { InputError } from '../../core/errors/inputError';
import { counted } from '../../core/formatting/formatting';
import { currentUser, recordActivity } from '../auth/authorize';
import { byHand, type EditDone, editCatalog } from '../catalog/editing';
import { insertRows, isOneOf } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { family, gtinAssignment, gtinBlock, item } from '../db/schema';

/** The numbers a merchant has bought: which are used, what is left, and the next one for an item that has none. */

export interface BlockView {
  readonly id: number;
  readonly first: string;
  readonly last: string;
  readonly count: number;
  readonly used: number;
  /** The next that is free; undefined where all are used. */
  readonly next: string | undefined;
}

export interface RegisterView {
  readonly blocks: readonly BlockView[];
  readonly left: number;
  readonly without: readonly { readonly sku: string; readonly name: string; readonly family: string }[];
  readonly withoutCount: number;
}

const MAX_SHOWN = 500;

interface Block extends GtinBlock {
  readonly id: number;
  readonly used: ReadonlySet<number>;
}

/** Every block with the places that an item has, archived or not, or that was given once. */
async function readBlocks(tx: Transaction | typeof db, lock = false): Promise<Block[]> {
  const query = tx.select().from(gtinBlock).orderBy(asc(gtinBlock.id));
  const blocks = lock ? await query.for('update') : await query;
  if (blocks.length === 0) return [];
  // Of a large catalog only those that may be of a block are read: the ones between its ends, and what is
  // written otherwise, with other signs or as an ISBN-10.
  const ranges = blocks.flatMap(rangesOf);
  const within = (column: typeof item.gtin | typeof gtinAssignment.gtin) =>
    or(...ranges.map(([first, last]) => between(column, first, last)));
  const [held, spelled, given] = await Promise.all([
    tx.select({ gtin: item.gtin }).from(item).where(within(item.gtin)),
    tx.select({ gtin: item.gtin }).from(item).where(sql`${item.gtin} regexp '[^0-9]|^[0-9]{10}$'`),
    tx.select({ gtin: gtinAssignment.gtin }).from(gtinAssignment).where(within(gtinAssignment.gtin)),
  ]);
  return blocks.map((block) => ({
    ...block,
    used: new Set([...held, ...spelled, ...given].flatMap(({ gtin }) => positionIn(block, gtin ?? '') ?? [])),
  }));
}

/** The free numbers of all blocks, those of the first first. */
function* freeNumbers(blocks: readonly Block[]): Generator<string, undefined> {
  for (const block of blocks) for (const at of freePositions(block, block.used)) yield numberAt(block, at);
  return undefined;
}

const withoutNumber = and(eq(item.archived, false), isNull(item.gtin));

export async function registerView(): Promise<RegisterView> {
  const [blocks, without, [count]] = await Promise.all([
    readBlocks(db),
    db
      .select({ sku: item.sku, family: item.family, values: item.values, axes: family.variesBy })
      .from(item)
      .leftJoin(family, eq(family.code, item.family))
      .where(withoutNumber)
      .orderBy(asc(item.id))
      .limit(MAX_SHOWN),
    db.select({ count: sql<number>`count(*)` }).from(item).where(withoutNumber),
  ]);
  return {
    blocks: blocks.map((block): BlockView => {
      const next = freePositions(block, block.used).next().value;
      return {
        id: block.id,
        first: numberAt(block, 0),
        last: numberAt(block, block.count - 1),
        count: block.count,
        used: block.used.size,
        next: next === undefined ? undefined : numberAt(block, next),
      };
    }),
    left: blocks.reduce((sum, block) => sum + block.count - block.used.size, 0),
    without: without.map((one) => ({ sku: one.sku, name: storedItemName(one), family: one.family ?? '' })),
    withoutCount: Number(count?.count ?? 0),
  };
}

/** Enters a block that was bought. @throws InputError where it is none, or some of it is entered already */
export async function addGtinBlock(first: string, count: number): Promise<void> {
  const block = readBlock(first, count);
  await db.transaction(async (tx) => {
    const known = await readBlocks(tx, true);
    const meets = known.find(
      (one) =>
        positionIn(one, numberAt(block, 0)) !== undefined ||
        positionIn(one, numberAt(block, block.count - 1)) !== undefined ||
        positionIn(block, numberAt(one, 0)) !== undefined,
    );
    if (meets) throw new InputError('blockTwice', { found: first, known: numberAt(meets, 0) });
    await tx.insert(gtinBlock).values(block);
  });
  await recordActivity(await currentUser(), 'entered bought numbers', `${count} from ${first}`);
}

/** Takes a block out of the register; the numbers that items have stay with them. */
export async function removeGtinBlock(id: number): Promise<void> {
  await db.delete(gtinBlock).where(eq(gtinBlock.id, id));
  await recordActivity(await currentUser(), 'deleted a block of GTINs', String(id));
}

/** The numbers that items would be given now, by SKU; of items for which none is left, none. Gives nothing. */
export async function foreseenGtins(skus: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (skus.length === 0) return new Map();
  const free = freeNumbers(await readBlocks(db));
  const rows = await db
    .select()
    .from(gtinAssignment)
    .where(isOneOf(gtinAssignment.sku, [...skus]));
  const before = new Map(rows.map(({ sku, gtin }) => [sku, gtin] as const));
  const found = new Map<string, string>();
  for (const sku of new Set(skus)) {
    const gtin = before.get(sku) ?? free.next().value;
    if (gtin !== undefined) found.set(sku, gtin);
  }
  return found;
}

/**
 * Gives each item that has no number the next free one; one that had one given before gets that again. No number is given twice,
 * also where an item is gone.
 * @throws InputError where there are not enough left; nothing is given then
 */
export const assignGtins = (skus: readonly string[]): Promise<EditDone> =>
  editCatalog(async (desk) => {
    const blocks = await readBlocks(desk.tx, true);
    const states = await desk.items(skus);
    const before = new Map(
      (skus.length === 0
        ? []
        : await desk.tx
            .select()
            .from(gtinAssignment)
            .where(isOneOf(gtinAssignment.sku, [...skus]))
      ).map(({ sku, gtin }) => [sku, gtin] as const),
    );
    const free = freeNumbers(blocks);
    const fresh: { gtin: string; sku: string; at: Date }[] = [];
    let given = 0;
    for (const sku of new Set(skus)) {
      const state = states.get(sku);
      if (!state || state.values.gtin !== undefined || state.archived) continue;
      const known = before.get(sku);
      const gtin = known ?? free.next().value;
      if (gtin === undefined)
        throw new InputError('numbersUsedUp', { left: fresh.length, wanted: skus.length });
      if (known === undefined) fresh.push({ gtin, sku, at: new Date() });
      given++;
      desk.putItem(sku, {
        ...state,
        values: { ...state.values, gtin },
        origins: { ...state.origins, gtin: byHand },
      });
    }
    if (given === 0) throw new InputError('numbersNotNeeded');
    await insertRows(desk.tx, gtinAssignment, fresh);
    return `assigned GTINs to ${counted(given, 'item')}`;
  });
