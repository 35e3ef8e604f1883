import { channelVersion, taxonomyOf } from '@/server/channels/channels';
import { whoAsks } from '@/server/people/gate';

/** A version of a channel to keep or to hand on: its sheet as JSON, or its tree as delimited text. */
export async function GET(request: Request, { params }: { params: Promise<{ code: string }> }) {
  await whoAsks();
  const { code } = await params;
  const query = new URL(request.url).searchParams;
  const version = Number(query.get('version'));
  if (!Number.isInteger(version) || version < 1)
    return Response.json(
      { error: 'Name the version as a whole number, such as ?version=1.' },
      { status: 400 },
    );
  const tree = query.get('part') === 'tree';
  const body = tree
    ? await taxonomyOf(code, version)
    : await channelVersion(code, version).then((found) => found && JSON.stringify(found.sheet, null, 2));
  if (body === undefined) return Response.json({ error: 'There is no such version.' }, { status: 404 });
  const name = tree ? `${code}-${version}-tree.csv` : `${code}-${version}.json`;
  return new Response(body, {
    headers: {
      'content-type': tree ? 'text/csv; charset=utf-8' : 'application/json',
      'content-disposition': `attachment; filename="${name}"`,
    },
  });
}
