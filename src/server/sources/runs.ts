import { eq, inArray, sql } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import type { Family, Values } from '../../core/catalog/item';
import { asText, sameValue } from '../../core/catalog/value';
import { InputError } from '../../core/formats/inputError';
import { compileMapping, type ImportMapping, type ReadItem, rejectionWords } from '../../core/intake/mapping';
import { tallyRepairs } from '../../core/intake/repairs';
import { type ItemWrite, raiseRevision, writeItems } from '../catalog/changes';
import { currentSnapshot } from '../catalog/snapshot';
import { db, type Transaction } from '../db/connection';
import { family, item, type RunCounts, type RunExample, rejection, run } from '../db/schema';
import { type FileRow, readHead, readRows } from './reading';

const chunkRows = 500;
const mostExamples = 60;

/** The columns that a mapping names and a file does not have. */
export function missingColumns(
  mapping: ImportMapping,
  columns: readonly string[],
): { attribute: string; column: string }[] {
  return Object.entries(mapping.fields).flatMap(([attribute, { alternatives }]) =>
    alternatives.flatMap(({ parts }) =>
      parts.flatMap((part) =>
        'attribute' in part && !columns.includes(part.attribute)
          ? [{ attribute, column: part.attribute }]
          : [],
      ),
    ),
  );
}

type Sorted =
  | {
      kind: 'new' | 'changed';
      row: number;
      item: ReadItem;
      write: ItemWrite;
      changes: [string, string, string][];
    }
  | { kind: 'unchanged' }
  | { kind: 'rejected'; row: number; reason: string; record: readonly string[] };

/** Decides for each row of a chunk what it is: new, changed, unchanged or rejected. */
async function sortRows(
  tx: Transaction,
  rows: readonly FileRow[],
  read: ReturnType<typeof compileMapping>,
  seen: Map<string, number>,
  fileName: string,
): Promise<{ sorted: Sorted[]; families: Map<string, Values>; items: ReadItem[] }> {
  const parsed = rows.map((row) => {
    if (row.record === undefined) return { row, reason: row.broken ?? 'cannot be read' };
    const result = read(row.record);
    if ('reason' in result) return { row, reason: rejectionWords(result) };
    const before = seen.get(result.sku);
    if (before !== undefined)
      return { row, reason: rejectionWords({ reason: 'repeated', sku: result.sku, row: before }) };
    seen.set(result.sku, row.row);
    return { row, item: result };
  });
  const skus = parsed.flatMap((one) => (one.item ? [one.item.sku] : []));
  const existing =
    skus.length > 0
      ? await tx
          .select({ sku: item.sku, family: item.family, values: item.values, origins: item.origins })
          .from(item)
          .where(inArray(item.sku, skus))
      : [];
  const bySku = new Map(existing.map((row) => [row.sku, row]));
  const codes = [
    ...new Set([
      ...existing.flatMap((row) => (row.family ? [row.family] : [])),
      ...parsed.flatMap((one) => (one.item?.family ? [one.item.family] : [])),
    ]),
  ];
  const familyRows =
    codes.length > 0
      ? await tx
          .select({ code: family.code, values: family.values })
          .from(family)
          .where(inArray(family.code, codes))
      : [];
  const families = new Map<string, Values>(familyRows.map((row) => [row.code, row.values]));
  const sorted = parsed.map((one): Sorted => {
    if (!one.item)
      return { kind: 'rejected', row: one.row.row, reason: one.reason, record: one.row.record ?? [] };
    const found = one.item;
    const old = bySku.get(found.sku);
    const code = found.family ?? old?.family ?? undefined;
    const shared = code ? families.get(code) : undefined;
    const changes: [string, string, string][] = [];
    const values: Record<string, Values[string]> = { ...old?.values };
    const origins = { ...old?.origins };
    for (const [attribute, value] of Object.entries(found.values)) {
      const before = old?.values[attribute] ?? shared?.[attribute];
      if (sameValue(before, value)) continue;
      changes.push([attribute, asText(before), asText(value)]);
      values[attribute] = value;
      const cell = found.cells[attribute];
      if (cell)
        origins[attribute] = { file: fileName, row: one.row.row, column: cell.column, cell: cell.cell };
    }
    if (found.family && found.family !== old?.family)
      changes.push(['family', old?.family ?? '', found.family]);
    if (old && changes.length === 0) return { kind: 'unchanged' };
    if (!old && values.name === undefined && shared?.name === undefined)
      return {
        kind: 'rejected',
        row: one.row.row,
        reason: rejectionWords({ reason: 'noName' }),
        record: one.row.record ?? [],
      };
    return {
      kind: old ? 'changed' : 'new',
      row: one.row.row,
      item: found,
      write: { sku: found.sku, family: code, values, origins },
      changes,
    };
  });
  return { sorted, families, items: parsed.flatMap((one) => one.item ?? []) };
}

