import { InputError } from '@/core/formats/inputError';
import { takePicture } from '@/server/catalog/pictures';
import { whoAsks } from '@/server/people/gate';

/** Takes a picture in for an item or a family. Its body is the file itself; whose it is stands in the query. */
export async function POST(request: Request) {
  await whoAsks();
  const origin = request.headers.get('origin');
  if (origin && new URL(origin).host !== request.headers.get('host'))
    return Response.json(
      { error: 'Pictures are taken from this application’s own pages only.' },
      { status: 403 },
    );
  const query = new URL(request.url).searchParams;
  const sku = query.get('sku');
  const family = query.get('family');
  if (!sku && !family) return Response.json({ error: 'Whose picture it is is missing.' }, { status: 400 });
  try {
    const bytes = Buffer.from(await request.arrayBuffer());
    const holder = sku ? { sku } : { family: family ?? '' };
    return Response.json(await takePicture(holder, query.get('name') ?? 'picture', bytes));
  } catch (error) {
    if (error instanceof InputError) return Response.json({ error: error.message }, { status: 400 });
    throw error;
  }
}
