'use server';
import { z } from 'zod';
import { type ImportMapping, importMappingSchema } from '@/core/intake/mapping';
import { type PlanEdit, planEditSchema } from '@/core/listing/edit';
import {
  discardDraft,
  type EditResult,
  editDraft,
  publishDraft,
  restoreVersion,
  undoDraft,
} from '@/server/feeds/drafts';
import { createFeed, duplicateFeed, previewDuplicate } from '@/server/feeds/feeds';
import { pinItem, pinTellingItems } from '@/server/feeds/samples';
import { saveWords } from '@/server/feeds/valuesStage';
import { loadFeed } from '@/server/feeds/work';
import { addAddress, fetchNow, setAddress } from '@/server/sources/fetching';
import { changeForm, changeMapping, chooseRows, type RunStage, startRun } from '@/server/sources/sources';
import { type SendResult, sendFeed } from '@/server/submissions/submissions';
import { type Told, told } from './told';

/** Thin on purpose: parse what came from outside, call the server. */
const code = z.string().min(1).max(190);
const revision = z.number().int();

export async function saveEdit(feed: string, at: number, edit: PlanEdit): Promise<EditResult> {
  return editDraft(code.parse(feed), revision.parse(at), planEditSchema.parse(edit));
}

export async function saveWordsOf(
  feed: string,
  at: number,
  field: string,
  words: Record<string, string>,
  share: boolean,
): Promise<EditResult & { told?: string[] }> {
  const work = await loadFeed(code.parse(feed));
  if (!work) return { ok: false, reason: 'nothing' };
  const given = z.record(z.string(), z.string()).parse(words);
  return saveWords(work, revision.parse(at), code.parse(field), given, z.boolean().parse(share));
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

/** An answer that has nothing to say but that it is done. */
const answered = (work: () => Promise<unknown>): Promise<Told<object>> =>
  told(async () => {
    await work();
    return {};
  });

export async function setMapping(run: number, mapping: ImportMapping): Promise<Told<object>> {
  return answered(() => changeMapping(z.number().int().parse(run), importMappingSchema.parse(mapping)));
}

const formSchema = importMappingSchema
  .pick({
    kind: true,
    encoding: true,
    separator: true,
    sheet: true,
    headingRow: true,
    list: true,
    variants: true,
  })
  .partial();

export async function setForm(run: number, form: z.infer<typeof formSchema>): Promise<Told<object>> {
  const given = Object.entries(formSchema.parse(form)).filter(([name]) => name in form);
  return answered(() => changeForm(z.number().int().parse(run), Object.fromEntries(given)));
}

export async function beginRun(run: number, stage: RunStage): Promise<Told<object>> {
  return answered(() =>
    startRun(z.number().int().parse(run), z.enum(['check', 'apply', 'undo']).parse(stage)),
  );
}

const choiceSchema = z.union([
  z.strictObject({ row: z.number().int() }),
  z.strictObject({ kind: z.enum(['new', 'changed', 'missing']) }),
]);

export async function choose(
  run: number,
  what: z.infer<typeof choiceSchema>,
  chosen: boolean,
): Promise<Told<object>> {
  return answered(() =>
    chooseRows(z.number().int().parse(run), choiceSchema.parse(what), z.boolean().parse(chosen)),
  );
}

const addressSchema = z.strictObject({
  address: z.string().trim().max(700).nullable(),
  schedule: z
    .strictObject({
      every: z.enum(['hour', 'day', 'week']),
      at: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'The time is written as 04:30.'),
      zone: z.string().refine((zone) => Intl.supportedValuesOf('timeZone').includes(zone) || zone === 'UTC'),
    })
    .nullable(),
  automatic: z.boolean(),
});

export async function saveAddress(
  source: number,
  given: z.infer<typeof addressSchema>,
): Promise<Told<object>> {
  return answered(() => setAddress(z.number().int().parse(source), addressSchema.parse(given)));
}

export async function addSource(address: string): Promise<Told<object>> {
  return answered(() => addAddress(z.string().trim().max(700).parse(address)));
}

export async function fetchSourceNow(source: number): Promise<Told<object>> {
  return answered(() => fetchNow(z.number().int().parse(source)));
}

const marketSchema = z.strictObject({ channel: code, country: z.string().length(2), language: code });
type Market = z.infer<typeof marketSchema>;

export async function addFeed(market: Market): Promise<Told<{ feed: string }>> {
  const { channel, country, language } = marketSchema.parse(market);
  return told(async () => ({ feed: await createFeed(channel, country, language) }));
}

/** What would go along to another market or channel. */
export async function lookAtCopy(
  feed: string,
  market: Market,
): Promise<Told<{ carried: readonly string[]; left: readonly string[] }>> {
  const { channel, country, language } = marketSchema.parse(market);
  return told(async () => {
    const { carried, left } = await previewDuplicate(code.parse(feed), channel, country, language);
    return { carried, left };
  });
}

export async function copyFeed(feed: string, market: Market): Promise<Told<{ feed: string }>> {
  const { channel, country, language } = marketSchema.parse(market);
  return told(async () => ({ feed: await duplicateFeed(code.parse(feed), channel, country, language) }));
}
