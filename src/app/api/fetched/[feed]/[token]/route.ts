import { z } from 'zod';
import { part, route } from '@/app/gated';
import { answerFetch } from '@/server/transports/publicationFile';

/** Where a channel fetches a feed's file: whoever knows the token may. */
export const GET = route(
  {
    right: 'look',
    what: 'fetch a feed’s file',
    params: z.object({ feed: part, token: z.string().max(100) }),
  },
  ({ request, params: { feed, token } }) => answerFetch(feed, token, request),
);
