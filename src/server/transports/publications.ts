import { timingSafeEqual } from 'node:crypto';
import { and, desc, eq, sql } from 'drizzle-orm';
import { formats } from '../../files/formats';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { destination, feed, publication } from '../db/schema';
import type { OutBatch } from './transport';

/** How many published files of a feed are kept. */
const keptPublications = 10;

/** Puts a file in the place where the channel fetches the feed. Doing it twice changes nothing. */
export async function publish(code: string, batch: OutBatch): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.select().from(feed).where(eq(feed.code, code)).for('update');
    const [last] = await tx
      .select()
      .from(publication)
      .where(eq(publication.feed, code))
      .orderBy(desc(publication.number))
      .limit(1);
    if (last?.submissionId === batch.submission) return;
    const number = (last?.number ?? 0) + 1;
    await tx.insert(publication).values({
      feed: code,
      number,
      submissionId: batch.submission,
      file: batch.file,
      bytes: batch.bytes,
      count: batch.count,
      at: new Date(),
    });
    await tx
      .delete(publication)
      .where(and(eq(publication.feed, code), sql`${publication.number} <= ${number - keptPublications}`));
  });
}

export interface Published {
  readonly file: string;
  readonly bytes: number;
  readonly count: number;
  readonly at: Date;
  readonly mediaType: string;
  readonly name: string;
}

/** The file a channel gets at a feed's address with this token; undefined where the token is not the feed's, or nothing is published. */
export async function publishedFile(code: string, token: string): Promise<Published | undefined> {
  const [place] = await db.select().from(destination).where(eq(destination.feed, code));
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  const [mine, given] = [Buffer.from(place?.token ?? ''), Buffer.from(token)];
  if (!head || mine.length === 0 || mine.length !== given.length || !timingSafeEqual(mine, given))
    return undefined;
  const [last] = await db
    .select()
    .from(publication)
    .where(eq(publication.feed, code))
    .orderBy(desc(publication.number))
    .limit(1);
  if (!last) return undefined;
  const { mediaType, ending } = formats[(await channelOf(head.channel)).sheet.delivery.format];
  const { file, bytes, count, at } = last;
  return { file, bytes, count, at, mediaType, name: `${code}.${ending}` };
}
