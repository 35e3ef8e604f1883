import { z } from 'zod';
import { queryItems } from '@/server/catalog/items';
import { whoAsks } from '@/server/people/gate';

const querySchema = z.object({
  columns: z.string().transform((text) => text.split(',').slice(0, 60)),
  q: z.string().default(''),
  sort: z.string().default(''),
  descending: z.enum(['1', '0']).default('0'),
  from: z.coerce.number().int().min(0).default(0),
  count: z.coerce.number().int().min(1).max(500).default(100),
  filters: z
    .string()
    .default('{}')
    .transform((text) => z.record(z.string(), z.string()).parse(JSON.parse(text))),
});

export async function GET(request: Request) {
  await whoAsks();
  const parsed = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!parsed.success) return Response.json({ error: 'The query is not valid.' }, { status: 400 });
  const { columns, q, sort, descending, from, count, filters } = parsed.data;
  return Response.json(
    await queryItems({ columns, search: q, filters, sort, descending: descending === '1', from, count }),
  );
}
