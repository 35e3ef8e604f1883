import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { and, asc, count, desc, eq, inArray, isNotNull, ne, sql } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { asText, emptyRecord } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import type { Form } from '../../core/import/encoding/decode';
import { isTable } from '../../core/import/encoding/decode';
import type { ColumnSuggestion } from '../../core/import/mapping/columns';
import {
  compileMapping,
  formOf,
  type ImportMapping,
  importMappingSchema,
  rejectionWords,
} from '../../core/import/mapping/mapping';
import { applyMappingEdit, type MappingEdit } from '../../core/import/mapping/mappingEdit';
import type { ListPlace } from '../../core/import/tables/records';
import { withPacked } from '../../files/archives';
import type { Head } from '../../files/reading';
import {
  columnsRead,
  earlierColumns,
  type Knowledge,
  suggestMapping,
  targetsFrom,
} from '../../files/suggesting';
import { unpacked } from '../../files/unpacking';
import { currentUser, recordActivity } from '../auth/authorize';
import { declareLanguages } from '../catalog/attributes';
import { inEnglish } from '../catalog/dictionaries';
import { catalogCurrency, loadAttributes } from '../catalog/snapshot';
import { readWorkspace } from '../catalog/workspace';
import { db, type Transaction } from '../db/connection';
import {
  item,
  type RunItemKind,
  type RunState,
  rejection,
  run,
  runFamily,
  runItem,
  source,
} from '../db/schema';
import { enqueue, stopJobs } from '../jobs/queue';
import { Memo } from '../runtime/memo';
import { settings } from '../runtime/settings';
import { isDiskFull } from '../storage/files';
import { emptyCounts, missingColumns } from './checking';
import { readHeadApart } from './reader';

const MAX_BYTES = 2 * 1024 ** 3;

export type SourceRow = typeof source.$inferSelect;
export type RunRow = typeof run.$inferSelect;

const nameOf = (fileName: string): string =>
  fileName
    .replace(/\.(?:gz|zip)$/i, '')
    .replace(/\.[^.]+$/, '')
    .slice(0, 200) || 'File';

/**
 * All that is known for reading a file's columns: words, the shop's language, and what headings were in other sources.
 * @param but a source whose own mapping is not to count
 */
async function knowledge(but?: number): Promise<Knowledge> {
  const [{ language }, sources] = await Promise.all([
    readWorkspace(),
    db
      .select({ name: source.name, mapping: source.mapping })
      .from(source)
      .where(and(isNotNull(source.mapping), but === undefined ? undefined : ne(source.id, but)))
      .orderBy(desc(source.id)),
  ]);
  return {
    main: language,
    english: inEnglish,
    earlier: earlierColumns(sources.flatMap(({ name, mapping }) => (mapping ? [{ name, mapping }] : []))),
  };
}

/** A mapping suggested for a file, by all that is known. */
const suggestedMapping = async (
  head: Head,
  attributes: readonly Attribute[],
  but?: number,
): Promise<ImportMapping> => suggestMapping(head, attributes, await knowledge(but));

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

export async function findRun(id: number): Promise<RunRow | undefined> {
  const [found] = await db.select().from(run).where(eq(run.id, id));
  return found;
}

export interface Progress {
  /** 0 to 1. */
  readonly share: number;
  readonly done: number;
  readonly of: number | undefined;
}

