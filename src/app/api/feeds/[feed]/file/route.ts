import { z } from 'zod';
import { lent, part, refuse, route } from '@/app/gated';
import { feedFile } from '@/server/pages/stages';

/** The file of a feed as it would leave now: to look at, or to upload by hand where nothing takes it by itself. */
export const GET = route(
  { right: 'look', what: 'save a feed’s file', params: z.object({ feed: part }) },
  async ({ params: { feed } }) => {
    const created = await feedFile(feed);
    if (!created) return refuse('This feed does not exist.', 404);
    if ('failed' in created) return refuse(created.failed ?? '', 409);
    return lent(created.file, created.mediaType, created.name);
  },
);
