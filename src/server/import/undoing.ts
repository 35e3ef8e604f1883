import { and, eq, inArray } from 'drizzle-orm';
import { aboutImport, type Values } from '../../core/catalog/item';
import { sameValue, type Value } from '../../core/catalog/value';
import {
  type ItemWrite,
  raiseRevision,
  readFamilyValues,
  readStates,
  reloadFrom,
  removeItems,
  writeItems,
} from '../catalog/changes';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { family, type ItemState, item, run, runFamily, runItem } from '../db/schema';
import type { Work } from '../jobs/queue';
import { stagedChunks } from './staging';

const CHUNK_ITEMS = 1000;
type Staged = typeof runItem.$inferSelect;

/** An item with a run taken back, and the attributes that were changed since and so stay. */
interface Undone {
  /** undefined: the run made it, and it goes. */
  readonly state: ItemState | undefined;
  readonly kept: readonly string[];
}

/**
 * Takes a run back from one item: each value that still is what the run made it becomes what it was before.
 * @param shared what the item's family shares now
 */
function takeBack(
  row: Pick<Staged, 'kind' | 'values' | 'family' | 'before' | 'changes'>,
  now: ItemState,
  shared: Values | undefined,
): Undone {
  const current = (attribute: string): Value | undefined => now.values[attribute] ?? shared?.[attribute];
  const { before } = row;
  if (!before) {
    const stored = [
      ...Object.keys(now.values).filter(
        (code) => !aboutImport.has(code) && !sameValue(now.values[code], row.values[code]),
      ),
      ...Object.keys(row.values).filter((code) => current(code) === undefined),
      ...(now.archived ? ['archived'] : []),
    ];
    return stored.length === 0
      ? { state: undefined, kept: stored }
      : { state: now, kept: [...new Set(stored)] };
  }
  const stored: string[] = [];
  const values: Record<string, Value> = { ...now.values };
  const origins = { ...now.origins };
  let { family: code, archived, sourceId } = now;
  const back = (attribute: string) => {
    const old = before.values[attribute];
    if (old === undefined) delete values[attribute];
    else values[attribute] = old;
    const origin = before.origins[attribute];
    if (origin) origins[attribute] = origin;
    else delete origins[attribute];
  };
  const written: Values = row.kind === 'missing' ? { availability: 'OutOfStock' } : row.values;
  for (const [attribute] of row.changes) {
    if (attribute === 'family') {
      if (now.family === row.family) code = before.family;
      else stored.push('family');
    } else if (attribute === 'archived') {
      if (now.archived === !before.archived) archived = before.archived;
      else stored.push('archived');
    } else if (sameValue(current(attribute), written[attribute])) back(attribute);
    else stored.push(attribute);
  }
  // Values that moved up to a family come back down with the item.
  for (const attribute of Object.keys(before.values))
    if (values[attribute] === undefined && sameValue(shared?.[attribute], before.values[attribute]))
      back(attribute);
  sourceId = before.sourceId;
  return { state: { family: code, values, origins, archived, sourceId }, kept: stored };
}

/** Undoes a run that was brought in, chunk by chunk; what was changed since is listed and stays. */
export async function undoRun(id: number, work: Work): Promise<void> {
  const [started] = await db.select().from(run).where(eq(run.id, id));
  if (started?.state !== 'undoing') return;
  const total = started.counts.new + started.counts.changed + started.counts.missing;
  let done = 0;
  for await (const rows of stagedChunks(id, eq(runItem.applied, true), CHUNK_ITEMS)) {
    done += rows.length;
    await db.transaction(async (tx) => {
      await work.hold(tx);
      const states = await readStates(
        tx,
        rows.map(({ sku }) => sku),
        true,
      );
      const shared = await readFamilyValues(tx, [
        ...[...states.values()].map((state) => state.family),
        ...rows.map(({ before }) => before?.family),
      ]);
      const revision = await raiseRevision(tx);
      const writes: ItemWrite[] = [];
      const gone: string[] = [];
      const keeping: Staged[] = [];
      for (const row of rows) {
        const now = states.get(row.sku);
        if (!now) continue;
        const { state, kept } = takeBack(row, now, now.family ? shared.get(now.family) : undefined);
        if (state) writes.push({ sku: row.sku, ...state });
        else gone.push(row.sku);
        if (kept.length > 0) keeping.push({ ...row, kept: [...kept] });
      }
      await writeItems(tx, writes, shared, revision);
      await removeItems(tx, gone, revision);
      await insertRows(tx, runItem, keeping, ['kept']);
      await tx
        .update(runItem)
        .set({ applied: false })
        .where(
          and(
            eq(runItem.runId, id),
            inArray(
              runItem.row,
              rows.map(({ row }) => row),
            ),
          ),
        );
      await tx.update(run).set({ rowsDone: done }).where(eq(run.id, id));
    });
    await work.progress(total === 0 ? 1 : Math.min(done / total, 0.99));
  }
  await undoFamilies(id);
  await db.update(run).set({ state: 'undone', finishedAt: new Date() }).where(eq(run.id, id));
}

/** Families the run made go where nothing is left in them; axes it added go where they are still the same. */
async function undoFamilies(id: number): Promise<void> {
  const touched = await db
    .select()
    .from(runFamily)
    .where(and(eq(runFamily.runId, id), eq(runFamily.written, true)));
  for (let i = 0; i < touched.length; i += 200) {
    const some = touched.slice(i, i + 200);
    const codes = some.map(({ code }) => code);
    await db.transaction(async (tx) => {
      const revision = await raiseRevision(tx);
      const now = new Map(
        (await tx.select().from(family).where(inArray(family.code, codes))).map((row) => [row.code, row]),
      );
      const used = new Set(
        (await tx.selectDistinct({ code: item.family }).from(item).where(inArray(item.family, codes))).map(
          (row) => row.code,
        ),
      );
      const gone: string[] = [];
      for (const { code, before, after } of some) {
        const state = now.get(code);
        if (!state) continue;
        const same =
          JSON.stringify([state.variesBy, state.values]) === JSON.stringify([after?.variesBy, after?.values]);
        if (!before) {
          if (!used.has(code) && (same || !after)) gone.push(code);
        } else if (same)
          await tx.update(family).set({ variesBy: before.variesBy, revision }).where(eq(family.code, code));
      }
      if (gone.length > 0) {
        await tx.delete(family).where(inArray(family.code, gone));
        await reloadFrom(tx, revision);
      }
      await tx
        .update(runFamily)
        .set({ written: false })
        .where(and(eq(runFamily.runId, id), inArray(runFamily.code, codes)));
    });
  }
}
