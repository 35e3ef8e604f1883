import { randomUUID } from 'node:crypto';
import { and, eq } from 'drizzle-orm';
import type { Sheet } from '../../core/channels/sheet';
import { extraOf, type FeedHead, type FeedRow } from '../../core/formats/format';
import { feedPieces } from '../../files/formats';
import { readBack } from '../../files/readBack';
import { db } from '../db/connection';
import { batch, submissionEntry } from '../db/schema';
import type { Work } from '../jobs/queue';
import { keepFile, pathOfKept } from '../storage';
import { merchantName } from '../workspace';
import { destinationView } from './destinations';
import type { SubmissionRow } from './submissions';

type EntryRow = typeof submissionEntry.$inferSelect;

/** What a feed's file says of itself. */
export const fileHead = async (
  head: { readonly code: string; readonly channel: string; readonly country: string },
  sheet: Sheet,
  made: Date,
): Promise<FeedHead> => ({
  id: `urn:lively-cart:feed:${head.code}`,
  title: `${sheet.name} ${head.country}`,
  author: await merchantName(),
  ...(sheet.delivery.manner === 'fetched' ? { self: (await destinationView(head)).fetchAt } : {}),
  updated: made.toISOString(),
});

export const batchesOf = (id: number) =>
  db.select().from(batch).where(eq(batch.submissionId, id)).orderBy(batch.position);

export const entriesIn = (id: number, position: number) =>
  db
    .select()
    .from(submissionEntry)
    .where(and(eq(submissionEntry.submissionId, id), eq(submissionEntry.batch, position)))
    .orderBy(submissionEntry.position);

/** Whether a batch is a call that takes a listing back, and no file. */
export const takesBack = (sheet: Sheet, entries: readonly EntryRow[]): boolean =>
  sheet.delivery.removal === 'call' && entries.every(({ digest }) => digest === null);

/** A sheet of the fields that may be sent by themselves, with the key; what a row is for need not be said. */
function quickSheet(sheet: Sheet): Sheet {
  const alone = new Set(sheet.delivery.quick?.fields);
  return {
    ...sheet,
    fields: sheet.fields.filter(({ role, code }) => role === 'id' || alone.has(code)),
    delivery: { ...sheet.delivery, removal: 'absence', families: 'singles' },
  };
}

/** Entries as rows of a file; what is taken back stands there only where a row says so. */
export function rowsOf(
  sheet: Sheet,
  entries: readonly Pick<EntryRow, 'digest' | 'values' | 'ref' | 'relation'>[],
): FeedRow[] {
  const byRow = sheet.delivery.removal === 'row';
  const id = sheet.fields.findIndex(({ role }) => role === 'id');
  return entries.flatMap(({ digest, values, ref, relation }): FeedRow[] => {
    if (digest !== null)
      return [
        {
          values: sheet.fields.map(({ code }) => values[code]),
          extra: extraOf(sheet, { removal: false, relation: relation ?? undefined }),
          relation: relation ?? undefined,
        },
      ];
    return byRow
      ? [
          {
            values: sheet.fields.map((_, at) => (at === id ? ref : undefined)),
            extra: extraOf(sheet, { removal: true }),
          },
        ]
      : [];
  });
}

/**
 * Makes the files of a submission from what was written down, keeps them by their content, and reads each back before it may
 * leave. Going on after a death makes what is still missing.
 */
export async function makeFiles(
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
    const entries = await entriesIn(found.id, position);
    const byCalls = takesBack(sheet, entries);
    const quick = entries.length > 0 && entries.every((entry) => entry.quick);
    const written = quick ? quickSheet(sheet) : sheet;
    const rows = byCalls ? [] : rowsOf(written, entries);
    const kept = await keepFile(
      byCalls
        ? [Buffer.from(entries[0]?.ref ?? '')]
        : feedPieces(written, await fileHead(head, sheet, found.createdAt), rows),
    );
    if (!byCalls) await readBack(written, pathOfKept(kept.hash), rows);
    await db.transaction(async (tx) => {
      await work.hold(tx);
      await tx
        .insert(batch)
        .ignore()
        .values({
          submissionId: found.id,
          position,
          state: 'checked',
          count: byCalls ? entries.length : rows.length,
          quick,
          file: kept.hash,
          bytes: kept.bytes,
          key: randomUUID(),
          sentAt: new Date(),
        });
    });
    await work.progress((done + 1) / wanted.length / 2);
  }
}
