import { whoAsks } from '@/server/people/gate';
import { submissionFile } from '@/server/submissions/delivery';

/** The very file that was sent. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }) {
  await whoAsks();
  const { id } = await params;
  return new Response(await submissionFile(Number(id)), {
    headers: {
      'content-type': 'application/atom+xml; charset=utf-8',
      'content-disposition': `attachment; filename="submission-${Number(id)}.xml"`,
    },
  });
}
