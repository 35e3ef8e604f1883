import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { and, desc, eq, inArray } from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import { InputError } from '../../core/formats/inputError';
import { suggestColumns } from '../../core/intake/columns';
import type { Form } from '../../core/intake/decode';
import {
  compileMapping,
  type ImportMapping,
  importMappingSchema,
  mappingFrom,
  rejectionWords,
} from '../../core/intake/mapping';
import { currentSnapshot } from '../catalog/snapshot';
import { db } from '../db/connection';
import { rejection, run, source } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { record, whoAsks } from '../people/gate';
import { settings } from '../settings';
import { readHead } from './reading';
import { emptyCounts, missingColumns } from './runs';

const mostBytes = 2 * 1024 ** 3;

/**
 * Takes an uploaded file in: keeps it, looks at its beginning, suggests a mapping.
 * @returns the run to work on
 * @throws InputError where the file cannot be used; nothing is kept then
 */
export async function takeFile(name: string, body: ReadableStream<Uint8Array>): Promise<number> {
  const person = await whoAsks();
  const folder = join(settings.dataFolder, 'uploads');
  await mkdir(folder, { recursive: true });
  const path = join(folder, `${randomUUID()}.csv`);
  let bytes = 0;
  try {
    await pipeline(
      Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]),
      async function* (chunks: AsyncIterable<Uint8Array>) {
        for await (const chunk of chunks) {
          bytes += chunk.length;
          if (bytes > mostBytes)
            throw new InputError(
              'The file is larger than 2 GB. Nothing was changed. Split it and bring the parts in one after another.',
            );
          yield chunk;
        }
      },
      createWriteStream(path),
    );
    const head = await readHead(path);
    const { attributes } = await currentSnapshot();
    const sample = head.records.map((cells) =>
      Object.fromEntries(head.columns.map((column, i) => [column, cells[i] ?? ''])),
    );
    // The family is no attribute, but a column can name it all the same.
    const targets = [
      ...attributes,
      {
        code: 'family',
        label: 'Family',
        kind: 'identifier' as const,
        synonyms: ['product group', 'parent', 'group code', 'style', 'modell'],
      },
    ];
    const mapping = mappingFrom(suggestColumns(head.columns, sample, targets), targets, head.form);
    return await db.transaction(async (tx) => {
      const [made] = await tx
        .insert(source)
        .values({
          name: name.replace(/\.[^.]+$/, '').slice(0, 200) || 'File',
          mapping: null,
          createdAt: new Date(),
        })
        .$returningId();
      const [row] = await tx
        .insert(run)
        .values({
          sourceId: made?.id ?? 0,
          fileName: name.slice(0, 300),
          path,
          bytes,
          mapping,
          state: 'uploaded',
          counts: emptyCounts(),
          examples: [],
          bytesDone: 0,
          rowsDone: 0,
          createdAt: new Date(),
        })
        .$returningId();
      await record(person, 'uploaded a file', name);
      return row?.id ?? 0;
    });
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
}

export type RunRow = typeof run.$inferSelect;

export async function findRun(id: number): Promise<RunRow | undefined> {
  const [found] = await db.select().from(run).where(eq(run.id, id));
  return found;
}

export async function listRuns(): Promise<RunRow[]> {
  return db.select().from(run).orderBy(desc(run.id)).limit(50);
}

export interface PreviewRow {
  readonly row: number;
  readonly sku: string;
  readonly values: Record<string, string>;
  readonly rejected: string | undefined;
}

export interface RunPreview {
  readonly columns: readonly { name: string; samples: string[] }[];
  readonly rows: readonly PreviewRow[];
}

/** What the first 50 items of a run would be under its mapping. */
export async function previewRun(found: RunRow): Promise<RunPreview> {
  const { attributes } = await currentSnapshot();
  const { encoding, separator } = found.mapping;
  const head = await readHead(found.path, { encoding, separator });
  const usable: ImportMapping = { ...found.mapping, fields: { ...found.mapping.fields } };
  for (const { attribute } of missingColumns(found.mapping, head.columns)) delete usable.fields[attribute];
  const read = compileMapping(usable, head.columns, attributes);
  return {
    columns: head.columns.map((name, i) => ({
      name,
      samples: [
        ...new Set(head.records.map((cells) => cells[i] ?? '').filter((cell) => cell.trim() !== '')),
      ].slice(0, 3),
    })),
    rows: head.records.slice(0, 50).map((cells, i) => {
      const item = read(cells);
      if ('reason' in item) return { row: i + 2, sku: '', values: {}, rejected: rejectionWords(item) };
      return {
        row: i + 2,
        sku: item.sku,
        values: Object.fromEntries(Object.entries(item.values).map(([code, value]) => [code, asText(value)])),
        rejected: undefined,
      };
    }),
  };
}

/** Changes how a run reads its file; a dry run made before no longer counts. */
export async function changeMapping(id: number, mapping: ImportMapping): Promise<void> {
  await db
    .update(run)
    .set({
      mapping: importMappingSchema.parse(mapping),
      state: 'uploaded',
      counts: emptyCounts(),
      examples: [],
      error: null,
    })
    .where(and(eq(run.id, id), inArray(run.state, ['uploaded', 'checked', 'failed'])));
}

/** Reads the file anew with another encoding or separator and matches its columns again. */
export async function changeForm(id: number, form: Form): Promise<void> {
  const found = await findRun(id);
  if (!found) return;
  const head = await readHead(found.path, form);
  const { attributes } = await currentSnapshot();
  const sample = head.records.map((cells) =>
    Object.fromEntries(head.columns.map((column, i) => [column, cells[i] ?? ''])),
  );
  await changeMapping(id, mappingFrom(suggestColumns(head.columns, sample, attributes), attributes, form));
}

/** Queues the dry run or the run itself. Only a file that has been uploaded is checked, only a checked one applied. */
export async function startRun(id: number, apply: boolean): Promise<boolean> {
  const person = await whoAsks();
  return db.transaction(async (tx) => {
    const [found] = await tx
      .select({ state: run.state, mapping: run.mapping, sourceId: run.sourceId, fileName: run.fileName })
      .from(run)
      .where(eq(run.id, id))
      .for('update');
    const from: RunRow['state'][] = apply ? ['checked'] : ['uploaded', 'checked', 'failed'];
    if (!found || !from.includes(found.state)) return false;
    await tx
      .update(run)
      .set({
        state: apply ? 'applying' : 'checking',
        counts: emptyCounts(),
        examples: [],
        repairs: [],
        rowsDone: 0,
        bytesDone: 0,
        error: null,
        finishedAt: null,
      })
      .where(eq(run.id, id));
    if (apply) await tx.update(source).set({ mapping: found.mapping }).where(eq(source.id, found.sourceId));
    await enqueue(tx, apply ? 'applyRun' : 'checkRun', { run: id });
    if (apply) await record(person, 'brought items in', found.fileName);
    return true;
  });
}

export async function listRejections(id: number) {
  return db.select().from(rejection).where(eq(rejection.runId, id)).orderBy(rejection.row);
}
