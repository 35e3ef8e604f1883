import { z } from 'zod';
import { number, refuse, route } from '@/app/gated';
import { findSubmission, submissionFile, submissionFormat } from '@/server/submissions/delivery';

/** The very file that was sent. */
export const GET = route(
  { right: 'look', what: 'save a sent file', params: z.object({ id: number }) },
  async ({ params: { id } }) => {
    if (!(await findSubmission(id))) return refuse('There is no such submission.', 404);
    const { mediaType, ending } = await submissionFormat(id);
    return new Response(await submissionFile(id), {
      headers: {
        'content-type': mediaType,
        'content-disposition': `attachment; filename="submission-${id}.${ending}"`,
      },
    });
  },
);
