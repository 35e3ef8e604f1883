import { z } from 'zod';
import { number, refuse, route } from '@/app/gated';
import { findRun, progressOf } from '@/server/import/runs';
/** How far a run is. */
export const GET = route(
  { right: 'look', what: 'view an import run', params: z.object({ run: number }) },
  async ({ params }) => {
    const run = await findRun(params.run);
    return run
      ? Response.json({ state: run.state, ...progressOf(run) })
      : refuse('This import run does not exist.', 404);
  },
);
