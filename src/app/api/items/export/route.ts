import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { route } from '@/app/gated';
import { writeSheet } from '@/files/sheets';
import { itemQuerySchema } from '@/server/catalog/itemQuery';
import { exportRows } from '@/server/catalog/items';

const answer = (body: string | Uint8Array<ArrayBuffer>, type: string, name: string) =>
  new Response(body, {
    headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` },
  });

/** What the grid shows, all of it, as CSV or as a workbook. */
export const GET = route(
  {
    right: 'look',
    what: 'export items',
    query: itemQuerySchema.and(z.object({ format: z.enum(['csv', 'xlsx']).default('csv') })),
  },
  async ({ query }) => {
    const { headings, rows } = await exportRows(query);
    return query.format === 'xlsx'
      ? answer(
          await writeSheet('Items', headings, rows),
          'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
          'items.xlsx',
        )
      : answer(
          stringify([headings, ...rows], { escape_formulas: true, bom: true }),
          'text/csv; charset=utf-8',
          'items.csv',
        );
  },
);
