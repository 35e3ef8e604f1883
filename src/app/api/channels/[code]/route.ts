import { z } from 'zod';
import { number, part, refuse, route } from '@/app/gated';
import { channelVersion, taxonomyOf } from '@/server/channels/channels';

const query = z.object({ version: number, part: z.enum(['sheet', 'tree']).default('sheet') });

/** A version of a channel to keep or to hand on: its sheet as JSON, or its tree as delimited text. */
export const GET = route(
  { right: 'look', what: 'save a sheet', params: z.object({ code: part }), query },
  async ({ params: { code }, query: { version, part: wanted } }) => {
    const tree = wanted === 'tree';
    const body = tree
      ? await taxonomyOf(code, version)
      : await channelVersion(code, version).then((found) => found && JSON.stringify(found.sheet, null, 2));
    if (body === undefined) return refuse('This version does not exist.', 404);
    const name = tree ? `${code}-${version}-tree.csv` : `${code}-${version}.json`;
    return new Response(body, {
      headers: {
        'content-type': tree ? 'text/csv; charset=utf-8' : 'application/json',
        'content-disposition': `attachment; filename="${name}"`,
      },
    });
  },
);
