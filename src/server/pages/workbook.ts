import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { type Attribute, inLanguages } from '../../core/catalog/attributes';
import type { Values } from '../../core/catalog/item';
import { shownText } from '../../core/catalog/reading';
import { asList, asText, codeInLanguage, listSeparator } from '../../core/catalog/value';
import { isUnder } from '../../core/categories/tree';
import type { Field } from '../../core/channels/sheet';
import { needWords } from '../../core/channels/versions';
import { attributesOf } from '../../core/compose/composition';
import { InputError } from '../../core/errors/inputError';
import { counted } from '../../core/formatting/formatting';
import {
  type BroughtRow,
  type RefusedCell,
  readBack,
  refusedBook,
  skusIn,
  type Workbook,
  type WorkbookColumn,
} from '../../core/workbooks/workbook';
import {
  MAX_WORKBOOK_BYTES,
  MAX_WORKBOOK_ROWS,
  readWorkbook,
  writeWorkbook,
} from '../../files/workbooks/workbook';
import { declareLanguages } from '../catalog/attributes';
import { editCells } from '../catalog/itemEdits';
import { currentSnapshot, loadAttributes } from '../catalog/snapshot';
import { db } from '../db/connection';
import { item } from '../db/schema';
import { type FeedContext, loadFeedContext } from '../evaluation/feedContext';
import { filling } from '../fixes/fixes';
import { attributeFor, wordsOf } from '../fixes/lines';
import { listFeeds } from '../plans/drafts';
import { procedure } from '../rpc/rpc';
import { type CheckFilter, matchesFilter } from '../stages/checks';

export interface WorkbookQuery extends CheckFilter {
  /** Of a place in the channel's tree: what is listed there, with all that the channel asks there. */
  readonly place?: string | undefined;
  /** The fields that are columns, by code with commas between; of a place its must fields where left out. */
  readonly fields?: string | undefined;
  /** Items of this source alone, for whoever supplies it. */
  readonly source?: string | undefined;
  /** The texts that are wanted in the feed's language and are not there, beside what they are translated from. */
  readonly translations?: string | undefined;
}

/** What a channel asks of a field, for a heading's note. */
function notesOf({ labelOf }: FeedContext, field: Field): string[] {
  const { least, most, measure = 'characters' } = field.length ?? {};
  return [
    `${labelOf(field.code)}: ${field.meaning}`,
    field.mustWhen && field.need !== 'must' ? 'required for some items' : needWords[field.need],
    ...(least !== undefined || most !== undefined
      ? [
          `${[least !== undefined ? `at least ${least}` : '', most !== undefined ? `at most ${most}` : ''].filter((one) => one !== '').join(', ')} ${measure}`,
        ]
      : []),
    ...(field.pattern ? [field.pattern.words] : []),
    ...(field.choices
      ? [
          `one of: ${field.choices
            .slice(0, 20)
            .map(({ code }) => code)
            .join(', ')}${field.choices.length > 20 ? ' …' : ''}`,
        ]
      : []),
  ];
}

/** The attributes in which what these fields lack belongs, one column each, in the fields' order. */
function columnsOf(work: FeedContext, fields: readonly Field[], places: readonly number[]): WorkbookColumn[] {
  const columns = new Map<string, WorkbookColumn>();
  for (const field of fields) {
    const { draft } = work.plans;
    const attribute =
      field.kind === 'category'
        ? 'category'
        : field.role === 'title' && draft.title
          ? 'name'
          : attributeFor(work, filling(draft, field.code).flatMap(attributesOf), places);
    const definition = work.snapshot.attributes.find(({ code }) => code === attribute);
    if (!definition || attribute === undefined) continue;
    const known = columns.get(attribute);
    columns.set(attribute, {
      attribute,
      label: definition.label,
      notes: [...(known?.notes ?? []), ...notesOf(work, field)],
      choices:
        known?.choices ??
        definition.terms?.map(({ term, label }) => label ?? term) ??
        wordsOf(work, attribute),
    });
  }
  return [...columns.values()];
}

/**
 * The texts of the items that a feed takes, in the main language and in the feed's: those that lack one of them.
 * What a shopper reads counts: names, texts with markup, and what is kept in that language already.
 */
