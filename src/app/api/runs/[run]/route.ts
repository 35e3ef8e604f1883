import { whoAsks } from '@/server/people/gate';
import { findRun } from '@/server/sources/sources';

/** How far a run is. */
export async function GET(_request: Request, { params }: { params: Promise<{ run: string }> }) {
  await whoAsks();
  const run = await findRun(Number((await params).run));
  if (!run) return Response.json({ error: 'There is no such run.' }, { status: 404 });
  const { state, counts, bytes, bytesDone, error } = run;
  return Response.json({ state, counts, share: bytes === 0 ? 0 : bytesDone / bytes, error });
}
