import { whoAsks } from '@/server/people/gate';
import { findRun, progressOf } from '@/server/sources/sources';

/** How far a run is. */
export async function GET(_request: Request, { params }: { params: Promise<{ run: string }> }) {
  await whoAsks();
  const run = await findRun(Number((await params).run));
  if (!run) return Response.json({ error: 'There is no such run.' }, { status: 404 });
  return Response.json({ state: run.state, ...progressOf(run) });
}