function translationBook(work: FeedContext): Workbook {
  const { draft, snapshot, plans } = work;
  const { language, code: feed } = plans.head;
  const all = inLanguages(snapshot.attributes, [language]);
  const columns = all.flatMap((one): WorkbookColumn[] => {
    const code = codeInLanguage(one.code, language);
    const translated = all.find((other) => other.code === code);
    if (!translated || one.code.includes('@')) return [];
    if (one.code !== 'name' && one.kind !== 'richText' && snapshot.index.slotOf(code) === undefined)
      return [];
    const column = ({ code: attribute, label }: Attribute, note: string): WorkbookColumn => ({
      attribute,
      label,
      notes: [note],
      choices: [],
    });
    return [column(one, 'to be read'), column(translated, 'to fill in')];
  });
  const slots = columns.map(({ attribute }) => snapshot.index.slotOf(attribute) ?? -1);
  const nameSlot = snapshot.index.slotOf('name') ?? -1;
  const { listings } = draft;
  const rows = listings.taken().flatMap((at) => {
    const row = snapshot.rows[at] ?? [];
    const cells = slots.map((slot) => asList(row[slot]).join(` ${listSeparator} `));
    const wanting = cells.some((cell, n) => n % 2 === 0 && cell !== '' && cells[n + 1] === '');
    return wanting ? [{ sku: listings.skuAt(at), name: asText(row[nameSlot]), wrong: '', cells }] : [];
  });
  if (rows.length > MAX_WORKBOOK_ROWS) throw new InputError('workbookTooLong', { most: MAX_WORKBOOK_ROWS });
  return { title: `${feed} translations`, columns, rows };
}

/** The items that a source brought last. */
async function skusOfSource(source: number): Promise<ReadonlySet<string>> {
  const rows = await db.select({ sku: item.sku }).from(item).where(eq(item.sourceId, source));
  return new Set(rows.map(({ sku }) => sku));
}

/** A table of listings, to be mended or filled in in a spreadsheet. Undefined where there is no such feed. */
export const workbookOf = procedure(
  'workbook',
  async (feed: string, query: WorkbookQuery): Promise<Workbook | undefined> => {
    const work = await loadFeedContext(feed);
    if (!work) return undefined;
    if (query.translations !== undefined) return translationBook(work);
    const { draft, snapshot, sheet, wordsOf: sayIssue } = work;
    const { place } = query;
    const categoryAt = sheet.fields.findIndex(({ kind }) => kind === 'category');
    const matches = matchesFilter(work, query);
    const ofSource = query.source === undefined ? undefined : await skusOfSource(Number(query.source));
    const chosen = query.fields === undefined ? undefined : new Set(query.fields.split(','));
    const { listings } = draft;
    const places = listings.positions((at) => {
      if (listings.isLeftOut(at) || (ofSource && !ofSource.has(listings.skuAt(at)))) return false;
      if (place !== undefined)
        return isUnder(draft.compiled.tree, asText(listings.valueAt(at, categoryAt)), place);
      const shown = query.fix !== undefined || query.show === 'ready' || listings.stateAt(at) === 'blocked';
      return shown && matches(at);
    });
    if (places.length > MAX_WORKBOOK_ROWS)
      throw new InputError('workbookTooLong', { most: MAX_WORKBOOK_ROWS });
    const failing = new Set(
      places.flatMap((at) =>
        listings
          .issuesAt(at)
          .flatMap(({ severity, field, check }) =>
            severity === 'blocker' || query.fix === `${check}:${field}` ? [field] : [],
          ),
      ),
    );
    const fields = sheet.fields.filter(
      ({ code, need, role, kind }) =>
        role !== 'id' &&
        kind !== 'category' &&
        (chosen ? chosen.has(code) : failing.has(code) || (place !== undefined && need === 'must')),
    );
    const withCategory = sheet.fields.filter(
      ({ kind, code }) => kind === 'category' && (chosen ?? failing).has(code),
    );
    const columns = columnsOf(work, [...withCategory, ...fields], places);
    const definitions = columns.map(({ attribute }) =>
      snapshot.attributes.find(({ code }) => code === attribute),
    );
    const slots = columns.map(({ attribute }) => snapshot.index.slotOf(attribute) ?? -1);
    const nameSlot = snapshot.index.slotOf('name') ?? -1;
    return {
      title: `${feed} ${place ?? query.fix ?? 'issues'}`,
      columns,
      rows: places.map((at) => ({
        sku: snapshot.skus[at] ?? '',
        name: asText(snapshot.rows[at]?.[nameSlot]),
        wrong: listings
          .issuesAt(at)
          .filter(({ severity }) => severity === 'blocker')
          .map(sayIssue)
          .join('\n'),
        cells: slots.map((slot, n) => {
          const definition = definitions[n];
          return definition ? shownText(definition, snapshot.rows[at]?.[slot]) : '';
        }),
      })),
    };
  },
);

