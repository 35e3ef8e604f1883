'use server';
import { z } from 'zod';
import { kindLabels } from '@/core/catalog/attributeKinds';
import { readJson } from '@/core/channels/bundle';
import { sheetFromHeadings, sheetFromJsonSchema } from '@/core/channels/drafting';
import { type Need, sheetSchema } from '@/core/channels/sheet';
import { readPastedRows } from '@/core/formats/pastedRows';
import {
  channelOf,
  createChannel,
  dropVersion,
  freeCode,
  openNextVersion,
  removeChannel,
  saveVersion,
  takeOnVersion,
  taxonomyOf,
} from '@/server/channels/channels';
import { today } from '@/server/runtime/calendarDay';
import { action, done } from './action';
import { code, longText, revision } from './inputs';

const beginning = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('headings'), text: longText }),
  z.strictObject({ from: z.literal('schema'), text: longText }),
  z.strictObject({ from: z.literal('copy'), of: code }),
  z.strictObject({ from: z.literal('file'), text: longText, taxonomy: longText }),
]);
export type Beginning = z.infer<typeof beginning>;

const head = z.strictObject({
  name: z.string().trim().min(1, 'Give the channel a name.').max(100),
  country: z.string().regex(/^[A-Z]{2}$/, 'The country is two capital letters, such as DE.'),
  language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]+)*$/, 'The language is a code such as de.'),
  currency: z.string().regex(/^[A-Z]{3}$/, 'The currency is three capital letters, such as EUR.'),
});
/** A file brings its own name and market. */
const anyHead = z.strictObject({
  name: z.string(),
  country: z.string(),
  language: z.string(),
  currency: z.string(),
});

/** A field as a preview shows it. */
export interface PreviewedField {
  readonly label: string;
  readonly kind: string;
  readonly need: Need;
  /** Values it allows, where the sheet names them. */
  readonly choices: number;
}

const nameless = { code: 'preview', name: 'Preview', country: 'DE', language: 'en', currency: 'EUR' };

/** The fields that a channel would have; nothing is created. */
export const previewChannel = action('look', 'previewed a channel', z.tuple([beginning]), async (given) => {
  const head = { ...nameless, effective: today() };
  const [headings = [], ...rows] = given.from === 'headings' ? readPastedRows(given.text) : [];
  const sheet =
    given.from === 'copy'
      ? (await channelOf(given.of)).sheet
      : given.from === 'file'
        ? sheetSchema.parse(readJson(given.text))
        : given.from === 'schema'
          ? sheetFromJsonSchema(head, given.text)
          : sheetFromHeadings(head, headings, rows);
  return {
    ok: true as const,
    fields: sheet.fields.map(
      ({ label, kind, need, choices }): PreviewedField => ({
        label,
        kind: kindLabels[kind] ?? kind,
        need,
        choices: choices?.length ?? 0,
      }),
    ),
  };
});

/** Makes a channel of the merchant's own. @returns its code */
export const makeOwnChannel = action(
  'change',
  'created a channel',
  z.tuple([beginning, anyHead]),
  async (given, typed) => {
    const created = async (sheet: unknown, taxonomy: string) => ({
      ok: true as const,
      code: await createChannel(sheet, taxonomy),
    });
    if (given.from === 'file') return created(readJson(given.text), given.taxonomy);
    const named = head.parse(typed);
    const full = { ...named, code: await freeCode(named.name), effective: today() };
    if (given.from === 'copy') {
      const { sheet } = await channelOf(given.of);
      const taxonomy = (await taxonomyOf(given.of, sheet.version)) ?? '';
      const copy = { ...sheet, code: full.code, name: full.name, version: 1, effective: full.effective };
      return created(copy, taxonomy);
    }
    if (given.from === 'schema') return created(sheetFromJsonSchema(full, given.text), '');
    const [headings = [], ...rows] = readPastedRows(given.text);
    return created(sheetFromHeadings(full, headings, rows), '');
  },
);

/** Opens a further version; from a file where one is given. @returns its number */
export const openVersionOf = action(
  'change',
  'opened a sheet version',
  z.tuple([code, z.strictObject({ text: longText, taxonomy: longText.optional() }).optional()]),
  async (channel, file) => ({
    ok: true as const,
    version: await openNextVersion(
      channel,
      today(),
      file && { sheet: readJson(file.text), taxonomy: file.taxonomy },
    ),
  }),
);

export const saveSheet = action(
  'change',
  'changed a sheet',
  z.tuple([code, revision, z.unknown(), longText]),
  (channel, at, sheet, taxonomy) => saveVersion(channel, at, sheet, taxonomy),
);

/** The same for a sheet written as JSON text. */
export const saveSheetText = action(
  'change',
  'changed a sheet',
  z.tuple([code, revision, longText, longText]),
  (channel, at, text, taxonomy) => saveVersion(channel, at, readJson(text), taxonomy),
);

export const acceptVersion = action(
  'change',
  'accepted a sheet version',
  z.tuple([code, revision]),
  (channel, at) => done(takeOnVersion(channel, at)),
);

export const dropVersionOf = action('change', 'deleted a sheet version', z.tuple([code]), (channel) =>
  done(dropVersion(channel)),
);

export const deleteChannel = action('change', 'deleted a channel', z.tuple([code]), (channel) =>
  done(removeChannel(channel)),
);
