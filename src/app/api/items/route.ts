import { route } from '@/app/gated';
import { itemQuerySchema, windowSchema } from '@/server/catalog/itemQuery';
import { queryItems } from '@/server/catalog/items';

export const GET = route(
  { right: 'look', what: 'list items', query: itemQuerySchema.and(windowSchema) },
  async ({ query }) => Response.json(await queryItems(query)),
);