/** The values of items as the catalog has them, their family's below their own. Those that are not there are left out. */
const valuesOf = procedure(
  'valuesOfItems',
  async (skus: readonly string[], codes: readonly string[]): Promise<[string, Values][]> => {
    const snapshot = await currentSnapshot();
    const slots = codes.map((code) => [code, snapshot.index.slotOf(code) ?? -1] as const);
    return skus.flatMap((sku): [string, Values][] => {
      const at = snapshot.positionOf(sku);
      const row = at === undefined ? undefined : snapshot.rows[at];
      if (!row) return [];
      return [
        [
          sku,
          Object.fromEntries(
            slots.flatMap(([code, slot]) => (row[slot] === undefined ? [] : [[code, row[slot]]])),
          ),
        ],
      ];
    });
  },
);

/** What became of a table that was brought back. */
export interface WorkbookReport {
  readonly words: string;
  /** The edit, to be taken back; undefined where nothing was changed. */
  readonly edit: number | undefined;
  readonly refused: readonly RefusedCell[];
  readonly refusedCount: number;
  readonly ignored: readonly string[];
  readonly emptied: number;
  /** The refused rows with their reasons, as an Excel file in base 64. */
  readonly file: string | undefined;
}

/** Refused cells that a page shows; all of them are in the file. */
const MAX_SHOWN = 100;

/** The rows of an uploaded table, which is on disk only as long as it is read. */
async function rowsOfUpload(body: ReadableStream<Uint8Array>): Promise<BroughtRow[]> {
  const folder = await mkdtemp(join(tmpdir(), 'lively-workbook-'));
  try {
    const path = join(folder, 'table');
    await pipeline(
      Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]),
      async function* (pieces: AsyncIterable<Uint8Array>) {
        let bytes = 0;
        for await (const piece of pieces) {
          bytes += piece.length;
          if (bytes > MAX_WORKBOOK_BYTES)
            throw new InputError('workbookTooLong', { most: MAX_WORKBOOK_ROWS });
          yield piece;
        }
      },
      createWriteStream(path),
    );
    return await readWorkbook(path);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * Takes a table that was mended in a spreadsheet: each cell that differs from what the item has, as if it were typed. What cannot
 * be taken is told with its row and reason, and comes back in a file; the rest is taken as one edit that can be undone.
 * @throws InputError where the table cannot be read
 */
export async function importWorkbook(body: ReadableStream<Uint8Array>): Promise<WorkbookReport> {
  const rows = await rowsOfUpload(body);
  const feeds = await listFeeds();
  // A language that nothing is written in yet may be the one that is brought.
  const attributes = inLanguages(
    await loadAttributes(),
    feeds.map(({ language }) => language),
  );
  const known = new Map(
    await valuesOf(
      skusIn(rows),
      attributes.map(({ code }) => code),
    ),
  );
  const nameOf = (sku: string) => asText(known.get(sku)?.name);
  const { cells, refused, ignored, emptied, items } = readBack(rows, attributes, (sku) => known.get(sku));
  if (cells.length > 0)
    await db.transaction((tx) =>
      declareLanguages(
        tx,
        cells.map(({ attribute }) => attribute),
      ),
    );
  const done = cells.length > 0 ? await editCells(cells) : undefined;
  const columns = [...new Map(refused.map(({ attribute, label }) => [attribute, label]))].flatMap(
    ([attribute, label]): WorkbookColumn[] =>
      attribute === '' ? [] : [{ attribute, label, notes: [], choices: [] }],
  );
  return {
    words: done ? done.words : `Read ${counted(items, 'item')}; nothing differs from the catalog`,
    edit: done?.id,
    refused: refused.slice(0, MAX_SHOWN),
    refusedCount: refused.length,
    ignored,
    emptied,
    file:
      refused.length === 0
        ? undefined
        : Buffer.from(await writeWorkbook(refusedBook('Not accepted', refused, columns, nameOf))).toString(
            'base64',
          ),
  };
}
