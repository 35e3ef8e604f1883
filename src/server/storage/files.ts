import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { settings } from '../runtime/settings';

/**
 * Files that were made, kept by their content: equal ones are one. Whatever process asks finds them, as long as the folder is
 * shared; a store of another kind would take the place of the functions of this file.
 */
export interface StoredFile {
  /** SHA-256 of its bytes, in hexadecimal digits. */
  readonly hash: string;
  readonly bytes: number;
}

/** Whether writing failed because no room is left, or no more than a quota allows. */
export const isDiskFull = (error: unknown): boolean =>
  ['ENOSPC', 'EDQUOT'].includes((error as NodeJS.ErrnoException | undefined)?.code ?? '');

/** Where a kept file lies; for readers that want a path. */
export const pathOfStored = (hash: string): string => {
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('This is not the name of a stored file.');
  return join(settings.dataFolder, 'made', hash.slice(0, 2), hash);
};

type FilePieces = AsyncIterable<Uint8Array> | Iterable<Uint8Array>;

/** Writes a file as it comes, piece by piece. */
async function written(path: string, pieces: FilePieces): Promise<StoredFile> {
  await mkdir(dirname(path), { recursive: true });
  const hash = createHash('sha256');
  let bytes = 0;
  await pipeline(
    Readable.from(pieces),
    async function* (given: AsyncIterable<Uint8Array>) {
      for await (const piece of given) {
        hash.update(piece);
        bytes += piece.length;
        yield piece;
      }
    },
    createWriteStream(path),
  );
  return { hash: hash.digest('hex'), bytes };
}

/** Keeps a file as it comes. It stands under its name only once it is whole. */
export async function storeFile(pieces: FilePieces): Promise<StoredFile> {
  const half = join(settings.dataFolder, 'made', `.${randomUUID()}`);
  try {
    const stored = await written(half, pieces);
    const place = pathOfStored(stored.hash);
    await mkdir(dirname(place), { recursive: true });
    await rename(half, place);
    return stored;
  } finally {
    await rm(half, { force: true });
  }
}

/** A kept file's bytes, as a stream. @param range first and last byte, both counted */
export const openStored = (hash: string, range?: { start: number; end: number }) =>
  createReadStream(pathOfStored(hash), range);

/** For so long a file that was made for one reader stays to be fetched, in ms. */
const DOWNLOAD_LIFETIME_MS = 3_600_000;
const pathOfDownload = (name: string): string => {
  if (!/^[0-9a-f-]{36}$/.test(name)) throw new Error('This is not the name of a prepared file.');
  return join(settings.dataFolder, 'lent', name);
};

/** A file that was made for one reader: it is fetched once, soon, and not kept. */
export interface TempDownload {
  readonly name: string;
  readonly bytes: number;
}

/** Makes a file for one reader, as it comes; those that nobody fetched in time go. */
export async function createTempDownload(pieces: FilePieces): Promise<TempDownload> {
  const name = randomUUID();
  const path = pathOfDownload(name);
  try {
    const { bytes } = await written(path, pieces);
    const folder = dirname(path);
    for (const other of await readdir(folder)) {
      const old = join(folder, other);
      const found = await stat(old).catch(() => undefined);
      if (found && Date.now() - found.mtimeMs > DOWNLOAD_LIFETIME_MS) await rm(old, { force: true });
    }
    return { name, bytes };
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
}

/** The bytes of a file that was made for one reader, as a stream; nobody else finds it from here on. */
export async function openTempDownload(name: string) {
  const path = pathOfDownload(name);
  const file = await open(path);
  await rm(path, { force: true });
  return file.createReadStream();
}
