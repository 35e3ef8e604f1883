import { Readable } from 'node:stream';
import { openStored } from '../storage/files';
import { publishedFile } from './publications';

/** The bytes a Range header asks for (RFC 9110, 14.2), one range alone; undefined for all of them, null where there are none such. */
export function rangeOf(
  header: string | null,
  size: number,
): { start: number; end: number } | null | undefined {
  const found = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!found || (found[1] === '' && found[2] === '')) return undefined;
  const [from, to] = [found[1] ?? '', found[2] ?? ''];
  const start = from === '' ? Math.max(0, size - Number(to)) : Number(from);
  const end = from === '' || to === '' ? size - 1 : Math.min(Number(to), size - 1);
  return start <= end && start < size ? { start, end } : null;
}

/**
 * Answers a channel that fetches a feed's file: with its checksum, count and validators (RFC 9110), in part where it asks for a
 * part. The web server packs it where the channel takes gzip; its validator is a weak one then. What is read stays the same to
 * its end, whatever is published meanwhile.
 */
export async function answerFetch(code: string, token: string, request: Request): Promise<Response> {
  const found = await publishedFile(code, token);
  if (!found) return Response.json({ error: 'There is no file at this address.' }, { status: 404 });
  const packed =
    /\bgzip\b(?!\s*;\s*q=0(\.0*)?\s*(,|$))/.test(request.headers.get('accept-encoding') ?? '') &&
    request.headers.get('range') === null;
  const etag = `"${found.file}"`;
  const digest = `sha-256=:${Buffer.from(found.file, 'hex').toString('base64')}:`;
  const headers: Record<string, string> = {
    'content-type': found.mediaType,
    'content-disposition': `attachment; filename="${found.name}"`,
    etag: packed ? `W/${etag}` : etag,
    'last-modified': found.at.toUTCString(),
    'cache-control': 'private, no-cache',
    vary: 'accept-encoding',
    ...(packed ? {} : { 'repr-digest': digest }),
    // Of the file itself, however it is packed on its way.
    'x-file-digest': digest,
    'x-listings': String(found.count),
    'accept-ranges': 'bytes',
  };
  const requested = request.headers.get('if-none-match');
  const since = Date.parse(request.headers.get('if-modified-since') ?? '');
  const unchanged =
    requested !== null
      ? requested === '*' || requested.split(',').some((one) => one.trim().replace(/^W\//, '') === etag)
      : Number.isFinite(since) && Math.floor(found.at.getTime() / 1000) * 1000 <= since;
  if (unchanged) return new Response(null, { status: 304, headers });
  const head = request.method === 'HEAD';
  const body = (stream: Readable) => (head ? null : (Readable.toWeb(stream) as ReadableStream));
  const conditional = request.headers.get('if-range');
  const range =
    conditional === null || conditional === etag
      ? rangeOf(request.headers.get('range'), found.bytes)
      : undefined;
  if (range === null)
    return new Response(null, { status: 416, headers: { 'content-range': `bytes */${found.bytes}` } });
  if (range) {
    headers['content-range'] = `bytes ${range.start}-${range.end}/${found.bytes}`;
    headers['content-length'] = String(range.end - range.start + 1);
    return new Response(head ? null : body(openStored(found.file, range)), { status: 206, headers });
  }
  if (!packed) headers['content-length'] = String(found.bytes);
  return new Response(head ? null : body(openStored(found.file)), { headers });
}
