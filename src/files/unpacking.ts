import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { InputError } from '../core/errors/inputError';

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
    async function* whole() {
      yield begin;
      for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
    }
    if (begin[0] !== 0x1f || begin[1] !== 0x8b) return yield* whole();
    const gunzip = createGunzip();
    const fed = pipeline(whole, gunzip);
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
