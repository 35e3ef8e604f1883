import { and, desc, eq, inArray, isNotNull, ne } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { InputError } from '../../core/errors/inputError';
import type { Form } from '../../core/import/encoding/decode';
import { formOf, type ImportMapping, importMappingSchema } from '../../core/import/mapping/importMapping';
import { applyMappingEdit, type MappingEdit } from '../../core/import/mapping/mappingEdit';
import type { Head } from '../../files/head';
import { earlierColumns, type Knowledge, suggestMapping } from '../../files/suggesting';
import { currentUser, recordActivity } from '../auth/authorize';
import { declareLanguages } from '../catalog/attributes';
import { inEnglish } from '../catalog/dictionaries';
import { loadAttributes } from '../catalog/snapshot';
import { readWorkspace } from '../catalog/workspace';
import { db, type Transaction } from '../db/connection';
import { type RunState, run, source } from '../db/schema';
import { enqueue, stopJobs } from '../jobs/queue';
import { emptyCounts } from './checking';
import { readHeadApart } from './reader';

export type RunRow = typeof run.$inferSelect;

/**
 * All that is known for reading a file's columns: words, the shop's language, and what headings were in other sources.
 * @param but a source whose own mapping is not to count
 */
export async function knowledge(but?: number): Promise<Knowledge> {
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
export const suggestedMapping = async (
  head: Head,
  attributes: readonly Attribute[],
  but?: number,
): Promise<ImportMapping> => suggestMapping(head, attributes, await knowledge(but));

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
        await recordActivity(person, stage === 'apply' ? 'imported items' : 'undid a run', found.fileName);
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
  if (!(await stopJobs(stage.job, { run: id }))) await failRun(id, 'Stopped.');
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
    state === 'failed'
      ? error
      : `The import stopped before its end: ${error} Undo it, or import the file again.`;
  await db.update(run).set({ state, error: words, finishedAt: new Date() }).where(eq(run.id, id));
}
