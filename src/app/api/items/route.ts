import { route } from '@/app/gated';
import { itemQuerySchema, windowSchema } from '@/server/items/itemQuery';
import { queryItems } from '@/server/items/items';

export const GET = route(
  { right: 'look', what: 'list items', query: itemQuerySchema.and(windowSchema) },
  async ({ query }) => Response.json(await queryItems(query)),
);
