import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { and, asc, count, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { formOf, type ImportMapping, importMappingSchema } from '../../core/import/mapping/importMapping';
import { withPacked } from '../../files/packed/archives';
import { unpacked } from '../../files/packed/unpacking';
import { currentUser, recordActivity } from '../auth/authorize';
import { declareLanguages } from '../catalog/attributes';
import { loadAttributes } from '../catalog/snapshot';
import { db } from '../db/connection';
import { item, type RunItemKind, rejection, run, runFamily, runItem, source } from '../db/schema';
import { settings } from '../runtime/settings';
import { isDiskFull } from '../storage/files';
import { emptyCounts, missingColumns } from './checking';
import { readHeadApart } from './reader';
import { findRun, type RunRow, suggestedMapping } from './runs';

const MAX_BYTES = 2 * 1024 ** 3;

export type SourceRow = typeof source.$inferSelect;
const nameOf = (fileName: string): string =>
  fileName
    .replace(/\.(?:gz|zip)$/i, '')
    .replace(/\.[^.]+$/, '')
    .slice(0, 200) || 'File';

/** Keeps a stream of bytes as a file of this workspace. @throws InputError where it is too large; nothing is kept then */
async function keepFile(body: AsyncIterable<Uint8Array>): Promise<{ path: string; bytes: number }> {
  const folder = join(settings.dataFolder, 'uploads');
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const complete = await keepBytes(join(folder, randomUUID()), body);
  try {
    const inside = await withPacked(complete.path, (packed) => keepBytes(join(folder, randomUUID()), packed));
    if (inside) await rm(complete.path, { force: true });
    return inside ?? complete;
  } catch (error) {
    await rm(complete.path, { force: true });
    throw error;
  }
}

async function keepBytes(
  path: string,
  body: AsyncIterable<Uint8Array>,
): Promise<{ path: string; bytes: number }> {
  let bytes = 0;
  try {
    await pipeline(
      unpacked(body),
      async function* (chunks: AsyncIterable<Uint8Array>) {
        for await (const chunk of chunks) {
          bytes += chunk.length;
          if (bytes > MAX_BYTES) throw new InputError('fileTooLarge');
          yield chunk;
        }
      },
      createWriteStream(path, { mode: 0o600 }),
    );
  } catch (error) {
    await rm(path, { force: true });
    throw isDiskFull(error) ? new InputError('diskFull') : error;
  }
  return { path, bytes };
}

/**
 * Takes a file in: keeps it, looks at its beginning, and uses the mapping saved with its source, or suggests one.
 * A file of the same name as an earlier one belongs to the same source.
 * @param into the source it is for; found by the file's name, or made, where left out
 * @returns the run to work on
 * @throws InputError where the file cannot be used; nothing is kept then
 */
export async function takeFile(
  name: string,
  body: ReadableStream<Uint8Array> | AsyncIterable<Uint8Array>,
  into?: number,
): Promise<number> {
  const person = await currentUser();
  const stream =
    body instanceof ReadableStream
      ? Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0])
      : Readable.from(body);
  const { path, bytes } = await keepFile(stream);
  try {
    const [known] = await db
      .select()
      .from(source)
      .where(into === undefined ? eq(source.name, nameOf(name)) : eq(source.id, into))
      .orderBy(desc(source.id))
      .limit(1);
    const attributes = await loadAttributes();
    let mapping: ImportMapping | undefined;
    if (known?.mapping) {
      const saved = importMappingSchema.parse(known.mapping);
      // A saved mapping reads its file as before; where that no longer works, the file is looked at anew.
      const head = await readHeadApart(path, formOf(saved)).catch(() => undefined);
      if (head && missingColumns(saved, head.columns).length < Object.keys(saved.fields).length)
        mapping = saved;
    }
    mapping ??= await suggestedMapping(await readHeadApart(path), attributes);
    const codes = Object.keys(mapping.fields);
    return await db.transaction(async (tx) => {
      await declareLanguages(tx, codes);
      const sourceId =
        known?.id ??
        (
          await tx
            .insert(source)
            .values({ name: nameOf(name), mapping: null, createdAt: new Date() })
            .$returningId()
        )[0]?.id ??
        0;
      const [row] = await tx
        .insert(run)
        .values({
          sourceId,
          fileName: name.slice(0, 300),
          path,
          bytes,
          mapping,
          state: 'uploaded',
          counts: emptyCounts(),
          bytesDone: 0,
          rowsDone: 0,
          createdAt: new Date(),
        })
        .$returningId();
      await recordActivity(person, 'uploaded a file', name);
      return row?.id ?? 0;
    });
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
}

export interface SourceView extends SourceRow {
  readonly runs: readonly RunRow[];
  /** Items in the catalog that it brought last. */
  readonly items: number;
}

/** Every source with its latest runs, the one used last first. */
export async function listSources(): Promise<SourceView[]> {
  const [sources, runs, items] = await Promise.all([
    db.select().from(source),
    db.select().from(run).orderBy(desc(run.id)).limit(200),
    itemsBySource(),
  ]);
  const last = (id: number) => runs.find((one) => one.sourceId === id)?.id ?? 0;
  return sources
    .sort((a, b) => last(b.id) - last(a.id))
    .map((one) => ({
      ...one,
      runs: runs.filter((found) => found.sourceId === one.id).slice(0, 5),
      items: items.get(one.id) ?? 0,
    }));
}

export async function findSource(id: number): Promise<SourceRow | undefined> {
  const [found] = await db.select().from(source).where(eq(source.id, id));
  return found;
}

export async function listRejections(id: number, most = 100_000) {
  return db.select().from(rejection).where(eq(rejection.runId, id)).orderBy(rejection.row).limit(most);
}

