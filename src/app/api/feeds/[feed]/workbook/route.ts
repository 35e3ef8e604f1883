import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { tableOf } from '@/core/workbooks/workbook';
import { writeWorkbook } from '@/files/workbooks/workbook';
import { importWorkbook, workbookOf } from '@/server/pages/workbook';

const params = z.object({ feed: part });
const text = z.string().max(400).optional();
const query = z.object({
  format: z.enum(['csv', 'xlsx']).default('xlsx'),
  fix: text,
  field: text,
  category: text,
  find: text,
  show: text,
  place: text,
  fields: z.string().max(20_000).optional(),
  source: z
    .string()
    .regex(/^\d{1,9}$/)
    .optional(),
  translations: text,
});

/** Listings as a table to be mended in a spreadsheet: those that the page shows, or those of a place. */
export const GET = route(
  { right: 'look', what: 'save a workbook', params, query },
  async ({ params: { feed }, query: { format, ...asked } }) => {
    const book = await workbookOf(feed, asked);
    if (!book) return refuse('This feed does not exist.', 404);
    const csv = format === 'csv';
    const body = csv
      ? stringify([...tableOf(book)], { escape_formulas: true, bom: true })
      : await writeWorkbook(book);
    return new Response(body, {
      headers: {
        'content-type': csv
          ? 'text/csv; charset=utf-8'
          : 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        'content-disposition': `attachment; filename="${book.title.replace(/[^\w-]+/g, '-')}.${format}"`,
      },
    });
  },
);

/** Takes such a table back. Its body is the file itself. */
export const POST = route({ right: 'change', what: 'import a workbook', params }, async ({ request }) => {
  if (!request.body) return refuse('The file is empty. Nothing was changed. Choose another file.', 400);
  return Response.json(await importWorkbook(request.body));
});
