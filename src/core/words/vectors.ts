/**
 * Where English words stand to each other: vectors learned from how words are used (GloVe), as `scripts/vectors.ts` packs
 * them: a line of words, then a signed byte for each dimension of each.
 */
export class WordVectors {
  private readonly at = new Map<string, number>();
  private readonly bytes: Int8Array;
  private readonly dimensions: number;

  constructor(packed: Uint8Array) {
    const end = packed.indexOf(10);
    const words = new TextDecoder().decode(packed.subarray(0, end)).split(' ');
    for (const [at, word] of words.entries()) this.at.set(word, at);
    this.bytes = new Int8Array(packed.buffer, packed.byteOffset + end + 1, packed.length - end - 1);
    this.dimensions = this.bytes.length / words.length;
  }

  /** A word's vector, of length 1. */
  of(word: string): Float32Array | undefined {
    const at = this.at.get(word);
    if (at === undefined) return undefined;
    return unit(Float32Array.from(this.bytes.subarray(at * this.dimensions, (at + 1) * this.dimensions)));
  }

  /** The direction of several words together, of length 1. */
  together(words: readonly { word: string; weight: number }[]): Float32Array | undefined {
    return summed(
      words.flatMap(({ word, weight }) => {
        const vector = this.of(word);
        return vector ? [{ vector, weight }] : [];
      }),
    );
  }
}

/** Vectors added by their weights, of length 1. */
export function summed(parts: readonly { vector: Float32Array; weight: number }[]): Float32Array | undefined {
  const [first] = parts;
  if (!first) return undefined;
  const sum = new Float32Array(first.vector.length);
  for (const { vector, weight } of parts)
    for (let at = 0; at < sum.length; at++) sum[at] = (sum[at] ?? 0) + weight * (vector[at] ?? 0);
  return unit(sum);
}

function unit(vector: Float32Array): Float32Array {
  const length = Math.hypot(...vector) || 1;
  return vector.map((value) => value / length);
}

/** The cosine of two vectors of length 1. */
export function cosine(one: Float32Array, other: Float32Array): number {
  let sum = 0;
  for (let at = 0; at < one.length; at++) sum += (one[at] ?? 0) * (other[at] ?? 0);
  return sum;
}
