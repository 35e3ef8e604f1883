import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { waitForFixes } from '@/server/stages/checks';

/** Answers when what a Checks page shows is worked out. */
export const GET = route(
  {
    right: 'look',
    what: 'wait for fixes',
    params: z.object({ feed: part }),
    query: z.object({ fix: z.string().max(400).optional() }),
  },
  async ({ params: { feed }, query: { fix } }) =>
    (await waitForFixes(feed, fix)) ? Response.json({}) : refuse('This feed does not exist.', 404),
);
