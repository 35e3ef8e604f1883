import { and, asc, desc, eq, gt, inArray } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { InputError } from '../../core/errors/inputError';
import { currentUser, recordActivity } from '../auth/authorize';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import {
  catalogEdit,
  catalogEditFamily,
  catalogEditItem,
  type FamilyState,
  family,
  type ItemState,
  type Origin,
} from '../db/schema';
import {
  type ItemWrite,
  raiseRevision,
  readFamilyValues,
  readStates,
  reloadFrom,
  removeItems,
  writeFamily,
  writeItems,
} from './changes';

const chunk = 1000;

/** The catalog inside one edit: what stands there, locked, and what the edit makes of it. */
export interface CatalogEditor {
  readonly tx: Transaction;
  items(skus: readonly string[]): Promise<Map<string, ItemState>>;
  family(code: string): Promise<FamilyState | undefined>;
  /** An item's new state; null takes it out of the catalog. */
  putItem(sku: string, state: ItemState | null): void;
  putFamily(code: string, state: FamilyState | null): void;
}

export interface EditDone {
  readonly id: number;
  readonly items: number;
  readonly words: string;
}

/** What a person changed by hand: a later run of a source leaves it unless it is told to take the file's. */
export const byHand: Origin = { file: '', row: 0, column: '', cell: '' };

export const freshItem = (values: Values, code: string | null = null): ItemState => ({
  family: code,
  values,
  origins: {},
  archived: false,
  sourceId: null,
});

export async function readFamily(tx: Transaction, code: string): Promise<FamilyState | undefined> {
  const [row] = await tx.select().from(family).where(eq(family.code, code)).for('update');
  return row && { variesBy: row.variesBy, values: row.values };
}

/**
 * Carries out one edit of the catalog in one transaction and writes down what stood before, so that it can be undone.
 * @param work reads the states it needs and puts the new ones; @returns the edit in words
 * @throws InputError where `work` refuses; nothing is changed then
 */
export async function editCatalog(work: (desk: CatalogEditor) => Promise<string>): Promise<EditDone> {
  const person = await currentUser();
  const done = await db.transaction(async (tx) => {
    const items = new Map<string, ItemState | null>();
    const families = new Map<string, FamilyState | null>();
    const words = await work({
      tx,
      items: (skus) => inChunks(skus, (some) => readStates(tx, some, true)),
      family: (code) => readFamily(tx, code),
      putItem: (sku, state) => void items.set(sku, state),
      putFamily: (code, state) => void families.set(code, state),
    });
    const [made] = await tx
      .insert(catalogEdit)
      .values({ at: new Date(), who: person.name, words: words.slice(0, 300) })
      .$returningId();
    const id = made?.id ?? 0;
    const revision = await raiseRevision(tx);
    for (const [code, after] of families) {
      const before = (await readFamily(tx, code)) ?? null;
      await tx.insert(catalogEditFamily).values({ editId: id, code, before, after });
    }
    await writeStates(tx, items, families, revision, async (some, before) => {
      await insertRows(
        tx,
        catalogEditItem,
        some.map(([sku, after]) => ({ editId: id, sku, before: before.get(sku) ?? null, after })),
      );
    });
    return { id, items: items.size, words };
  });
  await recordActivity(person, done.words, `edit ${done.id}`);
  return done;
}

async function inChunks<T>(
  skus: readonly string[],
  read: (some: readonly string[]) => Promise<Map<string, T>>,
): Promise<Map<string, T>> {
  const all = new Map<string, T>();
  for (let i = 0; i < skus.length; i += chunk)
    for (const [sku, one] of await read(skus.slice(i, i + chunk))) all.set(sku, one);
  return all;
}

async function writeStates(
  tx: Transaction,
  items: ReadonlyMap<string, ItemState | null>,
  families: ReadonlyMap<string, FamilyState | null>,
  revision: number,
  remember: (some: [string, ItemState | null][], before: Map<string, ItemState>) => Promise<void>,
): Promise<void> {
  const list = [...items];
  for (let i = 0; i < list.length; i += chunk) {
    const some = list.slice(i, i + chunk);
    await remember(
      some,
      await readStates(
        tx,
        some.map(([sku]) => sku),
        true,
      ),
    );
  }
  // Families first, so that what their items repeat of them for search is right.
  for (const [code, state] of families) if (state) await writeFamily(tx, code, state, revision);
  for (let i = 0; i < list.length; i += chunk) {
    const some = list.slice(i, i + chunk);
    const writes = some.flatMap(([sku, state]): ItemWrite[] => (state ? [{ sku, ...state }] : []));
    const shared = await readFamilyValues(
      tx,
      writes.map((one) => one.family),
    );
    await writeItems(tx, writes, shared, revision);
    await removeItems(
      tx,
      some.flatMap(([sku, state]) => (state ? [] : [sku])),
      revision,
    );
  }
  const gone = [...families].flatMap(([code, state]) => (state ? [] : [code]));
  if (gone.length > 0) {
    await tx.delete(family).where(inArray(family.code, gone));
    await reloadFrom(tx, revision);
  }
}

/** An edit that was taken back. */
export interface LastEdit {
  readonly id: number;
  readonly words: string;
}

const sorted = (_key: string, value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value;
const same = (a: unknown, b: unknown) => JSON.stringify(a, sorted) === JSON.stringify(b, sorted);

/**
 * Takes an edit back, the last one where none is named.
 * @throws InputError where something it changed has been changed since; nothing is undone then
 */
export async function undoEdit(id?: number): Promise<LastEdit> {
  const person = await currentUser();
  const done = await db.transaction(async (tx) => {
    const [found] = await tx
      .select()
      .from(catalogEdit)
      .where(id === undefined ? eq(catalogEdit.undone, false) : eq(catalogEdit.id, id))
      .orderBy(desc(catalogEdit.id))
      .limit(1)
      .for('update');
    if (!found || found.undone) throw new InputError('nothingToUndo');
    const revision = await raiseRevision(tx);
    const changed: string[] = [];
    const families = new Map<string, FamilyState | null>();
    for (const row of await tx
      .select()
      .from(catalogEditFamily)
      .where(eq(catalogEditFamily.editId, found.id))) {
      if (!same((await readFamily(tx, row.code)) ?? null, row.after)) changed.push(row.code);
      families.set(row.code, row.before);
    }
    const items = new Map<string, ItemState | null>();
    let after = '';
    for (;;) {
      const rows = await tx
        .select()
        .from(catalogEditItem)
        .where(and(eq(catalogEditItem.editId, found.id), gt(catalogEditItem.sku, after)))
        .orderBy(asc(catalogEditItem.sku))
        .limit(chunk);
      if (rows.length === 0) break;
      after = rows.at(-1)?.sku ?? '';
      const now = await readStates(
        tx,
        rows.map(({ sku }) => sku),
        true,
      );
      for (const row of rows) {
        if (!same(now.get(row.sku) ?? null, row.after)) changed.push(row.sku);
        items.set(row.sku, row.before);
      }
    }
    if (changed.length > 0)
      throw new InputError('changedSince', {
        words: found.words,
        list: changed.slice(0, 5).join(', '),
        more: changed.length > 5 ? ` and ${changed.length - 5} more` : '',
      });
    await writeStates(tx, items, families, revision, async () => undefined);
    await tx.update(catalogEdit).set({ undone: true }).where(eq(catalogEdit.id, found.id));
    return { id: found.id, words: found.words };
  });
  await recordActivity(person, `undid: ${done.words}`, `edit ${done.id}`);
  return done;
}
