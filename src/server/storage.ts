import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { settings } from './settings';

/**
 * Files that were made, kept by their content: equal ones are one. Whatever process asks finds them, as long as the folder is
 * shared; a store of another kind would take the place of these three functions.
 */
export interface KeptFile {
  /** SHA-256 of its bytes, in hexadecimal digits. */
  readonly hash: string;
  readonly bytes: number;
}

/** Where a kept file lies; for readers that want a path. */
export const pathOfKept = (hash: string): string => {
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('This is no name of a kept file.');
  return join(settings.dataFolder, 'made', hash.slice(0, 2), hash);
};

/** Keeps a file as it comes, piece by piece. It stands under its name only once it is whole. */
export async function keepFile(pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<KeptFile> {
  const folder = join(settings.dataFolder, 'made');
  await mkdir(folder, { recursive: true });
  const half = join(folder, `.${randomUUID()}`);
  const hash = createHash('sha256');
  let bytes = 0;
  try {
    await pipeline(
      Readable.from(pieces),
      async function* (given: AsyncIterable<Uint8Array>) {
        for await (const piece of given) {
          hash.update(piece);
          bytes += piece.length;
          yield piece;
        }
      },
      createWriteStream(half),
    );
    const kept = { hash: hash.digest('hex'), bytes };
    const place = pathOfKept(kept.hash);
    await mkdir(join(place, '..'), { recursive: true });
    await rename(half, place);
    return kept;
  } finally {
    await rm(half, { force: true });
  }
}

/** A kept file's bytes, as a stream. @param range first and last byte, both counted */
export const openKept = (hash: string, range?: { start: number; end: number }) =>
  createReadStream(pathOfKept(hash), range);
