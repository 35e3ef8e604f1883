import { asc, eq, sql } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { neverShared } from '../../core/catalog/item';
import { storedItemName } from '../../core/catalog/itemName';
import { readValue } from '../../core/catalog/reading';
import { asText, sameValue, type Value } from '../../core/catalog/value';
import { type Composition, compileComposition } from '../../core/compose/composition';
import { InputError } from '../../core/errors/inputError';
import { counted } from '../../core/formatting/formatting';
import { db } from '../db/connection';
import { family, type ItemState, item } from '../db/schema';
import { procedure } from '../rpc/rpc';
import { byHand, type EditDone, editCatalog, freshItem } from './editing';
import { currentSnapshot, loadAttributes } from './snapshot';

/** An attribute that may be edited. @throws InputError where there is none of that code */
export function editable(attributes: readonly Attribute[], code: string): Attribute {
  const found = attributes.find((one) => one.code === code);
  if (!found || code === 'sku') throw new InputError('attributeFixed');
  return found;
}

/** An item's state with some of its own values set, or taken away so that the family's count again. */
function withValues(state: ItemState, changes: Readonly<Record<string, Value | undefined>>): ItemState {
  const values = { ...state.values };
  const origins = { ...state.origins };
  for (const [code, value] of Object.entries(changes)) {
    origins[code] = byHand;
    if (value === undefined) delete values[code];
    else values[code] = value;
  }
  return { ...state, values, origins };
}

export interface CellEdit {
  readonly sku: string;
  readonly attribute: string;
  readonly text: string;
}

/**
 * Sets cells, one or a block pasted from a spreadsheet. All of them or none; empty text takes an item's own value away, so
 * that the family's counts again.
 * @throws InputError naming the first cell that cannot be taken
 */
export async function editCells(cells: readonly CellEdit[]): Promise<EditDone> {
  const attributes = await loadAttributes();
  return editCatalog(async (desk) => {
    const states = await desk.items([...new Set(cells.map(({ sku }) => sku))]);
    for (const { sku, attribute, text } of cells) {
      const state = states.get(sku);
      if (!state) throw new InputError('noItemNothingChanged', { sku });
      const definition = editable(attributes, attribute);
      try {
        states.set(sku, withValues(state, { [attribute]: readValue(definition, text) }));
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        throw new InputError('valueRefused', { label: definition.label, sku, words: error.message });
      }
    }
    for (const [sku, state] of states) desk.putItem(sku, state);
    return `changed ${counted(cells.length, 'cell')} of ${counted(states.size, 'item')}`;
  });
}

export interface BulkPreview {
  readonly count: number;
  readonly same: number;
  readonly refused: number;
  readonly examples: readonly { sku: string; before: string; after: string; refused: string | undefined }[];
}

interface Composed {
  readonly sku: string;
  readonly before: Value | undefined;
  readonly after: Value | undefined;
  readonly refused: string | undefined;
}

/** Runs a composition over some items, without changing anything. */
const compose = procedure('compose', composed);
async function composed(
  attribute: string,
  composition: Composition | null,
  skus: readonly string[],
): Promise<Composed[]> {
  const snapshot = await currentSnapshot();
  const definition = editable(snapshot.attributes, attribute);
  const run = composition
    ? compileComposition(composition, { index: snapshot.index, language: 'en', currency: 'EUR', tables: {} })
        .run
    : () => undefined;
  const slot = snapshot.index.slotOf(attribute) ?? -1;
  return skus.flatMap((sku): Composed[] => {
    const at = snapshot.positionOf(sku);
    const row = at === undefined ? undefined : snapshot.rows[at];
    if (!row) return [];
    const created = run(row);
    const before = row[slot];
    try {
      const after = typeof created === 'string' ? readValue(definition, created) : created;
      return [{ sku, before, after, refused: undefined }];
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return [{ sku, before, after: before, refused: error.message }];
    }
  });
}