export interface StagedLine {
  readonly row: number;
  readonly sku: string;
  readonly kind: RunItemKind;
  readonly changes: readonly (readonly [string, string, string])[];
  readonly chosen: boolean;
  /** The name the row gives it. */
  readonly name: string | null;
}

const stagedLine = {
  name: sql<string | null>`json_value(${runItem.values}, '$.name')`,
  row: runItem.row,
  sku: runItem.sku,
  kind: runItem.kind,
  changes: runItem.changes,
  chosen: runItem.chosen,
};

/** The first rows of each kind that a run would change. */
export async function listStaged(id: number, kind: RunItemKind, most = 50): Promise<StagedLine[]> {
  return db
    .select(stagedLine)
    .from(runItem)
    .where(and(eq(runItem.runId, id), eq(runItem.kind, kind)))
    .orderBy(asc(runItem.row))
    .limit(most);
}

/** The families a run would make or has made, and the rows that fit none, with why. */
export async function listRunFamilies(id: number) {
  const [families, [count], loose] = await Promise.all([
    db.select().from(runFamily).where(eq(runFamily.runId, id)).orderBy(asc(runFamily.code)).limit(100),
    db.select({ count: sql<number>`count(*)` }).from(runFamily).where(eq(runFamily.runId, id)),
    db
      .select({ row: runItem.row, sku: runItem.sku, misfit: runItem.misfit })
      .from(runItem)
      .where(and(eq(runItem.runId, id), isNotNull(runItem.misfit)))
      .orderBy(asc(runItem.row))
      .limit(100),
  ]);
  return {
    count: Number(count?.count ?? 0),
    families: families.map(({ code, name, items, axes, before }) => ({
      code,
      name,
      items,
      axes,
      known: before !== null,
    })),
    loose,
  };
}

/** What an undone run left as it was, because it had been changed since. */
export async function listKept(id: number): Promise<{ sku: string; kept: string[] }[]> {
  const rows = await db
    .select({ sku: runItem.sku, kept: runItem.kept })
    .from(runItem)
    .where(and(eq(runItem.runId, id), isNotNull(runItem.kept)))
    .orderBy(asc(runItem.row))
    .limit(500);
  return rows.map(({ sku, kept }) => ({ sku, kept: kept ?? [] }));
}

/** Chooses which rows of a checked run are brought in: one, or all of a kind. */
export async function chooseRows(
  id: number,
  what: { row: number } | { kind: RunItemKind },
  chosen: boolean,
): Promise<void> {
  const found = await findRun(id);
  if (found?.state !== 'checked') return;
  await db
    .update(runItem)
    .set({ chosen })
    .where(
      and(
        eq(runItem.runId, id),
        'row' in what ? eq(runItem.row, what.row) : eq(runItem.kind, what.kind),
        inArray(runItem.kind, ['new', 'changed', 'missing']),
      ),
    );
}

/** How many rows of a checked run are chosen to be brought in. */
export async function countChosen(id: number): Promise<Record<'new' | 'changed' | 'missing', number>> {
  const rows = await db
    .select({ kind: runItem.kind, count: sql<number>`count(*)` })
    .from(runItem)
    .where(and(eq(runItem.runId, id), eq(runItem.chosen, true)))
    .groupBy(runItem.kind);
  const of = (kind: RunItemKind) => Number(rows.find((row) => row.kind === kind)?.count ?? 0);
  return { new: of('new'), changed: of('changed'), missing: of('missing') };
}

/** Says whether new items of a source join a feed by themselves, or wait until a person lets them. */
export async function setWaiting(id: number, feed: string, waits: boolean): Promise<void> {
  const person = await currentUser();
  await db.transaction(async (tx) => {
    const [found] = await tx
      .select({ name: source.name, waitsFor: source.waitsFor })
      .from(source)
      .where(eq(source.id, id))
      .for('update');
    if (!found) throw new InputError('noSource');
    const others = (found.waitsFor ?? []).filter((one) => one !== feed);
    await tx
      .update(source)
      .set({ waitsFor: waits ? [...others, feed].sort() : others })
      .where(eq(source.id, id));
    await recordActivity(
      person,
      waits ? 'holds new items of a source for review' : 'adds new items of a source to feeds at once',
      `${found.name}: ${feed}`,
    );
  });
}

/** How many items each source brought last; of those in the catalog. */
async function itemsBySource(): Promise<Map<number, number>> {
  const found = await db
    .select({ id: item.sourceId, count: count() })
    .from(item)
    .where(eq(item.archived, false))
    .groupBy(item.sourceId);
  return new Map(found.flatMap(({ id, count: items }) => (id === null ? [] : [[id, items]])));
}

/**
 * Deletes a source with its mapping, schedule and runs. The runs can no longer be undone; the items stay.
 * @throws InputError where one of its runs is under way
 */
export async function removeSource(id: number): Promise<void> {
  const person = await currentUser();
  const [found] = await db.select().from(source).where(eq(source.id, id));
  if (!found) throw new InputError('noSource');
  const runs = await db.select({ state: run.state, path: run.path }).from(run).where(eq(run.sourceId, id));
  if (runs.some(({ state }) => ['checking', 'applying', 'undoing'].includes(state)))
    throw new InputError('sourceUnderWay');
  const items = (await itemsBySource()).get(id) ?? 0;
  await db.transaction(async (tx) => {
    await tx.update(item).set({ sourceId: null }).where(eq(item.sourceId, id));
    await tx.delete(source).where(eq(source.id, id));
  });
  for (const { path } of runs) await rm(path, { force: true });
  await recordActivity(person, `deleted a source; its ${items} items stay`, found.name);
}
