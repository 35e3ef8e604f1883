import { InputError } from '@/core/formats/inputError';
import { whoAsks } from '@/server/people/gate';
import { takeFile } from '@/server/sources/sources';

/** Takes a file in. Its body is the file itself, streamed to disk; its name stands in the query. */
export async function POST(request: Request) {
  await whoAsks();
  const origin = request.headers.get('origin');
  if (origin && new URL(origin).host !== request.headers.get('host'))
    return Response.json(
      { error: 'Files are taken from this application’s own pages only.' },
      { status: 403 },
    );
  const query = new URL(request.url).searchParams;
  const name = query.get('name') ?? 'file.csv';
  const source = Number(query.get('source') ?? '') || undefined;
  if (!request.body)
    return Response.json(
      { error: 'The file is empty. Nothing was changed. Choose another file.' },
      { status: 400 },
    );
  try {
    return Response.json({ run: await takeFile(name, request.body, source) });
  } catch (error) {
    if (error instanceof InputError) return Response.json({ error: error.message }, { status: 400 });
    throw error;
  }
}
