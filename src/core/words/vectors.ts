import { singulars } from './wordNet';

/** Steps to each side of nothing that a value is kept in: half a byte each. */
const steps = 7;
/** Values of a vector of length 1 that are larger than this are kept as this: of a hundred, two or three. */
const MAX_SIZE = 0.26;

/** A vector of length 1 as it is shipped: half a byte a value, two in a byte. @param vector of an even length */
export function packVector(vector: ArrayLike<number>): Uint8Array {
  const half = (at: number) =>
    8 + Math.max(-steps, Math.min(steps, Math.round(((vector[at] ?? 0) / MAX_SIZE) * steps)));
  return Uint8Array.from({ length: vector.length / 2 }, (_, at) => (half(2 * at) << 4) | half(2 * at + 1));
}

/** Of words that are written all the time, the ones up to this share of a text count as good as nothing (Arora and others, ICLR 2017). */
const usualShare = 1e-3;

/**
 * Where English words stand to each other: vectors learned from how words are used (GloVe), as `scripts/vectors.ts` packs
 * them: a line of words, the most frequent first, then the vector of each.
 */
export class WordVectors {
  private readonly at = new Map<string, number>();
  private readonly bytes: Uint8Array;
  private readonly length: number;

  constructor(packed: Uint8Array) {
    const end = packed.indexOf(10);
    const words = new TextDecoder().decode(packed.subarray(0, end)).split(' ');
    for (const [at, word] of words.entries()) this.at.set(word, at);
    this.bytes = packed.subarray(end + 1);
    this.length = this.bytes.length / words.length;
  }

  /** A word's vector, of length 1. */
  of(word: string): Float32Array | undefined {
    const at = this.at.get(word);
    if (at === undefined) return undefined;
    const vector = new Float32Array(this.length * 2);
    for (const [byte, both] of this.bytes.subarray(at * this.length, (at + 1) * this.length).entries()) {
      vector[2 * byte] = (both >> 4) - 8;
      vector[2 * byte + 1] = (both & 15) - 8;
    }
    return unit(vector);
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

  /** The direction of a phrase, of length 1: what is written everywhere counts less in it, and a plural as its singular where it is not known. */
  ofPhrase(words: readonly string[]): Float32Array | undefined {
    return this.together(
      words.flatMap((word) => {
        const form = singulars(word).find((one) => this.at.has(one));
        if (form === undefined) return [];
        // By Zipf's law the share of a text that is this word.
        const share = 1 / (((this.at.get(form) ?? 0) + 10) * zipf);
        return [{ word: form, weight: usualShare / (usualShare + share) }];
      }),
    );
  }
}
/** The harmonic sum over some hundred thousand words. */
const zipf = 13;

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
