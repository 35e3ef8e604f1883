import { route } from '@/app/gated';
import { sidebarView } from '@/server/pages/overview';

/** The figures of the sidebar, asked for while they are being counted anew. */
export const GET = route({ right: 'look', what: 'read the figures' }, async () =>
  Response.json(await sidebarView()),
);
