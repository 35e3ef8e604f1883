import { open } from 'node:fs/promises';

/** Line ends in some bytes, counted as far as asked for. */
export function linesIn(bytes: Uint8Array, most: number): number {
  let lines = 0;
  for (let at = bytes.indexOf(10); at >= 0 && lines < most; at = bytes.indexOf(10, at + 1)) lines++;
  return lines;
}

/** The beginning of a file, and whether it is all of it. @param bytes at most */
export async function readSample(
  path: string,
  bytes: number,
): Promise<{ sample: Uint8Array; whole: boolean }> {
  const file = await open(path);
  try {
    const buffer = new Uint8Array(bytes);
    const { bytesRead } = await file.read(buffer, 0, bytes, 0);
    return { sample: buffer.subarray(0, bytesRead), whole: (await file.stat()).size <= bytesRead };
  } finally {
    await file.close();
  }
}
