import { randomUUID } from 'node:crypto';
import { and, asc, eq, gt, isNotNull, not, or, type SQL } from 'drizzle-orm';
import type { Sheet } from '../../core/channels/sheet';
import { transportFacts } from '../../core/channels/transports';
import { extraOf, type FeedHead, type FeedRow } from '../../core/formats/format';
import { feedPieces } from '../../files/formats';
import { readBack } from '../../files/readBack';
import { merchantName } from '../catalog/workspace';
import { db } from '../db/connection';
import { batch, submissionEntry } from '../db/schema';
import type { Work } from '../jobs/queue';
import { BATCH_ROWS } from '../ledger/ledger';
import { pathOfStored, storeFile } from '../storage/files';
import { destinationView } from '../transports/destinations';
import type { SubmissionRow } from './transition';

type EntryRow = typeof submissionEntry.$inferSelect;

/** What a feed's file says of itself. */
export const fileHead = async (
  head: { readonly code: string; readonly channel: string; readonly country: string },
  sheet: Sheet,
  created: Date,
): Promise<FeedHead> => ({
  id: `urn:lively-cart:feed:${head.code}`,
  title: `${sheet.name} ${head.country}`,
  author: await merchantName(),
  ...(transportFacts[sheet.delivery.manner].published ? { self: (await destinationView(head)).fetchAt } : {}),
  updated: created.toISOString(),
});

export const batchesOf = (id: number) =>
  db.select().from(batch).where(eq(batch.submissionId, id)).orderBy(batch.position);

const inBatch = (id: number, position: number) =>
  and(eq(submissionEntry.submissionId, id), eq(submissionEntry.batch, position));

/** The entries of a batch in their order, read a few at a time: a file may hold a whole catalog. */
async function* entriesIn(id: number, position: number): AsyncGenerator<EntryRow> {
  let after: SQL | undefined;
  for (;;) {
    const part = await db
      .select()
      .from(submissionEntry)
      .where(and(inBatch(id, position), after))
      .orderBy(asc(submissionEntry.position), asc(submissionEntry.sku))
      .limit(BATCH_ROWS);
    yield* part;
    const last = part.at(-1);
    if (!last) return;
    // Older entries all have position 0, so the SKU is part of the key.
    after = or(
      gt(submissionEntry.position, last.position),
      and(eq(submissionEntry.position, last.position), gt(submissionEntry.sku, last.sku)),
    );
  }
}

/** Whether any entry of a batch is so. */
async function holds(id: number, position: number, what: SQL): Promise<boolean> {
  const [found] = await db
    .select({ sku: submissionEntry.sku })
    .from(submissionEntry)
    .where(and(inBatch(id, position), what))
    .limit(1);
  return found !== undefined;
}

/** What the channel knows a listing by that one call takes back. */
async function callFor(id: number, position: number): Promise<string> {
  const [found] = await db
    .select({ ref: submissionEntry.ref })
    .from(submissionEntry)
    .where(inBatch(id, position))
    .limit(1);
  return found?.ref ?? '';
}

/** Whether a batch is a call that takes a listing back, and no file. */
export const takesBack = async (sheet: Sheet, id: number, position: number): Promise<boolean> =>
  sheet.delivery.removal === 'call' && !(await holds(id, position, isNotNull(submissionEntry.digest)));

/** A sheet of the fields that may be sent by themselves, with the key; what a row is for need not be said. */
function quickSheet(sheet: Sheet): Sheet {
  const alone = new Set(sheet.delivery.quick?.fields);
  return {
    ...sheet,
    fields: sheet.fields.filter(({ role, code }) => role === 'id' || alone.has(code)),
    delivery: { ...sheet.delivery, removal: 'absence', families: 'singles' },
  };
}

/** An entry as a row of a file; what is taken back stands there only where a row says so. */
export function rowOfEntry(
  sheet: Sheet,
): (entry: Pick<EntryRow, 'digest' | 'values' | 'ref' | 'relation'>) => FeedRow | undefined {
  const byRow = sheet.delivery.removal === 'row';
  const id = sheet.fields.findIndex(({ role }) => role === 'id');
  return ({ digest, values, ref, relation }) => {
    if (digest !== null)
      return {
        values: sheet.fields.map(({ code }) => values[code]),
        extra: extraOf(sheet, { removal: false, relation: relation ?? undefined }),
        relation: relation ?? undefined,
      };
    return byRow
      ? {
          values: sheet.fields.map((_, at) => (at === id ? ref : undefined)),
          extra: extraOf(sheet, { removal: true }),
        }
      : undefined;
  };
}

/** The rows of a batch's file, as they are read. */
async function* rowsIn(sheet: Sheet, id: number, position: number): AsyncGenerator<FeedRow> {
  const rowOf = rowOfEntry(sheet);
  for await (const entry of entriesIn(id, position)) {
    const row = rowOf(entry);
    if (row) yield row;
  }
}

/**
 * Rebuilds the file of a submission from before files were stored, from its listings.
 * @returns undefined where its listings are not stored any more
 */
export async function rebuildFile(
  found: SubmissionRow,
  head: { code: string; channel: string; country: string },
  sheet: Sheet,
) {
  const [entry] = await db
    .select({ sku: submissionEntry.sku })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, found.id))
    .limit(1);
  return entry && feedPieces(sheet, await fileHead(head, sheet, found.createdAt), rowsIn(sheet, found.id, 0));
}

/**
 * Makes the files of a submission from what was written down, keeps them by their content, and reads each back before it may
 * leave. Going on after a death makes what is still missing.
 */
export async function writeFiles(
  found: SubmissionRow,
  head: { code: string; channel: string; country: string },
  sheet: Sheet,
  work: Work,
) {
  const there = new Set((await batchesOf(found.id)).map(({ position }) => position));
  const wanted = await db
    .selectDistinct({ batch: submissionEntry.batch })
    .from(submissionEntry)
    .where(eq(submissionEntry.submissionId, found.id))
    .orderBy(submissionEntry.batch);
  for (const [done, { batch: position }] of wanted.entries()) {
    if (there.has(position)) continue;
    const byCalls = await takesBack(sheet, found.id, position);
    const quick = !(await holds(found.id, position, not(submissionEntry.quick)));
    const written = quick ? quickSheet(sheet) : sheet;
    const rows = () => rowsIn(written, found.id, position);
    const stored = await storeFile(
      byCalls
        ? [Buffer.from(await callFor(found.id, position))]
        : feedPieces(written, await fileHead(head, sheet, found.createdAt), rows()),
    );
    const listings = byCalls ? 1 : await readBack(written, pathOfStored(stored.hash), rows());
    await db.transaction(async (tx) => {
      await work.hold(tx);
      await tx.insert(batch).ignore().values({
        submissionId: found.id,
        position,
        state: 'checked',
        count: listings,
        quick,
        file: stored.hash,
        bytes: stored.bytes,
        key: randomUUID(),
        sentAt: new Date(),
      });
    });
    await work.progress((done + 1) / wanted.length / 2);
  }
}
