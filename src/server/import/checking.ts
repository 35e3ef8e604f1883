import { eq, sql } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { importLimitsSchema } from '../../core/import/importReview';
import { formOf, type ImportMapping } from '../../core/import/mapping/importMapping';
import { columnsOf, compileMapping } from '../../core/import/mapping/mapping';
import { tallyRepairs } from '../../core/import/mapping/repairs';
import { catalogCurrency, loadAttributes } from '../catalog/snapshot';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { item, type RunCounts, rejection, run, runFamily, runItem, source } from '../db/schema';
import type { Work } from '../jobs/queue';
import { groupStaged } from './families';
import { alarmsOfRun } from './importReview';
import { readHeadApart, readSourceApart } from './reader';
import { type Refused, stageRows } from './staging';

const CHUNK_ROWS = 1000;

export const emptyCounts = (): RunCounts => ({
  rows: 0,
  new: 0,
  changed: 0,
  unchanged: 0,
  missing: 0,
  rejected: 0,
});

/** The columns that a mapping names and a file does not have. */
export function missingColumns(
  mapping: ImportMapping,
  columns: readonly string[],
): { attribute: string; column: string }[] {
  return Object.entries(mapping.fields).flatMap(([attribute, composition]) =>
    columnsOf(composition)
      .filter((column) => !columns.includes(column))
      .map((column) => ({ attribute, column })),
  );
}

/**
 * Reads a run's file and writes down what it would do; the catalog is not changed. May be run again from its start.
 * @throws InputError where the file cannot be used
 */
export async function checkRun(id: number, work: Work): Promise<void> {
  const [started] = await db.select().from(run).where(eq(run.id, id));
  if (started?.state !== 'checking') return;
  const attributes = await loadAttributes();
  const { mapping } = started;
  const head = await readHeadApart(started.path, formOf(mapping));
  // In trees a value may simply not occur in the first records.
  const [missing] = head.closed ? missingColumns(mapping, [...head.columns, ...head.beside]) : [];
  if (missing) {
    const label = attributes.find(({ code }) => code === missing.attribute)?.label ?? missing.attribute;
    throw new InputError('columnMissing', { column: missing.column, label });
  }
  const read = compileMapping(mapping, attributes, await catalogCurrency());
  await db.delete(rejection).where(eq(rejection.runId, id));
  await db.delete(runItem).where(eq(runItem.runId, id));
  await db.delete(runFamily).where(eq(runFamily.runId, id));
  await db
    .update(run)
    .set({ counts: emptyCounts(), repairs: [], held: {}, rowsDone: 0, bytesDone: 0 })
    .where(eq(run.id, id));
  let bytes = 0;
  for await (const rows of readSourceApart(started.path, formOf(mapping), CHUNK_ROWS, (count) => {
    bytes = count;
  })) {
    await db.transaction(async (tx) => {
      await work.hold(tx);
      const { staged, refused, items, held } = await stageRows(tx, id, mapping, rows, read);
      await insertRows(tx, runItem, staged);
      await refuse(tx, id, refused, head.columns);
      const [before] = await tx
        .select({ repairs: run.repairs, held: run.held })
        .from(run)
        .where(eq(run.id, id));
      await tx
        .update(run)
        .set({
          rowsDone: rows.at(-1)?.row ?? 0,
          bytesDone: bytes,
          repairs: tallyRepairs(before?.repairs ?? [], items),
          held: added(before?.held ?? {}, held),
        })
        .where(eq(run.id, id));
    });
    await work.progress(started.bytes === 0 ? 0 : Math.min(bytes / started.bytes, 0.99));
  }
  if (mapping.grouping)
    await groupStaged(id, mapping.grouping.by, work, (tx, refused) => refuse(tx, id, refused, head.columns));
  await findMissing(id, started.sourceId, mapping);
  const counts = await countRun(id);
  const [found] = await db
    .select({ limits: source.limits })
    .from(source)
    .where(eq(source.id, started.sourceId));
  const alarms = await alarmsOfRun(started, counts, found?.limits ?? importLimitsSchema.parse({}));
  await db
    .update(run)
    .set({ state: 'checked', counts, alarms, finishedAt: new Date() })
    .where(eq(run.id, id));
}

/** Two counts by name as one. */
function added(one: Readonly<Record<string, number>>, other: Readonly<Record<string, number>>) {
  const sum = { ...one };
  for (const [name, count] of Object.entries(other)) sum[name] = (sum[name] ?? 0) + count;
  return sum;
}

async function refuse(
  tx: Transaction,
  id: number,
  refused: readonly Refused[],
  columns: readonly string[],
): Promise<void> {
  if (refused.length === 0) return;
  await tx
    .insert(rejection)
    .values(
      refused.map(({ row, reason, cells }) => ({
        runId: id,
        row,
        reason: reason.slice(0, 500),
        record: columns.map((column) => (cells[column] ?? '').slice(0, 10_000)),
      })),
    )
    .onDuplicateKeyUpdate({ set: { reason: sql`values(reason)` } });
}

/** Items that the source brought before and that its file no longer has, in rows below 0. */
async function findMissing(id: number, sourceId: number, mapping: ImportMapping): Promise<void> {
  const changes =
    mapping.missing === 'leave'
      ? []
      : mapping.missing === 'archive'
        ? [['archived', 'in the catalog', 'archived']]
        : [['availability', '', 'OutOfStock']];
  await db.execute(sql`
    insert into ${runItem} (run_id, \`row_number\`, item_key, sku, kind, read_values, cells, changes, chosen)
    select ${id}, -row_number() over (order by i.id), concat('missing ', i.id), i.sku, 'missing', '{}', '{}',
      ${JSON.stringify(changes)}, ${mapping.missing !== 'leave'}
    from ${item} i left join ${runItem} r on r.run_id = ${id} and r.sku = i.sku
    where i.source_id = ${sourceId} and i.archived = false and r.sku is null
  `);
}

/** Counts what a run has staged. */
async function countRun(id: number): Promise<RunCounts> {
  const counts = emptyCounts();
  const kinds = await db
    .select({ kind: runItem.kind, count: sql<number>`count(*)` })
    .from(runItem)
    .where(eq(runItem.runId, id))
    .groupBy(runItem.kind);
  for (const { kind, count } of kinds) {
    if (kind !== 'parent') counts[kind] = Number(count);
    if (kind !== 'missing') counts.rows += Number(count);
  }
  const [refused] = await db
    .select({ count: sql<number>`count(*)` })
    .from(rejection)
    .where(eq(rejection.runId, id));
  counts.rejected = Number(refused?.count ?? 0);
  counts.rows += counts.rejected;
  return counts;
}
