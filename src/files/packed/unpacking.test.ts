import { randomBytes } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { unpacked } from './unpacking';

async function* inPieces(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

async function all(body: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  for await (const piece of body) pieces.push(piece);
  return Buffer.concat(pieces);
}

const bytes = Buffer.concat([Buffer.from('SKU,Name\nA,Pot\n'), randomBytes(30_000)]);

test.each([1, 7, 65_536, 1_000_000])('what is packed comes out as it was, in pieces of %d', async (size) => {
  expect((await all(unpacked(inPieces(gzipSync(bytes), size)))).equals(bytes)).toBe(true);
});

test.each<[string, Uint8Array]>([
  ['nothing', new Uint8Array()],
  ['one byte', new Uint8Array([0x1f])],
  ['text', Buffer.from('SKU,Name')],
  ['a workbook’s first bytes', Buffer.from('PK\x03\x04…')],
])('%s passes as it is', async (_name, plain) => {
  expect((await all(unpacked(inPieces(plain, 1)))).equals(plain)).toBe(true);
});

test.each<[string, Uint8Array]>([
  ['broken off', gzipSync(bytes).subarray(0, 5000)],
  ['damaged', Buffer.concat([gzipSync(bytes).subarray(0, 1000), randomBytes(5000)])],
])('what is %s is refused in words', async (_name, packed) => {
  await expect(all(unpacked(inPieces(packed, 512)))).rejects.toMatchObject({ code: 'packedBroken' });
});

test('what its source says comes through, and whoever has enough may stop', async () => {
  async function* breaking() {
    yield gzipSync(bytes).subarray(0, 3000);
    throw new Error('the line is dead');
  }
  await expect(all(unpacked(breaking()))).rejects.toThrow('the line is dead');
  for await (const piece of unpacked(inPieces(gzipSync(bytes), 512))) {
    expect(piece.length).toBeGreaterThan(0);
    break;
  }
});
