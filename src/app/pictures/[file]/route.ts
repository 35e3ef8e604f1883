import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { smallPicture } from '@/server/pictures/pictures';

/** A kept picture, at most 320 pixels wide: the pages show nothing larger. */
export const GET = route(
  { right: 'look', what: 'show a picture', params: z.object({ file: part }) },
  async ({ params }) => {
    const bytes = await smallPicture(params.file);
    return bytes
      ? new Response(new Uint8Array(bytes), {
          headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=3600' },
        })
      : refuse('This picture does not exist.', 404);
  },
);
