import { z } from 'zod';
import { route } from '@/app/gated';
import { findAnything } from '@/server/pages/search';

export const GET = route(
  { right: 'look', what: 'find', query: z.object({ q: z.string().default('') }) },
  async ({ query }) => Response.json(await findAnything(query.q.slice(0, 200))),
);
