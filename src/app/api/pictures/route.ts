import { z } from 'zod';
import { refuse, route } from '@/app/gated';
import { takePicture } from '@/server/pictures/editing';

const query = z.object({
  sku: z.string().min(1).max(190).optional(),
  family: z.string().min(1).max(190).optional(),
  name: z.string().max(300).default('picture'),
});

/** Takes a picture in for an item or a family. Its body is the file itself; whose it is stands in the query. */
export const POST = route(
  { right: 'change', what: 'add a picture', query },
  async ({ request, query: { sku, family, name } }) => {
    const holder = sku !== undefined ? { sku } : family !== undefined ? { family } : undefined;
    if (!holder) return refuse('The item of the picture is missing.', 400);
    if (!request.body) return refuse('The picture is empty. Nothing was changed.', 400);
    return Response.json(await takePicture(holder, name, request.body));
  },
);
