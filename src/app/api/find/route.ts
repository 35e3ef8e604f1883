import { findAnything } from '@/server/find';
import { whoAsks } from '@/server/people/gate';

export async function GET(request: Request) {
  await whoAsks();
  return Response.json(await findAnything((new URL(request.url).searchParams.get('q') ?? '').slice(0, 200)));
}
