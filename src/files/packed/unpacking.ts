import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { InputError } from '../../core/errors/inputError';
import { isArchive } from '../../core/import/encoding/decode';
import { beginningOf, withPacked } from './archives';

const isGzip = (begin: Uint8Array): boolean => begin[0] === 0x1f && begin[1] === 0x8b;

/**
 * Bytes as they come, or what is packed in them where they begin as gzip does (RFC 1952), piece by piece.
 * @throws InputError where what is packed breaks off or is damaged
 */
export async function* unpacked(body: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const chunks = body[Symbol.asyncIterator]();
  try {
    let begin: Uint8Array = new Uint8Array();
    while (begin.length < 2) {
      const next = await chunks.next();
      if (next.done) break;
      begin = Buffer.concat([begin, next.value]);
    }
    async function* complete() {
      yield begin;
      for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
    }
    if (!isGzip(begin)) return yield* complete();
    const gunzip = createGunzip();
    const fed = pipeline(complete, gunzip);
    // Whoever takes no more of it says why by itself.
    fed.catch(() => undefined);
    try {
      yield* gunzip as AsyncIterable<Uint8Array>;
      await fed;
    } catch (error) {
      const { code = '', message } = error as NodeJS.ErrnoException;
      throw code.startsWith('Z_') ? new InputError('packedBroken', { why: message }) : error;
    }
  } finally {
    // Whoever stops early takes no more of it.
    await chunks.return?.();
  }
}

/**
 * Does something with a file as it is, or with what is packed in it (gzip, or one file in a ZIP archive), which lies beside for as
 * long as that takes.
 * @throws InputError where what is packed cannot be unpacked
 */
export async function withPlainFile<T>(path: string, work: (path: string) => Promise<T>): Promise<T> {
  const begin = await beginningOf(path);
  if (!isGzip(begin) && !isArchive(begin)) return work(path);
  const folder = await mkdtemp(join(tmpdir(), 'lively-unpacked-'));
  try {
    const write = async (bytes: AsyncIterable<Uint8Array>, name: string): Promise<string> => {
      const beside = join(folder, name);
      await pipeline(unpacked(bytes), createWriteStream(beside));
      return beside;
    };
    const plain = isGzip(begin) ? await write(createReadStream(path), 'plain') : path;
    return await work((await withPacked(plain, (bytes) => write(bytes, 'inside'))) ?? plain);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
