import { z } from 'zod';
import { lent, route } from '@/app/gated';
import { itemQuerySchema } from '@/server/items/itemQuery';
import { exportItems } from '@/server/items/items';

const mediaTypes = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

/** What the grid shows, all of it, as CSV or as a workbook. */
export const GET = route(
  {
    right: 'look',
    what: 'export items',
    query: itemQuerySchema.and(z.object({ format: z.enum(['csv', 'xlsx']).default('csv') })),
  },
  async ({ query }) =>
    lent(await exportItems(query, query.format), mediaTypes[query.format], `items.${query.format}`),
);
