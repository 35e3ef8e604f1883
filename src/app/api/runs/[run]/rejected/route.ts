import { stringify } from 'csv-stringify/sync';
import { formOf, importMappingSchema } from '@/core/intake/mapping';
import { readHead } from '@/files/reading';
import { whoAsks } from '@/server/people/gate';
import { findRun, listRejections } from '@/server/sources/sources';

/** The rejected rows as CSV, with their row numbers and reasons first; formulas cannot start in any cell. */
export async function GET(_request: Request, { params }: { params: Promise<{ run: string }> }) {
  await whoAsks();
  const id = Number((await params).run);
  const run = await findRun(id);
  if (!run) return Response.json({ error: 'There is no such run.' }, { status: 404 });
  const { columns } = await readHead(run.path, formOf(importMappingSchema.parse(run.mapping)));
  const rows = (await listRejections(id)).map(({ row, reason, record }) => [String(row), reason, ...record]);
  return new Response(
    stringify([['row', 'reason', ...columns], ...rows], { escape_formulas: true, bom: true }),
    {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="rejected.csv"',
      },
    },
  );
}
