import { Readable } from 'node:stream';
import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { wholeFile } from '@/server/feeds/feedFile';
import { tryFeed } from '@/server/feeds/work';

/** The file of a feed as it would leave now: to look at, or to upload by hand where nothing takes it by itself. */
export const GET = route(
  { right: 'look', what: 'save a feed’s file', params: z.object({ feed: part }) },
  async ({ params: { feed } }) => {
    const { work, failed } = await tryFeed(feed);
    if (failed) return refuse(failed.words, 409);
    if (!work) return refuse('There is no such feed.', 404);
    const { mediaType, name, pieces } = await wholeFile(work);
    return new Response(Readable.toWeb(Readable.from(pieces)) as ReadableStream, {
      headers: { 'content-type': mediaType, 'content-disposition': `attachment; filename="${name}"` },
    });
  },
);
