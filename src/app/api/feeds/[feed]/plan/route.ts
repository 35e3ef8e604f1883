import { feedPlans } from '@/server/feeds/drafts';
import { whoAsks } from '@/server/people/gate';

/** The draft plan as a JSON file. */
export async function GET(_request: Request, { params }: { params: Promise<{ feed: string }> }) {
  await whoAsks();
  const { feed } = await params;
  const plans = await feedPlans(feed);
  if (!plans) return Response.json({ error: 'There is no such feed.' }, { status: 404 });
  return new Response(`${JSON.stringify(plans.draft, null, 2)}\n`, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename="${plans.head.code}-plan.json"`,
    },
  });
}