/**
 * Goes through a run's file. While checking nothing but the run itself changes; while applying, each chunk of rows is
 * one transaction that also moves `rowsDone`, so that a run stopped anywhere goes on behind its last chunk.
 * @param beat keeps the job's lease and tells its progress, 0 to 1
 */
export async function passRun(
  id: number,
  apply: boolean,
  beat: (progress: number) => Promise<void>,
): Promise<void> {
  const [started] = await db.select().from(run).where(eq(run.id, id));
  if (!started || started.state !== (apply ? 'applying' : 'checking')) return;
  const { attributes } = await currentSnapshot();
  const { encoding, separator } = started.mapping;
  const { columns } = await readHead(started.path, { encoding, separator });
  const [missing] = missingColumns(started.mapping, columns);
  if (missing)
    throw new InputError(
      `The file has no column “${missing.column}”, which fills ${labelOf(attributes, missing.attribute)}. Nothing was changed. Choose another column or the right file.`,
    );
  const read = compileMapping(started.mapping, columns, attributes);
  const seen = new Map<string, number>();
  let bytes = 0;
  const done = apply ? started.rowsDone : 0;
  if (!apply) {
    await db.delete(rejection).where(eq(rejection.runId, id));
    await db
      .update(run)
      .set({ counts: emptyCounts(), examples: [], repairs: [], rowsDone: 0, bytesDone: 0 })
      .where(eq(run.id, id));
  }
  for await (const rows of readRows(started.path, encoding, separator, chunkRows, (count) => {
    bytes = count;
  })) {
    const last = rows.at(-1)?.row ?? 0;
    if (last <= done) {
      for (const row of rows) {
        const found = row.record ? read(row.record) : undefined;
        if (found && 'sku' in found && !('reason' in found) && !seen.has(found.sku))
          seen.set(found.sku, row.row);
      }
      continue;
    }
    await db.transaction(async (tx) => {
      const { sorted, families, items } = await sortRows(tx, rows, read, seen, started.fileName);
      if (apply) await writeChunk(tx, sorted, families);
      await tally(tx, id, sorted, items, last, bytes, apply);
    });
    await beat(started.bytes === 0 ? 0 : bytes / started.bytes);
  }
  await db
    .update(run)
    .set({ state: apply ? 'done' : 'checked', finishedAt: new Date() })
    .where(eq(run.id, id));
}

const labelOf = (attributes: readonly Attribute[], code: string): string =>
  attributes.find((one) => one.code === code)?.label ?? code;

export const emptyCounts = (): RunCounts => ({ rows: 0, new: 0, changed: 0, unchanged: 0, rejected: 0 });

async function writeChunk(
  tx: Transaction,
  sorted: readonly Sorted[],
  families: ReadonlyMap<string, Family['values']>,
): Promise<void> {
  const writes = sorted.flatMap((one) => ('write' in one ? [one.write] : []));
  if (writes.length > 0) await writeItems(tx, writes, (code) => families.get(code), await raiseRevision(tx));
}

async function tally(
  tx: Transaction,
  id: number,
  sorted: readonly Sorted[],
  items: readonly ReadItem[],
  last: number,
  bytes: number,
  apply: boolean,
): Promise<void> {
  const [current] = await tx
    .select({ counts: run.counts, examples: run.examples, repairs: run.repairs })
    .from(run)
    .where(eq(run.id, id))
    .for('update');
  const counts = { ...(current?.counts ?? emptyCounts()) };
  const examples: RunExample[] = [...(current?.examples ?? [])];
  for (const one of sorted) {
    counts.rows++;
    counts[one.kind]++;
    if (one.kind === 'changed' && examples.length < mostExamples)
      examples.push({ sku: one.item.sku, row: one.row, changes: one.changes });
  }
  const rejected = sorted.flatMap((one) =>
    one.kind === 'rejected'
      ? [{ runId: id, row: one.row, reason: one.reason.slice(0, 500), record: [...one.record] }]
      : [],
  );
  if (rejected.length > 0)
    await tx
      .insert(rejection)
      .values(rejected)
      .onDuplicateKeyUpdate({ set: { reason: sql`values(reason)` } });
  await tx
    .update(run)
    .set({
      counts,
      examples,
      repairs: tallyRepairs(current?.repairs ?? [], items),
      bytesDone: bytes,
      ...(apply ? { rowsDone: last } : {}),
    })
    .where(eq(run.id, id));
}

export async function failRun(id: number, error: string): Promise<void> {
  await db.update(run).set({ state: 'failed', error, finishedAt: new Date() }).where(eq(run.id, id));
}