/** What a bulk edit would do: how many items change, and the first of them before and after. */
export async function previewBulk(
  attribute: string,
  composition: Composition | null,
  skus: readonly string[],
): Promise<BulkPreview> {
  const created = await compose(attribute, composition, skus);
  const changed = created.filter(({ before, after, refused }) => !refused && !sameValue(before, after));
  const refused = created.filter((one) => one.refused);
  return {
    count: changed.length,
    same: created.length - changed.length - refused.length,
    refused: refused.length,
    examples: [...refused.slice(0, 3), ...changed.slice(0, 12)].map((one) => ({
      sku: one.sku,
      before: asText(one.before),
      after: asText(one.after),
      refused: one.refused,
    })),
  };
}

/** Carries a bulk edit out on all items that it changes; those whose value would be refused stay as they are. */
export async function applyBulk(
  attribute: string,
  composition: Composition | null,
  skus: readonly string[],
): Promise<EditDone> {
  const created = await compose(attribute, composition, skus);
  const { label } = editable(await loadAttributes(), attribute);
  const next = new Map(
    created.flatMap(({ sku, before, after, refused }) =>
      refused || sameValue(before, after) ? [] : [[sku, after] as const],
    ),
  );
  return editCatalog(async (desk) => {
    const states = await desk.items([...next.keys()]);
    for (const [sku, state] of states) desk.putItem(sku, withValues(state, { [attribute]: next.get(sku) }));
    return `set ${label} of ${counted(states.size, 'item')}`;
  });
}

/** Adds an item. @throws InputError where its SKU is taken or empty */
export async function createItem(
  sku: string,
  values: Readonly<Record<string, string>>,
  family: string | null,
): Promise<EditDone> {
  const attributes = await loadAttributes();
  const code = sku.trim();
  if (code === '') throw new InputError('itemWithoutSku');
  return editCatalog(async (desk) => {
    if ((await desk.items([code])).has(code)) throw new InputError('itemThere', { sku: code });
    if (family !== null && !(await desk.family(family))) throw new InputError('familyMissing', { family });
    const read = Object.entries(values).flatMap(([attribute, text]) => {
      const value = readValue(editable(attributes, attribute), text);
      return value === undefined ? [] : [[attribute, value] as const];
    });
    desk.putItem(code, freshItem(Object.fromEntries(read), family));
    return `added ${code}`;
  });
}

/** Copies an item under another SKU; what names one item only (GTIN, part number, page address, stock) is left out. */
export async function copyItem(sku: string, to: string): Promise<EditDone> {
  const code = to.trim();
  if (code === '') throw new InputError('copyWithoutSku');
  return editCatalog(async (desk) => {
    const states = await desk.items([sku, code]);
    const state = states.get(sku);
    if (!state) throw new InputError('noItem', { sku });
    if (states.has(code)) throw new InputError('itemThere', { sku: code });
    const values = Object.fromEntries(Object.entries(state.values).filter(([one]) => !neverShared.has(one)));
    desk.putItem(code, freshItem(values, state.family));
    return `copied ${sku} to ${code}`;
  });
}

/** Archives items, so that no feed takes them and nothing of them is lost; or brings them back. */
export async function archiveItems(skus: readonly string[], archived: boolean): Promise<EditDone> {
  return editCatalog(async (desk) => {
    const states = await desk.items(skus);
    for (const [sku, state] of states)
      if (state.archived !== archived) desk.putItem(sku, { ...state, archived });
    return `${archived ? 'archived' : 'restored'} ${counted(states.size, 'item')}`;
  });
}

export interface ArchivedLine {
  readonly sku: string;
  readonly name: string;
  readonly family: string | null;
}

export async function listArchived(): Promise<ArchivedLine[]> {
  const rows = await db
    .select({ sku: item.sku, family: item.family, values: item.values, axes: family.variesBy })
    .from(item)
    .leftJoin(family, eq(family.code, item.family))
    .where(eq(item.archived, true))
    .orderBy(asc(item.sku))
    .limit(1000);
  return rows.map((one) => ({ sku: one.sku, family: one.family, name: storedItemName(one) }));
}

export async function countArchived(): Promise<number> {
  const [row] = await db.select({ count: sql<number>`count(*)` }).from(item).where(eq(item.archived, true));
  return Number(row?.count ?? 0);
}