/** How far a run is: by bytes while its file is read, by items while it writes. */
export function progressOf(found: RunRow): Progress {
  const items = found.counts.new + found.counts.changed + found.counts.missing;
  return found.state === 'applying' || found.state === 'undoing'
    ? { share: items === 0 ? 0 : Math.min(1, found.rowsDone / items), done: found.rowsDone, of: items }
    : {
        share: found.bytes === 0 ? 0 : Math.min(1, found.bytesDone / found.bytes),
        done: found.rowsDone,
        of: undefined,
      };
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

export interface PreviewRow {
  readonly row: number;
  readonly sku: string;
  readonly values: Record<string, string>;
  readonly rejected: string | undefined;
}

export interface ColumnView {
  readonly name: string;
  readonly filled: number;
  readonly samples: readonly string[];
  readonly repeated: boolean;
}

export interface RunPreview {
  readonly columns: readonly ColumnView[];
  readonly sampled: number;
  readonly whole: boolean;
  readonly sheets: readonly string[];
  readonly lists: readonly ListPlace[];
  readonly variantLists: readonly ListPlace[];
  readonly sizes: readonly string[];
  readonly rows: readonly PreviewRow[];
  /** How many of the sampled rows give each attribute a value, and the first of them. */
  readonly filled: Readonly<Record<string, { count: number; sample: string }>>;
  /** Attributes whose mapping names a column the file does not have. */
  readonly lacking: readonly { attribute: string; column: string }[];
  /** By column what it may be, the likeliest first, each with its reasons. */
  readonly fits: Readonly<Record<string, readonly ColumnSuggestion[]>>;
  /** By column: its distinct values with their counts, for value tables. */
  readonly words: Readonly<Record<string, readonly (readonly [string, number])[]>>;
}

const heads = new Memo<Promise<Head>>({ owner: 'heads of files', maxEntries: 20 });

/** The head of a kept file, which never changes: a run's page is drawn many times, and a workbook is long to open. */
const headOf = (path: string, form: Form): Promise<Head> =>
  heads.of(JSON.stringify([path, form]), () => readHeadApart(path, form));

/** What the first records of a run would be under its mapping. */
export async function previewRun(found: RunRow): Promise<RunPreview> {
  const attributes = await loadAttributes();
  const mapping = importMappingSchema.parse(found.mapping);
  if (found.path === '') throw new InputError('uploadDropped');
  const head = await headOf(found.path, formOf(mapping));
  const lacking = missingColumns(mapping, [...head.columns, ...head.beside]);
  const read = compileMapping(mapping, attributes, await catalogCurrency());
  const filled = emptyRecord<{ count: number; sample: string }>();
  const first = isTable(head.form.kind) ? (head.form.headingRow ?? 1) + (head.form.headingLines ?? 1) : 1;
  const rows = head.records.map(({ cells }, i): PreviewRow => {
    const item = read(cells);
    if ('reason' in item) return { row: i + first, sku: '', values: {}, rejected: rejectionWords(item) };
    const values: Record<string, string> = { sku: item.sku, ...(item.family ? { family: item.family } : {}) };
    for (const [code, value] of Object.entries(item.values)) values[code] = asText(value).slice(0, 300);
    for (const [code, text] of Object.entries(values)) {
      const known = filled[code];
      filled[code] = { count: (known?.count ?? 0) + 1, sample: known?.sample ?? text };
    }
    return { row: i + first, sku: item.sku, values, rejected: undefined };
  });
  const looked = new Set(Object.values(mapping.fields).flatMap((one) => tableColumns(one)));
  const { fits } = columnsRead(head, targetsFrom(attributes), await knowledge(found.sourceId));
  return {
    fits: Object.fromEntries(fits),
    columns: head.lines.map(({ path, ...line }) => ({ name: path, ...line })),
    sampled: head.records.length,
    whole: head.whole && head.records.length < 200,
    sheets: head.sheets,
    lists: head.lists,
    variantLists: head.variantLists,
    sizes: head.sizes,
    rows: rows.slice(0, 50),
    // Pages take plain objects only.
    filled: { ...filled },
    lacking,
    words: Object.fromEntries([...looked].map((column) => [column, wordsIn(head, column)])),
  };
}

/** Columns of a composition that looks something up in a value table. */
const tableColumns = (composition: ImportMapping['fields'][string]): string[] =>
  composition.alternatives.flatMap((alternative) =>
    alternative.parts.flatMap((part) =>
      'attribute' in part &&
      [...part.steps, ...alternative.steps, ...composition.steps].some(({ step }) => step === 'lookUp')
        ? [part.attribute]
        : [],
    ),
  );

function wordsIn(head: Head, column: string): [string, number][] {
  const counts = new Map<string, number>();
  for (const { cells } of head.records) {
    const cell = cells[column]?.trim();
    if (cell) counts.set(cell, (counts.get(cell) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1]).slice(0, 200);
}

const changeable: RunState[] = ['uploaded', 'checked', 'failed'];

/**
 * Changes how a run reads its file; what was checked before no longer counts.
 * @param change what becomes of the mapping as it stands then
 * @throws InputError where the run is under way or has been brought in
 */
export async function changeMapping(
  id: number,
  change: (mapping: ImportMapping) => ImportMapping,
): Promise<void> {
  await db.transaction(async (tx) => {
    const [found] = await tx.select().from(run).where(eq(run.id, id)).for('update');
    if (!found || !changeable.includes(found.state)) throw new InputError('runElsewhere');
    const mapping = importMappingSchema.parse(change(importMappingSchema.parse(found.mapping)));
    await declareLanguages(tx, Object.keys(mapping.fields));
    await tx
      .update(run)
      .set({ mapping, state: 'uploaded', counts: emptyCounts(), error: null })
      .where(eq(run.id, id));
  });
}

/** Puts one edit into a run's mapping; two at once both count. */
export const editMapping = (id: number, edit: MappingEdit): Promise<void> =>
  changeMapping(id, (mapping) => applyMappingEdit(mapping, edit));

/** Reads the file anew in another form and matches its columns again; the rest of the mapping stays. */
export async function changeForm(id: number, form: Partial<Form>): Promise<void> {
  const found = await findRun(id);
  if (!found) return;
  const before = formOf(found.mapping);
  const { variants: _variants, list: _list, ...flat } = before;
  const base =
    form.kind !== undefined && form.kind !== before.kind
      ? // Text that is split otherwise has its heading elsewhere.
        { encoding: before.encoding }
      : form.list !== undefined && form.list !== before.list
        ? { ...flat, list: form.list }
        : before;
  const head = await readHeadApart(found.path, { ...base, ...form });
  const fresh = await suggestedMapping(head, await loadAttributes(), found.sourceId);
  await changeMapping(id, ({ repairs, missing, key }) => ({
    ...fresh,
    missing,
    key,
    ...(repairs ? { repairs } : {}),
  }));
}

const underWay: RunState[] = ['checking', 'applying', 'undoing'];
const stages = {
  check: { from: changeable, state: 'checking', job: 'checkRun' },
  apply: { from: ['checked'] as RunState[], state: 'applying', job: 'applyRun' },
  undo: { from: ['done'] as RunState[], state: 'undoing', job: 'undoRun' },
} as const;
export type RunStage = keyof typeof stages;

/**
 * Queues a stage of a run: check it, bring it in, undo it. Runs of one source never overlap.
 * @throws InputError where the run is not at that point, or another run of its source is under way
 */
export async function startRun(id: number, stage: RunStage): Promise<void> {
  const person = await currentUser();
  // Read committed: behind the lock stands what the start before has written.
  const isolationLevel = 'read committed' as const;
  await db.transaction(
    async (tx) => {
      const { from, state, job } = stages[stage];
      const found = await lockRun(tx, id);
      if (!found || !from.includes(found.state)) throw new InputError('runElsewhere');
      const [other] = await tx
        .select({ id: run.id, fileName: run.fileName })
        .from(run)
        .where(and(eq(run.sourceId, found.sourceId), inArray(run.state, underWay)));
      if (other) throw new InputError('runUnderWay', { file: other.fileName });
      await tx.update(run).set({ state, error: null, finishedAt: null, rowsDone: 0 }).where(eq(run.id, id));
      if (stage === 'apply')
        await tx.update(source).set({ mapping: found.mapping }).where(eq(source.id, found.sourceId));
      await enqueue(tx, job, { run: id });
      if (stage !== 'check')
        await recordActivity(person, stage === 'apply' ? 'brought items in' : 'undid a run', found.fileName);
    },
    { isolationLevel },
  );
}

/** Stops what is under way on a run; what it has written stays and can be undone. */
export async function stopRun(id: number): Promise<void> {
  const person = await currentUser();
  const found = await findRun(id);
  const stage = Object.values(stages).find(({ state }) => state === found?.state);
  if (!found || !stage) throw new InputError('runEnded');
  if (!(await stopJobs(stage.job, { run: id }))) await failRun(id, 'It was stopped.');
  await recordActivity(person, 'stopped a run', found.fileName);
}

/** A run with its source locked, so that two starts wait for each other. */
async function lockRun(tx: Transaction, id: number): Promise<RunRow | undefined> {
  const [head] = await tx.select({ sourceId: run.sourceId }).from(run).where(eq(run.id, id));
  if (!head) return undefined;
  await tx.select({ id: source.id }).from(source).where(eq(source.id, head.sourceId)).for('update');
  const [found] = await tx.select().from(run).where(eq(run.id, id)).for('update');
  return found;
}

/** Ends a run with its reason. */
export async function failRun(id: number, error: string): Promise<void> {
  const found = await findRun(id);
  // What has been written can be undone, so a run that stopped while writing counts as brought in.
  const state: RunState = found?.state === 'applying' || found?.state === 'undoing' ? 'done' : 'failed';
  const words =
    state === 'failed' ? error : `It stopped before its end: ${error} Undo it, or bring the file in again.`;
  await db.update(run).set({ state, error: words, finishedAt: new Date() }).where(eq(run.id, id));
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
      waits ? 'holds new items of a source back' : 'lets new items of a source join',
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
