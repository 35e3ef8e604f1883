/** Bringing files in the way the worker does, in this process. */
import { readFileSync } from 'node:fs';
import { asc } from 'drizzle-orm';
import { InputError } from '@/core/errors/inputError';
import { type ImportMapping, importMappingSchema } from '@/core/import/mapping/importMapping';
import { editCells } from '@/server/catalog/itemEdits';
import { db } from '@/server/db/connection';
import { family, item } from '@/server/db/schema';
import { applyRun } from '@/server/import/applying';
import { checkRun } from '@/server/import/checking';
import { changeMapping, failRun, findRun, type RunRow, type RunStage, startRun } from '@/server/import/runs';
import { takeFile } from '@/server/import/sources';
import { undoRun } from '@/server/import/undoing';
import { unattended } from '@/server/jobs/queue';
import { bodyOf } from './stack';

const work = { check: checkRun, apply: applyRun, undo: undoRun };

/** Starts a stage of a run and does what the worker does with it. */
export async function pass(id: number, stage: RunStage): Promise<RunRow> {
  await startRun(id, stage);
  try {
    await work[stage](id, unattended);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    await failRun(id, error.message);
  }
  const found = await findRun(id);
  if (!found) throw new Error('the run is gone');
  return found;
}

/** Takes a file and checks it, with changes to its suggested mapping. */
export async function checked(
  name: string,
  file: string | Uint8Array,
  change?: (mapping: ImportMapping) => ImportMapping,
): Promise<RunRow> {
  const id = await takeFile(name, bodyOf(file));
  const found = await findRun(id);
  if (found && change) await changeMapping(id, change);
  return pass(id, 'check');
}

export async function bringIn(
  name: string,
  file: string | Uint8Array,
  change?: (mapping: ImportMapping) => ImportMapping,
): Promise<RunRow> {
  const { id } = await checked(name, file, change);
  return pass(id, 'apply');
}

export const savedMapping = (name: string): ImportMapping =>
  importMappingSchema.parse(JSON.parse(readFileSync(`demo/mappings/${name}.json`, 'utf8')));

const sorted = (values: object): unknown =>
  Object.fromEntries(Object.entries(values).sort(([a], [b]) => (a < b ? -1 : 1)));

/** Everything that makes up the catalog, to compare it with itself. */
export async function wholeCatalog(): Promise<string> {
  const [items, families] = await Promise.all([
    db.select().from(item).orderBy(asc(item.sku)),
    db.select().from(family).orderBy(asc(family.code)),
  ]);
  return JSON.stringify([
    items.map(({ id: _id, revision: _revision, values, origins, ...row }) => ({
      ...row,
      values: sorted(values),
      origins: sorted(origins),
    })),
    families.map(({ revision: _revision, values, ...row }) => ({ ...row, values: sorted(values) })),
  ]);
}

/** Sets one cell, as a person at the grid or at an item does. */
export async function editItem(
  sku: string,
  attribute: string,
  text: string,
): Promise<{ ok: boolean; words: string }> {
  try {
    return { ok: true, words: (await editCells([{ sku, attribute, text }])).words };
  } catch (error) {
    if (error instanceof InputError) return { ok: false, words: error.message };
    throw error;
  }
}
