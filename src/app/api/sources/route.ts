import { z } from 'zod';
import { number, refuse, route } from '@/app/gated';
import { takeFile } from '@/server/import/sources';

const query = z.object({ name: z.string().min(1).max(300).default('file.csv'), source: number.optional() });

/** Takes a file in. Its body is the file itself, streamed to disk; its name stands in the query. */
export const POST = route(
  { right: 'change', what: 'upload a file', query },
  async ({ request, query: { name, source } }) => {
    if (!request.body) return refuse('The file is empty. Nothing was changed. Choose another file.', 400);
    return Response.json({ run: await takeFile(name, request.body, source) });
  },
);
