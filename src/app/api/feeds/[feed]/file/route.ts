import { Readable } from 'node:stream';
import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { madeFile } from '@/server/feeds/stagePages';
import { openKept } from '@/server/storage';

/** The file of a feed as it would leave now: to look at, or to upload by hand where nothing takes it by itself. */
export const GET = route(
  { right: 'look', what: 'save a feed’s file', params: z.object({ feed: part }) },
  async ({ params: { feed } }) => {
    const made = await madeFile(feed);
    if (!made) return refuse('There is no such feed.', 404);
    if ('failed' in made) return refuse(made.failed ?? '', 409);
    const { mediaType, name, kept } = made;
    return new Response(Readable.toWeb(openKept(kept.hash)) as ReadableStream, {
      headers: {
        'content-type': mediaType,
        'content-length': String(kept.bytes),
        'content-disposition': `attachment; filename="${name}"`,
      },
    });
  },
);
