import { and, eq, gt, isNotNull, lte } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { type ImportLimits, importAlarmText } from '../../core/import/importReview';
import { nextDue, type Schedule, scheduleTrouble } from '../../core/schedule/schedule';
import { currentUser, recordActivity } from '../auth/authorize';
import { readWorkspace } from '../catalog/workspace';
import { db } from '../db/connection';
import { run, source } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { guardAddress } from '../net/address';
import { fetchOutside } from '../net/fetching';
import { notify } from '../notifications/notifications';
import { startRun } from './runs';
import { countChosen, takeFile } from './sources';

/** Time for a whole file, its last byte included, and its size. */
const limits = { seconds: 600, bytes: 2 * 1024 ** 3 };

export interface AddressSettings {
  readonly address: string | null;
  readonly schedule: Schedule | null;
  readonly automatic: boolean;
  /** From where on an automatic import is held for review; the usual limits where left out. */
  readonly limits?: ImportLimits | undefined;
}

/** Sets where a source is fetched from and when. */
export async function setAddress(id: number, given: AddressSettings): Promise<void> {
  const person = await currentUser();
  if (given.address) await guardAddress(given.address);
  const trouble = given.schedule && scheduleTrouble(given.schedule);
  if (trouble) throw new InputError('scheduleRefused', { words: trouble });
  const { zone } = await readWorkspace();
  const [done] = await db
    .update(source)
    .set({
      ...given,
      limits: given.limits ?? null,
      etag: null,
      fetchWords: null,
      fetchAt: given.address && given.schedule ? nextDue(given.schedule, zone, new Date()) : null,
    })
    .where(eq(source.id, id));
  if (done.affectedRows === 0) throw new InputError('noSource');
  await recordActivity(person, 'changed the address of a source', given.address ?? 'none');
}

/** Makes a source of an address and fetches it at once. */
export async function addAddress(address: string): Promise<number> {
  await guardAddress(address);
  const name = address.split(/[?#]/)[0]?.split('/').at(-1) || address;
  return db.transaction(async (tx) => {
    const [made] = await tx
      .insert(source)
      .values({
        name: name.replace(/\.[^.]+$/, '').slice(0, 200),
        address,
        mapping: null,
        createdAt: new Date(),
      })
      .$returningId();
    await enqueue(tx, 'fetchSource', { source: made?.id ?? 0 });
    return made?.id ?? 0;
  });
}

/** Fetches a source's address at once. @throws InputError where it has none */
export async function fetchNow(id: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [found] = await tx.select({ address: source.address }).from(source).where(eq(source.id, id));
    if (!found?.address) throw new InputError('sourceWithoutAddress');
    await enqueue(tx, 'fetchSource', { source: id });
  });
}

/** Puts the sources that are due on the queue, each once; any number of workers may ask at the same time. */
export async function enqueueDue(now: Date): Promise<void> {
  const { zone } = await readWorkspace();
  // A clock that was put back leaves times too far ahead: they are counted anew.
  for (const one of await db.select().from(source).where(gt(source.fetchAt, now))) {
    const next = one.schedule && nextDue(one.schedule, zone, now, { since: one.createdAt });
    if (next && one.fetchAt && next < one.fetchAt)
      await db
        .update(source)
        .set({ fetchAt: next })
        .where(and(eq(source.id, one.id), eq(source.fetchAt, one.fetchAt)));
  }
  await db.transaction(async (tx) => {
    const due = await tx
      .select()
      .from(source)
      .where(and(isNotNull(source.address), lte(source.fetchAt, now)))
      .for('update', { skipLocked: true });
    for (const one of due) {
      await tx
        .update(source)
        .set({ fetchAt: one.schedule ? nextDue(one.schedule, zone, now, { since: one.createdAt }) : null })
        .where(eq(source.id, one.id));
      await enqueue(tx, 'fetchSource', { source: one.id });
    }
  });
}

/**
 * Fetches a source's address where it has changed since (RFC 9110: ETag and If-None-Match) and checks what came.
 * @throws InputError where the answer is no file that can be used
 */
export async function fetchSource(id: number): Promise<void> {
  const [found] = await db.select().from(source).where(eq(source.id, id));
  if (!found?.address) return;
  const answer = await fetchOutside(found.address, {
    ...limits,
    headers: found.etag ? { 'if-none-match': found.etag } : {},
  });
  const say = (fetchWords: string, etag = found.etag) =>
    db.update(source).set({ fetchedAt: new Date(), fetchWords, etag }).where(eq(source.id, id));
  if (answer.status === 304) {
    await say('no change at its address');
    return;
  }
  if (!answer.ok) {
    const refused = new InputError('addressAnswered', { status: answer.status });
    // What passes by itself is tried again.
    throw answer.status >= 500 || answer.status === 429 ? new Error(refused.message) : refused;
  }
  const runId = await takeFile(fileNameOf(answer.url), answer.body, id);
  await say('fetched', answer.header('etag')?.slice(0, 200) ?? null);
  const [made] = await db.select().from(run).where(eq(run.id, runId));
  if (made?.mapping.fields[made.mapping.key]) await startRun(runId, 'check');
}

/** The name a file has at its address. */
function fileNameOf({ pathname, hostname }: URL): string {
  const name = pathname.split('/').at(-1) || hostname;
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}

export async function failFetch(id: number, error: string): Promise<void> {
  await db.transaction(async (tx) => {
    const words = error.slice(0, 300);
    await tx.update(source).set({ fetchedAt: new Date(), fetchWords: words }).where(eq(source.id, id));
    const [found] = await tx.select({ name: source.name }).from(source).where(eq(source.id, id));
    await notify(tx, 'sourceFailed', null, { source: id, name: found?.name ?? String(id), words });
  });
}

/**
 * Brings a checked run in without being asked, where its source says so and it was mapped by a person before. One that is far
 * outside the usual is held for review, and told.
 */
export async function importUnattended(id: number): Promise<void> {
  const [found] = await db
    .select({
      state: run.state,
      alarms: run.alarms,
      automatic: source.automatic,
      mapping: source.mapping,
      source: source.id,
      name: source.name,
    })
    .from(run)
    .innerJoin(source, eq(source.id, run.sourceId))
    .where(eq(run.id, id));
  if (found?.state !== 'checked' || !found.automatic || !found.mapping) return;
  if (found.alarms && found.alarms.length > 0) {
    const { source: from, name, alarms } = found;
    await db.transaction((tx) =>
      notify(tx, 'importHeld', null, { source: from, run: id, name, reasons: alarms.map(importAlarmText) }),
    );
    return;
  }
  const chosen = await countChosen(id);
  if (chosen.new + chosen.changed + chosen.missing > 0) await startRun(id, 'apply');
}
