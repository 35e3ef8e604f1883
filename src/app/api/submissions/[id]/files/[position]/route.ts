import { Readable } from 'node:stream';
import { z } from 'zod';
import { number, refuse, route } from '@/app/gated';
import { openStored } from '@/server/storage/files';
import { submissionFiles } from '@/server/submissions/delivery';
import { findSubmission } from '@/server/submissions/submissions';

/** A file of a submission, as it left. */
export const GET = route(
  { right: 'look', what: 'save a sent file', params: z.object({ id: number, position: number }) },
  async ({ params: { id, position } }) => {
    const found = await findSubmission(id);
    if (!found) return refuse('This submission does not exist.', 404);
    const { format, files, again } = await submissionFiles(id);
    const named = {
      'content-type': format.mediaType,
      'content-disposition': `attachment; filename="${found.feed}-${id}-${position + 1}.${format.ending}"`,
    };
    if (again && position === 0)
      return new Response(Readable.toWeb(Readable.from(again)) as ReadableStream, { headers: named });
    const file = files.find((one) => one.position === position);
    if (!file) return refuse('This submission has no such file.', 404);
    if (file.fileDropped)
      return refuse('This file was deleted at the end of the retention time in Settings.', 410);
    return new Response(Readable.toWeb(openStored(file.file)) as ReadableStream, {
      headers: { ...named, 'content-length': String(file.bytes) },
    });
  },
);
