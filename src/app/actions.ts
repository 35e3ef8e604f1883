'use server';
import { z } from 'zod';
import { InputError } from '@/core/formats/inputError';
import { encodings, separators } from '@/core/intake/decode';
import { type ImportMapping, importMappingSchema } from '@/core/intake/mapping';
import { type PlanEdit, planEditSchema } from '@/core/listing/edit';
import { editItem } from '@/server/catalog/items';
import {
  discardDraft,
  type EditResult,
  editDraft,
  publishDraft,
  restoreVersion,
  undoDraft,
} from '@/server/feeds/drafts';
import { pinItem, pinTellingItems } from '@/server/feeds/samples';
import { loadFeed } from '@/server/feeds/work';
import { changeForm, changeMapping, startRun } from '@/server/sources/sources';
import { type SendResult, sendFeed } from '@/server/submissions/submissions';

/** Thin on purpose: parse what came from outside, call the server. */
const code = z.string().min(1).max(190);
const revision = z.number().int();

export async function saveEdit(feed: string, at: number, edit: PlanEdit): Promise<EditResult> {
  return editDraft(code.parse(feed), revision.parse(at), planEditSchema.parse(edit));
}

export async function undoEdit(feed: string): Promise<EditResult> {
  return undoDraft(code.parse(feed));
}

export async function publish(feed: string, at: number): Promise<EditResult & { version?: number }> {
  const work = await loadFeed(code.parse(feed));
  const words = work ? `${work.changes} changes, ${work.impact.changed} listings` : '';
  return publishDraft(feed, revision.parse(at), words);
}

export async function discard(feed: string, at: number): Promise<EditResult> {
  return discardDraft(code.parse(feed), revision.parse(at));
}

export async function restore(feed: string, version: number, at: number): Promise<EditResult> {
  return restoreVersion(code.parse(feed), z.number().int().parse(version), revision.parse(at));
}

export async function pin(sku: string, on: boolean): Promise<void> {
  await pinItem(code.parse(sku), z.boolean().parse(on));
}

export async function pinTelling(feed: string): Promise<void> {
  const work = await loadFeed(code.parse(feed));
  if (work) await pinTellingItems(work);
}

export async function send(feed: string, everything: boolean): Promise<SendResult> {
  return sendFeed(code.parse(feed), z.boolean().parse(everything));
}

export async function setItemValue(
  sku: string,
  attribute: string,
  text: string,
): Promise<{ ok: boolean; words: string }> {
  return editItem(code.parse(sku), code.parse(attribute), z.string().max(20_000).parse(text));
}

type Answer = { ok: true } | { ok: false; words: string };

const answered = async (work: () => Promise<unknown>): Promise<Answer> => {
  try {
    await work();
    return { ok: true };
  } catch (error) {
    if (error instanceof InputError) return { ok: false, words: error.message };
    throw error;
  }
};

export async function setMapping(run: number, mapping: ImportMapping): Promise<Answer> {
  return answered(() => changeMapping(z.number().int().parse(run), importMappingSchema.parse(mapping)));
}

export async function setForm(run: number, encoding: string, separator: string): Promise<Answer> {
  const form = z
    .object({ encoding: z.enum(encodings), separator: z.enum(separators) })
    .parse({ encoding, separator });
  return answered(() => changeForm(z.number().int().parse(run), form));
}

export async function beginRun(run: number, apply: boolean): Promise<boolean> {
  return startRun(z.number().int().parse(run), z.boolean().parse(apply));
}
