import { and, eq, inArray, sql } from 'drizzle-orm';
import { sourceCode, type Values, waitsForCode } from '../../core/catalog/item';
import { asText, sameValue, type Value } from '../../core/catalog/value';
import { columnsOf } from '../../core/import/mapping/mapping';
import { type ItemWrite, raiseRevision, readFamilyValues, readStates, writeItems } from '../catalog/changes';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { family, type ItemState, item, run, runFamily, runItem, source } from '../db/schema';
import { enqueue, type Work } from '../jobs/queue';
import { writeRunFamilies } from './families';
import { stagedChunks } from './staging';

const CHUNK_ITEMS = 1000;
type Staged = typeof runItem.$inferSelect;

/**
 * Writes what a checked run has staged and a person has chosen. Each chunk is one transaction that also marks its rows,
 * so that a run stopped anywhere goes on behind its last chunk and writes nothing twice.
 */
export async function applyRun(id: number, work: Work): Promise<void> {
  const [started] = await db.select().from(run).where(eq(run.id, id));
  if (started?.state !== 'applying') return;
  const from = await sourceOf(started.sourceId);
  await rememberFamilies(id);
  const columnOf = new Map(
    Object.entries(started.mapping.fields).map(([code, composition]) => [
      code,
      columnsOf(composition)[0] ?? '',
    ]),
  );
  const total = started.counts.new + started.counts.changed + started.counts.missing;
  let done = started.rowsDone;
  const wanted = and(
    eq(runItem.chosen, true),
    eq(runItem.applied, false),
    inArray(runItem.kind, ['new', 'changed', 'missing']),
  );
  for await (const rows of stagedChunks(id, wanted, CHUNK_ITEMS)) {
    done += rows.length;
    await db.transaction(async (tx) => {
      await work.hold(tx);
      const states = await readStates(
        tx,
        rows.map(({ sku }) => sku),
        true,
      );
      const shared = await readFamilyValues(tx, [
        ...rows.map((row) => row.family),
        ...[...states.values()].map((state) => state.family),
      ]);
      const writes = rows.map((row) =>
        nextState(row, states.get(row.sku), shared, { ...started, from }, columnOf),
      );
      await writeItems(tx, writes, shared, await raiseRevision(tx));
      const touched = rows.filter((row) => states.has(row.sku));
      await insertRows(
        tx,
        runItem,
        touched.map((row) => ({ ...row, before: states.get(row.sku) ?? null })),
        ['before'],
      );
      await tx
        .update(runItem)
        .set({ applied: true })
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
  await writeRunFamilies(id, work);
  // Items that the file has unchanged belong to the source from now on as well.
  await db.execute(sql`
    update ${item} i join ${runItem} r on r.run_id = ${id} and r.kind = 'unchanged' and r.sku = i.sku
    set i.source_id = ${started.sourceId} where i.source_id is null
  `);
  await db.transaction(async (tx) => {
    await tx.update(run).set({ state: 'done', finishedAt: new Date() }).where(eq(run.id, id));
    if (started.mapping.fields.image) await enqueue(tx, 'measurePictures', {});
  });
}

/** Values that every new item of a source gets: its source, and the feeds that it waits for. */
async function sourceOf(id: number): Promise<Values> {
  const [found] = await db
    .select({ name: source.name, waitsFor: source.waitsFor })
    .from(source)
    .where(eq(source.id, id));
  return {
    ...(found ? { [sourceCode]: found.name } : {}),
    ...(found?.waitsFor?.length ? { [waitsForCode]: found.waitsFor } : {}),
  };
}

/** Writes down how the families that a run touches stand before it, once. */
async function rememberFamilies(id: number): Promise<void> {
  const explicit = sql`
    insert ignore into ${runFamily} (run_id, code, name, items, axes)
    select ${id}, family, family, count(*), '[]' from ${runItem}
    where run_id = ${id} and family is not null group by family
  `;
  await db.execute(explicit);
  await db.execute(sql`
    update ${runFamily} r join ${family} f on f.code = r.code
    set r.state_before = json_object('variesBy', json_extract(f.varies_by, '$'), 'values', json_extract(f.own_values, '$'))
    where r.run_id = ${id} and r.written = false and r.state_before is null
      and not exists (select 1 from ${runItem} x where x.run_id = ${id} and x.applied)
  `);
}

/** An item as the run leaves it. */
function nextState(
  row: Staged,
  known: ItemState | undefined,
  shared: ReadonlyMap<string, Readonly<Record<string, Value>>>,
  { mapping: { missing }, fileName, sourceId, from }: typeof run.$inferSelect & { from: Values },
  columnOf: ReadonlyMap<string, string>,
): ItemWrite {
  const code = row.family ?? known?.family ?? null;
  const common = code ? shared.get(code) : undefined;
  const values: Record<string, Value> = known ? { ...known.values } : { ...from };
  const origins = { ...known?.origins };
  const state = { sku: row.sku, family: code, values, origins, sourceId };
  if (row.kind === 'missing') {
    if (missing === 'outOfStock') {
      values.availability = 'OutOfStock';
      delete origins.availability;
    }
    return { ...state, archived: missing === 'archive' };
  }
  for (const [attribute, value] of Object.entries(row.values)) {
    if (sameValue(known?.values[attribute] ?? common?.[attribute], value)) continue;
    values[attribute] = value;
    const cell = row.cells[attribute] ?? asText(value).slice(0, 200);
    origins[attribute] = { file: fileName, row: row.row, column: columnOf.get(attribute) ?? '', cell };
  }
  return { ...state, archived: false };
}
