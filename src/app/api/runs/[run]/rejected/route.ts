import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { number, refuse, route } from '@/app/gated';
import { formOf, importMappingSchema } from '@/core/import/mapping/importMapping';
import { readHeadApart } from '@/server/import/reader';
import { findRun } from '@/server/import/runs';
import { listRejections } from '@/server/import/sources';

/** The rejected rows as CSV, with their row numbers and reasons first; formulas cannot start in any cell. */
export const GET = route(
  { right: 'look', what: 'save rejected rows', params: z.object({ run: number }) },
  async ({ params }) => {
    const run = await findRun(params.run);
    if (!run) return refuse('This import run does not exist.', 404);
    const { columns } = await readHeadApart(run.path, formOf(importMappingSchema.parse(run.mapping)));
    const rows = (await listRejections(run.id)).map(({ row, reason, record }) => [
      String(row),
      reason,
      ...record,
    ]);
    return new Response(
      stringify([['row', 'reason', ...columns], ...rows], { escape_formulas: true, bom: true }),
      {
        headers: {
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': 'attachment; filename="rejected.csv"',
        },
      },
    );
  },
);
