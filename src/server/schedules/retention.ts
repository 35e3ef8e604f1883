import { rm } from 'node:fs/promises';
import { and, eq, inArray, isNotNull, lt, notInArray, sql } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { type Retention, retentionSchema } from '../../core/forms/retention';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { batch, publication, run, submission, submissionEntry, workspace } from '../db/schema';
import { deleteOldNotifications } from '../notifications/notifications';
import { deleteOldCalls } from '../notifications/webhooks';
import { pathOfStored } from '../storage/files';

/** What was dropped because it had been kept as long as it was to be. */
export interface Dropped {
  readonly files: number;
  readonly entries: number;
  readonly uploads: number;
  readonly notices: number;
  readonly calls: number;
}

export async function readRetention(): Promise<Retention> {
  const [row] = await db.select({ retention: workspace.retention }).from(workspace);
  return row?.retention ?? retentionSchema.parse({});
}

export async function saveRetention(given: Retention): Promise<void> {
  const person = await currentUser();
  const [done] = await db.update(workspace).set({ retention: retentionSchema.parse(given) });
  if (done.affectedRows === 0) throw new InputError('noWorkspace');
  await recordActivity(person, 'changed the retention', JSON.stringify(given));
}

const BATCH_ROWS = 5000;
const ended = ['answered', 'failed', 'stopped'] as const;

/** Files of submissions that ended before a moment, unless a younger one or a published file is the same. */
async function dropFiles(before: Date): Promise<number> {
  const old = await db
    .selectDistinct({ file: batch.file })
    .from(batch)
    .innerJoin(submission, eq(submission.id, batch.submissionId))
    .where(
      and(
        inArray(submission.state, [...ended]),
        lt(submission.createdAt, before),
        eq(batch.fileDropped, false),
      ),
    )
    .limit(BATCH_ROWS);
  const files = old.map(({ file }) => file);
  if (files.length === 0) return 0;
  const younger = await db
    .selectDistinct({ file: batch.file })
    .from(batch)
    .innerJoin(submission, eq(submission.id, batch.submissionId))
    .where(
      and(
        inArray(batch.file, files),
        sql`(${submission.createdAt} >= ${before} or ${notInArray(submission.state, [...ended])})`,
      ),
    );
  const published = await db
    .selectDistinct({ file: publication.file })
    .from(publication)
    .where(inArray(publication.file, files));
  const wanted = new Set([...younger, ...published].map(({ file }) => file));
  const gone = files.filter((file) => !wanted.has(file));
  // The row says first that there is no file any more, so that none is looked for that is not there.
  if (gone.length > 0) await db.update(batch).set({ fileDropped: true }).where(inArray(batch.file, gone));
  for (const file of gone) await rm(pathOfStored(file), { force: true });
  return gone.length;
}

/** Listings of submissions that ended before a moment; what came of them in numbers stays. */
async function dropEntries(before: Date): Promise<number> {
  const old = await db
    .select({ id: submission.id })
    .from(submission)
    .where(
      and(
        inArray(submission.state, [...ended]),
        lt(submission.createdAt, before),
        sql`exists (select 1 from ${submissionEntry} where ${submissionEntry.submissionId} = ${submission.id})`,
      ),
    )
    .limit(200);
  let count = 0;
  for (const { id } of old) {
    const [done] = await db.delete(submissionEntry).where(eq(submissionEntry.submissionId, id));
    count += done.affectedRows;
  }
  return count;
}

/** Files that were brought in before a moment; what they brought stays, and taking them back needs them not. */
async function dropUploads(before: Date): Promise<number> {
  const old = await db
    .select({ id: run.id, path: run.path })
    .from(run)
    .where(
      and(
        inArray(run.state, ['done', 'undone', 'failed']),
        isNotNull(run.finishedAt),
        lt(run.finishedAt, before),
        sql`${run.path} <> ''`,
      ),
    )
    .limit(BATCH_ROWS);
  for (const { id, path } of old) {
    await db.update(run).set({ path: '' }).where(eq(run.id, id));
    await rm(path, { force: true });
  }
  return old.length;
}

/** Drops what has been kept as long as it was to be; the next time goes on where this one came to. @returns how much of each */
export async function dropOld(now: Date): Promise<Dropped> {
  const stored = await readRetention();
  const before = (days: number) => new Date(now.getTime() - days * 86_400_000);
  const dropped = {
    files: await dropFiles(before(stored.files)),
    entries: await dropEntries(before(stored.entries)),
    uploads: await dropUploads(before(stored.uploads)),
    notices: await deleteOldNotifications(before(stored.notices)),
    calls: await deleteOldCalls(before(stored.calls)),
  };
  const stated = Object.entries(dropped).flatMap(([what, count]) => (count > 0 ? [`${count} ${what}`] : []));
  if (stated.length > 0)
    await recordActivity(await currentUser(), 'deleted data past its retention', stated.join(', '));
  return dropped;
}
