import { route } from '@/app/gated';
import { workInProgress } from '@/server/rpc/rpc';

/** What is being worked out over the whole catalog, and how far it is. */
export const GET = route({ right: 'look', what: 'read progress' }, async () =>
  Response.json(await workInProgress()),
);
