import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { waitForFixes } from '@/server/stages/checks';

/** Answers when what a Checks page shows is worked out. */
export const GET = route(
  {
    right: 'look',
    what: 'wait for remedies',
    params: z.object({ feed: part }),
    query: z.object({ remedy: z.string().max(400).optional() }),
  },
  async ({ params: { feed }, query: { remedy } }) =>
    (await waitForFixes(feed, remedy)) ? Response.json({}) : refuse('There is no such feed.', 404),
);
