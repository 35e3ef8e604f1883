import { z } from 'zod';
import { part, refuse, route } from '@/app/gated';
import { feedPlans } from '@/server/plans/drafts';

/** The draft plan as a JSON file. */
export const GET = route(
  { right: 'look', what: 'save a plan', params: z.object({ feed: part }) },
  async ({ params }) => {
    const plans = await feedPlans(params.feed);
    if (!plans) return refuse('This feed does not exist.', 404);
    return new Response(`${JSON.stringify(plans.draft, null, 2)}\n`, {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename="${plans.head.code}-plan.json"`,
      },
    });
  },
);
