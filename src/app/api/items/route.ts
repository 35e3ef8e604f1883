import { itemQuerySchema, windowSchema } from '@/app/itemQuery';
import { queryItems } from '@/server/catalog/items';
import { whoAsks } from '@/server/people/gate';

export async function GET(request: Request) {
  await whoAsks();
  const given = Object.fromEntries(new URL(request.url).searchParams);
  const query = itemQuerySchema.safeParse(given);
  const window = windowSchema.safeParse(given);
  if (!query.success || !window.success)
    return Response.json({ error: 'The query is not valid.' }, { status: 400 });
  return Response.json(await queryItems({ ...query.data, ...window.data }));
}
