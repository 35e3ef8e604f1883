export interface FetchedFile {
  readonly text: string;
  readonly etag: string;
}

/** The merchant's address did not answer: it is tried again later. */
export class NotFetched extends Error {}

/** Fetches a merchant's file as a careful channel does: packed, and held against its checksum. @throws where it is not whole */
export async function fetchFile(address: string): Promise<FetchedFile> {
  let answer: Response;
  let bytes: Buffer;
  try {
    answer = await fetch(address, {
      headers: { 'accept-encoding': 'gzip' },
      signal: AbortSignal.timeout(15_000),
    });
    bytes = Buffer.from(await answer.arrayBuffer());
  } catch (error) {
    throw new NotFetched(`the address cannot be fetched: ${error instanceof Error ? error.message : error}`);
  }
  if (!answer.ok) throw new NotFetched(`the address answered ${answer.status}`);
  const stated = /sha-256=:([^:]+):/.exec(answer.headers.get('x-file-digest') ?? '')?.[1];
  if (stated) {
    const { createHash } = await import('node:crypto');
    if (createHash('sha256').update(bytes).digest('base64') !== stated)
      throw new Error('the file is not what its checksum says');
  }
  return { text: bytes.toString('utf8'), etag: answer.headers.get('etag') ?? '' };
}
