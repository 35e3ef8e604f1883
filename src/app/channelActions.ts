'use server';
import { z } from 'zod';
import { readJson } from '@/core/channels/bundle';
import { sheetFromHeadings, sheetFromJsonSchema } from '@/core/channels/drafting';
import { readPastedRows } from '@/core/formats/pastedRows';
import {
  channelOf,
  createChannel,
  dropVersion,
  freeCode,
  openNextVersion,
  type SheetResult,
  saveVersion,
  takeOnVersion,
  taxonomyOf,
} from '@/server/channels/channels';
import { type Told, told } from './told';

/** Thin on purpose: parse what came from outside, call the server, give back words. */
const code = z.string().min(1).max(190);
const longText = z.string().max(4_000_000, 'That is more than four million characters. Send a shorter file.');
const today = () => new Date().toISOString().slice(0, 10);

const beginningSchema = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('headings'), text: longText }),
  z.strictObject({ from: z.literal('schema'), text: longText }),
  z.strictObject({ from: z.literal('copy'), of: code }),
  z.strictObject({ from: z.literal('file'), text: longText, taxonomy: longText }),
]);
export type Beginning = z.infer<typeof beginningSchema>;

const headSchema = z.strictObject({
  name: z.string().trim().min(1, 'Give the channel a name.').max(100),
  country: z.string().regex(/^[A-Z]{2}$/, 'The country is two capital letters, such as DE.'),
  language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]+)*$/, 'The language is a code such as de.'),
  currency: z.string().regex(/^[A-Z]{3}$/, 'The currency is three capital letters, such as EUR.'),
});
export type NewHead = z.infer<typeof headSchema>;

/** Makes a channel of the merchant's own. @returns its code */
export async function makeOwnChannel(beginning: Beginning, head: NewHead): Promise<Told<{ code: string }>> {
  return told(async () => {
    const given = beginningSchema.parse(beginning);
    if (given.from === 'file') return { code: await createChannel(readJson(given.text), given.taxonomy) };
    const named = headSchema.parse(head);
    const full = { ...named, code: await freeCode(named.name), effective: today() };
    if (given.from === 'copy') {
      const { sheet } = await channelOf(given.of);
      const taxonomy = (await taxonomyOf(given.of, sheet.version)) ?? '';
      const copy = { ...sheet, code: full.code, name: full.name, version: 1, effective: full.effective };
      return { code: await createChannel(copy, taxonomy) };
    }
    if (given.from === 'schema')
      return { code: await createChannel(sheetFromJsonSchema(full, given.text), '') };
    const [headings = [], ...rows] = readPastedRows(given.text);
    return { code: await createChannel(sheetFromHeadings(full, headings, rows), '') };
  });
}

/** Opens a further version; from a file where one is given. @returns its number */
export async function openVersionOf(
  channel: string,
  file?: { text: string; taxonomy: string | undefined },
): Promise<Told<{ version: number }>> {
  return told(async () => {
    const given = file && {
      sheet: readJson(longText.parse(file.text)),
      taxonomy: longText.optional().parse(file.taxonomy),
    };
    return { version: await openNextVersion(code.parse(channel), today(), given) };
  });
}

export async function saveSheet(
  channel: string,
  revision: number,
  sheet: unknown,
  taxonomy: string,
): Promise<SheetResult> {
  return saveVersion(code.parse(channel), z.number().int().parse(revision), sheet, longText.parse(taxonomy));
}

/** The same for a sheet written as JSON text. */
export async function saveSheetText(
  channel: string,
  revision: number,
  text: string,
  taxonomy: string,
): Promise<SheetResult> {
  const read = await told(async () => ({ sheet: readJson(longText.parse(text)) }));
  return read.ok ? saveSheet(channel, revision, read.sheet, taxonomy) : read;
}

export async function takeOn(channel: string, revision: number): Promise<Told<object>> {
  return told(async () => {
    await takeOnVersion(code.parse(channel), z.number().int().parse(revision));
    return {};
  });
}

export async function drop(channel: string): Promise<Told<object>> {
  return told(async () => {
    await dropVersion(code.parse(channel));
    return {};
  });
}
