import { stringify } from 'csv-stringify/sync';
import { itemQuerySchema } from '@/app/itemQuery';
import { writeSheet } from '@/files/sheets';
import { exportRows } from '@/server/catalog/items';
import { whoAsks } from '@/server/people/gate';

/** What the grid shows, all of it, as CSV or as a workbook. */
export async function GET(request: Request) {
  await whoAsks();
  const given = Object.fromEntries(new URL(request.url).searchParams);
  const query = itemQuerySchema.safeParse(given);
  if (!query.success) return Response.json({ error: 'The query is not valid.' }, { status: 400 });
  const { headings, rows } = await exportRows(query.data);
  const answer = (body: string | Uint8Array<ArrayBuffer>, type: string, name: string) =>
    new Response(body, {
      headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` },
    });
  if (given.format === 'xlsx')
    return answer(
      await writeSheet('Items', headings, rows),
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'items.xlsx',
    );
  return answer(
    stringify([headings, ...rows], { escape_formulas: true, bom: true }),
    'text/csv; charset=utf-8',
    'items.csv',
  );
}
